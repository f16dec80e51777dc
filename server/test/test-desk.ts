import { randomBytes } from 'node:crypto';
import type { Hono } from 'hono';
import pg from 'pg';
import { createClock } from '../src/clock';
import { refreshBoards } from '../src/boards';
import { connect, type Db } from '../src/database';
import { LiveFeed } from '../src/events';
import { createApp } from '../src/app/app';
import type { Services } from '../src/http/context';
import { JobQueue } from '../src/jobs';
import { createLog } from '../src/log';
import { inThisThread } from '../src/work';
import { DeskClient } from './desk-client';
import { LockGuard } from './lock-guard';
import { staleBoards } from './stale-boards';
import { standingTemplate } from './standing';

export { RawBody, seenOf } from './desk-client';

/** So many requests. */
const REFRESH_AFTER = 3;

export const TODAY = '2027-03-09'; // a Tuesday
/** A server on a database of its own, without a port: requests go straight to the application. */
export class TestDesk extends DeskClient {
  private constructor(
    readonly app: Hono,
    readonly services: Services,
    db: Db,
    readonly feed: LiveFeed,
    /** The database, as the application's own role. */
    readonly url: string,
    /** What the server logged as an error, a line each. */
    readonly faults: string[],
    /** Every statement that was sent to the database, the bounds of transactions among them. */
    readonly statements: string[],
    /** Computes what boards show of all that is touched, over a connection of its own. */
    private readonly refresh: () => Promise<void>,
    private readonly end: () => Promise<void>,
  ) {
    super(db);
  }
  private acts = 0;
  private refreshing = false;

  /** As the server does now and then: what an act leaves no mark of stays wrong, and shows at the end. */
  protected override async answered(): Promise<void> {
    if (++this.acts % REFRESH_AFTER !== 0 || this.refreshing) return;
    this.refreshing = true;
    await this.refresh().finally(() => (this.refreshing = false));
  }

  static async open(today = TODAY): Promise<TestDesk> {
    const cluster = process.env['NOCK_TEST_CLUSTER'];
    if (!cluster) throw new Error('NOCK_TEST_CLUSTER is not set; npm test starts a cluster and sets it');
    const name = `test_${randomBytes(6).toString('hex')}`;
    const admin = new pg.Client({ connectionString: cluster });
    await admin.connect();
    await admin.query(`create database ${name} template ${await standingTemplate(admin, cluster)}`);
    const url = new URL(cluster);
    url.pathname = `/${name}`;
    // Everything else is done as the application's own role, with its rights and no more.
    url.searchParams.set('options', '-c role=nock_app -c jit=off');
    const { db, pool } = connect(url.href, 20);
    const faults: string[] = [];
    const statements: string[] = [];
    const outOfOrder: string[] = [];
    pool.on('connect', (client) => {
      const guard = new LockGuard((fault) => outOfOrder.push(fault));
      const query = client.query.bind(client) as (...all: unknown[]) => unknown;
      const told = (first: unknown, ...rest: unknown[]) => {
        const text = typeof first === 'string' ? first : ((first as { text?: string }).text ?? '');
        statements.push(text);
        guard.see(text, Array.isArray(rest[0]) ? rest[0] : ((first as { values?: unknown[] }).values ?? []));
        return query(first, ...rest);
      };
      client.query = told as never;
    });
    const log = createLog(process.env['NOCK_LOG'] ?? 'warn', { write: (line) => faults.push(line) });
    const feed = new LiveFeed(url.href, log);
    const beside = connect(url.href, 1);
    const refresh = () => beside.db.transaction().execute((trx) => refreshBoards(trx, services.clock()));
    // Jobs are put into the queue; nobody works on them but a test that says so.
    const services = {
      db,
      clock: createClock(today),
      log,
      jobs: new JobQueue(url.href, log),
      work: inThisThread,
      databaseUrl: url.href,
      publicUrl: 'http://desk.example',
      secureCookies: true,
      trustedProxies: [],
    };
    const desk = new TestDesk(createApp(services, feed), services, db, feed, url.href, faults, statements, refresh, async () => {
      const stale = await staleBoards(db, services.clock());
      await feed.close();
      await Promise.all([pool.end(), beside.pool.end()]);
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
      if (stale.length > 0) throw new Error(`boards are not what the book says:\n${stale.join('\n')}`);
      if (outOfOrder.length > 0) throw new Error(`locks were taken out of their order: ${[...new Set(outOfOrder)].join('; ')}`);
    });
    await refresh();
    return desk;
  }

  close(): Promise<void> {
    return this.end();
  }

  protected fetch(path: string, init: RequestInit): Promise<Response> {
    return Promise.resolve(this.app.request(path, init));
  }

  protected override lastFault(): string {
    return this.faults.at(-1) ?? '';
  }
}
