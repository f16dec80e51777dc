import { jest } from '@jest/globals';
import { orderRoutes } from '@nockwright/contract/orders';
import { sql } from 'kysely';
import pg from 'pg';
import { Hono } from 'hono';
import { outageOf } from '../src/http/outage';
import type { Refusal } from '../src/http/refusal';
import { deadline } from '../src/http/security';
import { JobQueue, sweep } from '../src/jobs';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

/** The database goes while work is under way: every act has one clear answer, and all goes on by itself when it is back. */
let desk: TestDesk;
let admin: pg.Client;
beforeAll(async () => {
  desk = await TestDesk.open();
  admin = new pg.Client({ connectionString: process.env['NOCK_TEST_CLUSTER']! });
  await admin.connect();
});
afterAll(async () => {
  await admin.end();
  await desk.close();
});

const database = () => new URL(desk.url).pathname.slice(1);
/** Ends every connection of the desk, as a restart of the database does. */
const cut = () => admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and pid <> pg_backend_pid()', [database()]);
const connections = async (listening = false): Promise<number> => {
  const { rows } = await admin.query<{ n: number }>(
    `select count(*)::int as n from pg_stat_activity where datname = $1 and ($2::boolean is false or query ilike 'listen%')`,
    [database(), listening],
  );
  return rows[0]!.n;
};

test('connections that are lost in use are told as 503, once each; what was acknowledged is there, and a repeat with its key is done once', async () => {
  await desk.request('ida', 'GET', '/api/orders');
  const answers: { key: string; status: number; id: number | null }[] = [];
  const work = Array.from({ length: 24 }, async (_, at) => {
    const key = `00000000-0000-4000-8000-${String(at).padStart(12, '0')}`;
    const { status, reply } = await desk.send('ida', orderRoutes.createOrder, { body: { customer: 1 }, key });
    answers.push({ key, status, id: status === 200 ? reply.id : null });
  });
  await cut();
  await Promise.all(work);
  expect(answers.every(({ status }) => status === 200 || status === 503)).toBe(true);
  for (const { key, id } of answers) {
    const again = await desk.send('ida', orderRoutes.createOrder, { body: { customer: 1 }, key });
    expect(again.status).toBe(200);
    if (id !== null) expect(again.reply.id).toBe(id);
  }
  expect(
    await desk.db
      .selectFrom('sales_order')
      .select(({ fn }) => fn.countAll<string>().as('n'))
      .executeTakeFirstOrThrow(),
  ).toEqual({ n: 24 });
  expect(await brokenInvariants(desk.db)).toEqual([]);
});

test('what PostgreSQL, Node.js and the driver say of a lost connection is an outage; of a slow statement, a busy desk', () => {
  for (const code of ['57P01', '08006', '53300', 'ECONNREFUSED', 'ECONNRESET'])
    expect(outageOf(Object.assign(new Error('x'), { code }))?.kind).toBe('unavailable');
  for (const code of ['57014', '55P03']) expect(outageOf(Object.assign(new Error('x'), { code }))?.kind).toBe('busy');
  expect(outageOf(new Error('Connection terminated unexpectedly'))?.kind).toBe('unavailable');
  expect(outageOf(Object.assign(new Error('x'), { code: '23505' }))).toBeNull();
  expect(outageOf(new Error('undefined is not a function'))).toBeNull();
});

test('the live feed hears again by one connection, however often it was lost, and tells each change once', async () => {
  await desk.feed.open();
  const heard: string[][] = [];
  const stop = desk.feed.subscribe((topics) => heard.push([...topics]));
  for (let times = 0; times < 3; times++) {
    const before = heard.length;
    await cut();
    // Everything counts as changed when it hears again.
    while (heard.length === before)
      await desk.db
        .selectFrom('app_user')
        .select('id')
        .execute()
        .catch(() => undefined);
  }
  expect(heard).toEqual([['*'], ['*'], ['*']]);
  expect(await connections(true)).toBe(1);
  const { id } = await desk.draft([]);
  while (heard.length < 4) await desk.db.selectFrom('app_user').select('id').execute();
  expect(heard.slice(3)).toEqual([expect.arrayContaining([`order:${id}`])]);
  stop();
  expect(desk.feed.size).toBe(0);
  // The pool, and the one that listens.
  expect(await connections()).toBeLessThanOrEqual(21);
});

