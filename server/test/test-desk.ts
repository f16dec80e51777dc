import type { Hono } from 'hono';
import { createClock } from '../src/clock';
import { refreshBoards } from '../src/boards';
import { LiveFeed } from '../src/events';
import { createApp } from '../src/app/app';
import type { Services } from '../src/http/context';
import { JobQueue } from '../src/jobs';
import { createLog } from '../src/log';
import { inThisThread } from '../src/work';
import { DeskClient } from './desk-client';
import { staleBoards } from './stale-boards';
import { TestDatabase } from './test-database';

export { RawBody, seenOf } from './desk-client';

/** So many requests. */
const REFRESH_AFTER = 3;

export const TODAY = '2027-03-09'; // a Tuesday
afterAll(() => TestDatabase.dropSpare());

/** A server on a database of its own, without a port: requests go straight to the application. */
export class TestDesk extends DeskClient {
  private constructor(
    readonly app: Hono,
    readonly services: Services,
    private readonly database: TestDatabase,
    readonly feed: LiveFeed,
    /** What the server logged as an error, a line each. */
    readonly faults: string[],
    /** Computes what boards show of all that is touched, over a connection of its own. */
    private readonly refresh: () => Promise<void>,
    private readonly end: () => Promise<void>,
  ) {
    super(database.db);
  }

  /** The database, as the application's own role. */
  get url(): string {
    return this.database.url;
  }

  /** Every statement that was sent to the database, the bounds of transactions among them. */
  get statements(): string[] {
    return this.database.statements;
  }

  /** Sends a statement as whoever owns the database. */
  asOwner(text: string): Promise<void> {
    return this.database.asOwner(text);
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
    const database = await TestDatabase.take();
    const { db, url } = database;
    const faults: string[] = [];
    const log = createLog(process.env['NOCK_LOG'] ?? 'warn', { write: (line) => faults.push(line) });
    const feed = new LiveFeed(url, log);
    const refresh = () => database.beside.transaction().execute((trx) => refreshBoards(trx, services.clock()));
    // Jobs are put into the queue; nobody works on them but a test that says so.
    const services = {
      db,
      clock: createClock(today),
      log,
      jobs: new JobQueue(url, log),
      work: inThisThread,
      databaseUrl: url,
      publicUrl: 'http://desk.example',
      secureCookies: true,
      trustedProxies: [],
    };
    const desk = new TestDesk(createApp(services, feed), services, database, feed, faults, refresh, async () => {
      const stale = await staleBoards(db, services.clock());
      const outOfOrder = [...new Set(database.outOfOrder)];
      await feed.close();
      await database.giveBack();
      if (stale.length > 0) throw new Error(`boards are not what the book says:\n${stale.join('\n')}`);
      if (outOfOrder.length > 0) throw new Error(`locks were taken out of their order: ${outOfOrder.join('; ')}`);
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
