import { CompiledQuery } from 'kysely';
import pg from 'pg';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import { QUEUE_SCHEMA, type QueueName, type Trx } from '../database';
import { outageOf } from '../http/outage';

/** Puts slow work where it waits to be done; it is there when the transaction commits, and only then. */
export interface Jobs {
  readonly send: (trx: Trx, queue: QueueName, data: object) => Promise<void>;
}

/** What a worker is told besides what to do: whether this is the last try. */
export type Worker = (data: unknown, last: boolean) => Promise<void>;

const POLL_SECONDS = 1;
const CONNECT_MS = 5_000;
const PAUSE_MS = 1_000;
const STOP_MS = 5_000;

/**
 * The job queue, in PostgreSQL: a job outlives the server that took it, and of several servers one does it. A worker that
 * throws has its job tried again later.
 */
export class JobQueue implements Jobs {
  private readonly pool: pg.Pool;
  private readonly boss: PgBoss;
  private isOpen = false;

  constructor(
    url: string,
    private readonly log: Logger,
  ) {
    this.pool = new pg.Pool({ connectionString: url, max: 3, connectionTimeoutMillis: CONNECT_MS, application_name: 'nockwright jobs' });
    // Without a listener a dropped idle connection would end the process; the next query reports it.
    this.pool.on('error', () => undefined);
    const db = { executeSql: (text: string, values: unknown[]) => this.query(text, values) };
    this.boss = new PgBoss({ db, schema: QUEUE_SCHEMA, migrate: false, schedule: false });
    this.boss.on('error', (error) => log.error({ error }, 'job queue'));
  }

  async open(workers: Readonly<Partial<Record<QueueName, Worker>>>): Promise<void> {
    await this.boss.start();
    this.isOpen = true;
    for (const [queue, worker] of Object.entries(workers) as [QueueName, Worker][])
      await this.boss.work(queue, { includeMetadata: true, batchSize: 1, pollingIntervalSeconds: POLL_SECONDS }, async ([job]) => {
        if (job) await worker(job.data, job.retryCount >= job.retryLimit);
      });
  }

  async send(trx: Trx, queue: QueueName, data: object): Promise<void> {
    const db = {
      executeSql: async (text: string, values: unknown[]) => {
        const { rows } = await trx.executeQuery(CompiledQuery.raw(text, values));
        return { rows: rows as unknown[], rowCount: rows.length };
      },
    };
    const id = await this.boss.send(queue, data, { db });
    if (id === null) throw new Error(`no job was made in queue ${queue}`);
  }

  async close(): Promise<void> {
    this.isOpen = false;
    await this.boss.stop({ graceful: true, wait: true, timeout: STOP_MS });
    await this.pool.end();
  }

  /**
   * A statement of the queue. While the database is away it waits: the queue notes the end of a job without anybody waiting
   * for it, so that an error there would reach nobody, and the job would count as being done until it expires.
   */
  private async query(text: string, values: unknown[]): Promise<{ rows: unknown[]; rowCount: number }> {
    for (;;) {
      try {
        const { rows, rowCount } = await this.pool.query<pg.QueryResultRow>(text, values);
        return { rows, rowCount: rowCount ?? 0 };
      } catch (error) {
        if (!this.isOpen || outageOf(error) === null) throw error;
        this.log.warn({ error: (error as Error).message }, 'the job queue waits for the database');
        await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
      }
    }
  }
}
