import { CompiledQuery } from 'kysely';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Trx } from '../database';
import { QUEUE_SCHEMA, type QueueName } from './queues';

/** Puts slow work where it waits to be done; it is there when the transaction commits, and only then. */
export interface Jobs {
  readonly send: (trx: Trx, queue: QueueName, data: object) => Promise<void>;
}

/** What a worker is told besides what to do: whether this is the last try. */
export type Worker = (data: unknown, last: boolean) => Promise<void>;

const POLL_SECONDS = 1;

/**
 * The job queue, in PostgreSQL: a job outlives the server that took it, and of several servers one does it. A worker that
 * throws has its job tried again later.
 */
export class JobQueue implements Jobs {
  private readonly boss: PgBoss;

  constructor(url: string, log: Logger) {
    this.boss = new PgBoss({ connectionString: url, schema: QUEUE_SCHEMA, migrate: false, schedule: false, max: 3, application_name: 'nockwright jobs' });
    this.boss.on('error', (error) => log.error({ error }, 'job queue'));
  }

  async open(workers: Readonly<Record<QueueName, Worker>>): Promise<void> {
    await this.boss.start();
    for (const [queue, worker] of Object.entries(workers))
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
    await this.boss.stop({ graceful: true, wait: true, timeout: 5_000 });
  }
}
