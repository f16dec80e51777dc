import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { connect, type Db } from '../src/database';
import { LockGuard } from './lock-guard';
import { standingTemplate } from './standing';

/** What its statements change the shape of, or whose session they end, is not used again. */
const CHANGES_SHAPE = /^\s*(?:alter|create|drop|truncate|grant|revoke)\b/i;

/**
 * A database of a test's own, with what stands before anything is sold, and how the application reaches it. One that a
 * test of this file is done with is put back to what stood, and given to the next: a new one costs half a second, and
 * starts with every statement to be planned.
 */
export class TestDatabase {
  private static readonly spare: TestDatabase[] = [];
  private static over = false;

  /** Every statement that was sent, the bounds of transactions among them; since it was taken. */
  statements: string[] = [];
  /** Where locks were taken out of their one order. */
  outOfOrder: string[] = [];

  private constructor(
    private readonly name: string,
    /** As the application's own role. */
    readonly url: string,
    readonly db: Db,
    private readonly pool: pg.Pool,
    /** A connection beside those that are watched. */
    readonly beside: Db,
    private readonly admin: pg.Client,
    private readonly owner: pg.Client,
  ) {
    pool.on('connect', (client) => this.watch(client));
  }

  static async take(): Promise<TestDatabase> {
    return TestDatabase.spare.pop() ?? TestDatabase.make();
  }

  private static async make(): Promise<TestDatabase> {
    const cluster = process.env['NOCK_TEST_CLUSTER'];
    if (!cluster) throw new Error('NOCK_TEST_CLUSTER is not set; npm test starts a cluster and sets it');
    const name = `test_${randomBytes(6).toString('hex')}`;
    const admin = new pg.Client({ connectionString: cluster });
    await admin.connect();
    await admin.query(`create database ${name} template ${await standingTemplate(admin, cluster)}`);
    const url = new URL(cluster);
    url.pathname = `/${name}`;
    const owner = new pg.Client({ connectionString: url.href });
    owner.on('error', () => undefined);
    await owner.connect();
    // Everything else is done as the application's own role, with its rights and no more.
    url.searchParams.set('options', '-c role=nock_app -c jit=off');
    const { db, pool } = connect(url.href, 20);
    return new TestDatabase(name, url.href, db, pool, connect(url.href, 1).db, admin, owner);
  }

  /** Sends a statement as whoever owns the database, which may do what the application may not. */
  async asOwner(text: string): Promise<void> {
    await this.owner.query(text);
  }

  /** Gives it back: what was done in it is gone. */
  async giveBack(): Promise<void> {
    const whole =
      !TestDatabase.over && !this.pool.ended && this.pool.idleCount === this.pool.totalCount && !this.statements.some((text) => CHANGES_SHAPE.test(text));
    if (whole && (await this.putBack())) TestDatabase.spare.push(this);
    else await this.drop();
  }

  /** Whether what stood stands again; not where somebody still works in it, or its connections were cut. */
  private async putBack(): Promise<boolean> {
    try {
      await this.owner.query(`set lock_timeout = '2s'; select standing.put_back()`);
    } catch {
      return false;
    }
    this.statements = [];
    this.outOfOrder = [];
    return true;
  }

  private async drop(): Promise<void> {
    await Promise.all([this.db.destroy(), this.beside.destroy()]);
    await this.owner.end().catch(() => undefined);
    await this.admin.query(`drop database ${this.name} with (force)`);
    await this.admin.end();
  }

  /** Drops those that nobody has, and from now on each that is given back: the tests of the file have ended. */
  static async dropSpare(): Promise<void> {
    TestDatabase.over = true;
    for (const one of TestDatabase.spare.splice(0)) await one.drop();
  }

  private watch(client: pg.PoolClient): void {
    const guard = new LockGuard((fault) => this.outOfOrder.push(fault));
    const query = client.query.bind(client) as (...all: unknown[]) => unknown;
    const told = (first: unknown, ...rest: unknown[]) => {
      const text = typeof first === 'string' ? first : ((first as { text?: string }).text ?? '');
      this.statements.push(text);
      guard.see(text, Array.isArray(rest[0]) ? rest[0] : ((first as { values?: unknown[] }).values ?? []));
      return query(first, ...rest);
    };
    client.query = told as never;
  }
}