test('a database that is closed to connections is away; what else is not in a state for something is not', () => {
  expect(outageOf({ code: '55000', message: 'database "desk" is not currently accepting connections' })?.kind).toBe('unavailable');
  expect(outageOf({ code: '55000', message: 'cannot delete from view' })).toBeNull();
});

test('a job that ends while the database is away counts as done when it is back', async () => {
  const jobs = new JobQueue(desk.url, desk.services.log);
  const allow = (allowed: boolean) => admin.query(`alter database ${database()} allow_connections ${allowed}`);
  let times = 0;
  try {
    await jobs.open({
      mail: async () => {
        times++;
        await allow(false);
        await cut();
      },
    });
    await desk.db.transaction().execute((trx) => jobs.send(trx, 'mail', { mail: 1 }));
    while (times === 0) await new Promise((resolve) => setTimeout(resolve, 100));
    // Long enough for the queue to note it, and to find nobody there.
    await new Promise((resolve) => setTimeout(resolve, 500));
    await allow(true);
    const states = async () => (await sql<{ state: string }>`select state from job_queue.job where name = 'mail'`.execute(desk.db)).rows;
    for (let tries = 0; tries < 100 && (await states())[0]?.state !== 'completed'; tries++) await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await states()).toEqual([{ state: 'completed' }]);
    expect(times).toBe(1);
  } finally {
    await allow(true);
    await jobs.close();
  }
});

test('what is of no use any more is swept, and nothing else', async () => {
  const key = (n: number) => `00000000-0000-4000-9000-${String(n).padStart(12, '0')}`;
  const at = (days: number) => new Date(Date.now() - days * 86_400_000);
  const user = await desk.db.selectFrom('app_user').select('id').where('login', '=', 'ida').executeTakeFirstOrThrow();
  await desk.db
    .insertInto('idempotency')
    .values([8, 6].map((days) => ({ user_id: user.id, key: key(days), request_hash: 'x', reply: null, at: at(days) })))
    .execute();
  await desk.db
    .insertInto('failed_log_in')
    .values([2, 0].map((days) => ({ login: `somebody${days}`, address: '::1', at: at(days) })))
    .execute();
  expect(await sweep(desk.db)).toBe(2);
  expect(await sweep(desk.db)).toBe(0);
  expect((await desk.db.selectFrom('idempotency').select('key').where('request_hash', '=', 'x').execute()).map((row) => row.key)).toEqual([key(6)]);
  expect((await desk.db.selectFrom('failed_log_in').select('login').execute()).map((row) => row.login)).toEqual(['somebody0']);
});

test('a request that takes longer than may be is answered all the same; live events are not', async () => {
  jest.useFakeTimers({ doNotFake: ['nextTick', 'setImmediate', 'queueMicrotask'] });
  try {
    const app = new Hono();
    app.onError((error, c) => c.json((error as Refusal).toProblem(), (error as Refusal).status as 503));
    app.use(deadline);
    app.get('/api/slow', () => new Promise<Response>(() => undefined));
    app.get('/api/quick', (c) => c.text('done'));
    app.get('/api/live', (c) => new Promise<Response>((resolve) => setTimeout(() => resolve(c.text('events')), 600_000)));
    const [slow, live] = [Promise.resolve(app.request('/api/slow')), Promise.resolve(app.request('/api/live'))];
    expect(await (await app.request('/api/quick')).text()).toBe('done');
    await jest.advanceTimersByTimeAsync(59_000);
    await jest.advanceTimersByTimeAsync(2_000);
    expect([(await slow).status, ((await (await slow).json()) as { type: string }).type]).toEqual([503, '/problems/busy']);
    await jest.advanceTimersByTimeAsync(600_000);
    expect((await live).status).toBe(200);
  } finally {
    jest.useRealTimers();
  }
});
