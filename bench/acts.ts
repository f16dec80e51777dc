// What the acts of an order and the boards cost over HTTP, against pgbench (TPC-B) on the same database server, fsync on.
// Prints its figures as JSON. NOCK_URL: a server; NOCK_OWNER_DATABASE: its database; NOCK_DESK: what the desk is called; NOCK_LINES: open lines it is
// filled to first, where it is not the demo; NOCK_COMMIT_WAITS: microseconds that a commit waits; NOCK_PGBENCH: the program; NOCK_PGBENCH_URL: a database it may fill.
import pg from 'pg';
import { loadStanding } from '../demo/load-standing';
import { connect } from '../server/src/database';
import { bookStatement } from '../server/src/promise/book-rows';
import { call, logIn, pgbench, tpcB } from './desk-client';
import { fillDesk } from './fill-desk';
import { measurePacking } from './packing';
import { percentile, type Figure } from './measure';
import { setting } from './setting';

const WARM = 15;
const ROUNDS = 60;
const CLIENTS = 8;
const PREPARED = 80;
const WHOLE = 60;
/** The most of each act, in transactions of pgbench. */
const MOST = [15, 8, 8, 8, 15] as const;

const desk = setting('NOCK_DESK');
const BOARD_ROUNDS = 60;
/** The most of a board, in transactions of pgbench, p95. */
const BOARD_MOST = 20;

interface Line {
  readonly id: number;
  readonly schedule: readonly { readonly day: string; readonly quantity: string; readonly dropShip: boolean }[];
  readonly uncovered: string;
}
interface Order {
  readonly id: number;
  readonly version: number;
  readonly lines: readonly Line[];
}

/** Five items of which there is so much at every warehouse that a thousand orders are served from the shelf; nobody has a limit, or must name a contract. */
async function stockUp(): Promise<readonly string[]> {
  const client = new pg.Client({ connectionString: setting('NOCK_OWNER_DATABASE') });
  await client.connect();
  const { rows } = await client.query<{ code: string }>(
    `select code from item i where not discontinued and assembly_days is null and step = 1 and not tracks_expiry order by code limit 5`,
  );
  await client.query(
    `insert into stock_movement (at, item, warehouse, quantity, kind, reference)
      select now(), i, w.code, 100000, 'opening', 'bench' from unnest($1::text[]) i, warehouse w`,
    [rows.map((row) => row.code)],
  );
  await client.query('update customer set credit_limit = null, must_name_contract = false');
  await client.end();
  return rows.map((row) => row.code);
}

const start = (customer: number) => call<Order>('POST', '/orders', { customer });
const add = (order: Order, items: readonly string[]) =>
  call<Order>('POST', `/orders/${order.id}/lines/many`, { version: order.version, lines: items.map((item) => ({ item, quantity: '1' })) });
const read = (order: Order) => call<Order>('GET', `/orders/${order.id}`);
const release = (order: Order) =>
  call<Order>('POST', `/orders/${order.id}/release`, {
    version: order.version,
    seen: order.lines.map((line) => ({
      line: line.id,
      schedule: line.schedule.filter((part) => !part.dropShip).map(({ day, quantity }) => ({ day, quantity })),
      uncovered: line.uncovered,
    })),
  });

/** A desk of so many open lines in place of the demo. */
async function fill(): Promise<void> {
  const lines = process.env['NOCK_LINES'];
  if (lines === undefined) return analyse();
  const { db, pool } = connect(setting('NOCK_OWNER_DATABASE'), 1);
  await loadStanding(db, setting('NOCK_TODAY'));
  await pool.end();
  const client = new pg.Client({ connectionString: setting('NOCK_OWNER_DATABASE') });
  await client.connect();
  await fillDesk(client, Number(lines), setting('NOCK_TODAY'));
  await client.end();
  await analyse();
}

/** As a database that has been running, and whose commits take as long as they shall. */
async function analyse(): Promise<void> {
  const client = new pg.Client({ connectionString: setting('NOCK_OWNER_DATABASE') });
  await client.connect();
  await client.query('vacuum analyze');
  await client.query(`alter system set commit_delay = ${Number(process.env['NOCK_COMMIT_WAITS'] ?? 0)}`);
  await client.query('alter system set commit_siblings = 0');
  await client.query('select pg_reload_conf()');
  await client.end();
}

/** What each board takes, first page and filtered, in milliseconds ascending. */
async function boards(): Promise<ReadonlyMap<string, number[]>> {
  const pages: readonly (readonly [string, string])[] = [
    ['shortages, first page', '/shortages'],
    ['shortages, filtered', '/shortages?q=1'],
    ['shipping, first page', '/shipping'],
    ['shipping, filtered', '/shipping?warehouse=MAR&q=1'],
    ['offers of free goods, first page', '/offers'],
    ['stock, first page', '/stock'],
    ['stock, filtered', '/stock?search=1'],
  ];
  // What has been filled in is computed once; after that a board is read.
  await call('GET', '/shortages');
  const spent = new Map<string, number[]>();
  for (const [name, path] of pages) {
    const taken: number[] = [];
    for (let round = 0; round < WARM + BOARD_ROUNDS; round++) {
      const before = performance.now();
      await call('GET', path);
      if (round >= WARM) taken.push(performance.now() - before);
    }
    spent.set(
      name,
      taken.sort((a, b) => a - b),
    );
  }
  return spent;
}

interface Run {
  readonly id: number;
  readonly state: string;
}

/** The whole book promised anew: milliseconds until it has begun, until the answer is there, and of the statement that reads its rows. */
async function wholeBook(): Promise<{ begun: number; done: number; statement: number }> {
  const { db, pool } = connect(setting('NOCK_OWNER_DATABASE'), 1);
  const statement = bookStatement({}).compile(db);
  await pool.query(statement.sql, [...statement.parameters]);
  const asked = performance.now();
  await pool.query(statement.sql, [...statement.parameters]);
  const read = performance.now() - asked;
  await pool.end();
  const before = performance.now();
  await call<Run>('POST', '/resequence', {});
  const begun = performance.now() - before;
  while ((await call<Run>('GET', '/resequence')).state === 'running') await new Promise((resolve) => setTimeout(resolve, 20));
  return { begun, done: performance.now() - before, statement: read };
}

async function main() {
  await fill();
  await logIn();
  const items = await stockUp();
  await pgbench('-i', '-s', '10', '-q');
  const alone = await tpcB(1);

  const names = ['adding five lines at once', 'reading an order of five lines', 'a preview of a line', 'the slice a line is tried on', 'releasing five lines'];
  const spent: number[][] = names.map(() => []);
  for (let round = 0; round < WARM + ROUNDS; round++) {
    const draft = await start(1);
    const acts = [
      () => add(draft, items),
      () => read(draft),
      () => call('GET', `/orders/${draft.id}/preview?item=${items[0]}&quantity=3`),
      () => call('GET', `/orders/${draft.id}/slice?item=${items[1]}`),
    ];
    for (const [at, act] of acts.entries()) {
      const before = performance.now();
      await act();
      if (round >= WARM) spent[at]!.push(performance.now() - before);
    }
    const order = await read(draft);
    const before = performance.now();
    await release(order);
    if (round >= WARM) spent[4]!.push(performance.now() - before);
    // The book stays as large as it was.
    await call('POST', `/orders/${draft.id}/cancel`, { version: (await read(draft)).version, reason: 'other', purchases: 'keep' });
  }

  // Eight clients: what was prepared is released; then orders from their start.
  const prepared: Order[] = [];
  for (let at = 0; at < PREPARED; at++) prepared.push(await add(await start(1 + (at % 8)), items));
  const crowd = await tpcB(CLIENTS);
  const releases = await rate(PREPARED, async (at) => {
    const order = await read(prepared[at]!);
    await again(order);
  });
  const whole = await rate(WHOLE, async (at) => again(await read(await add(await start(1 + (at % 8)), items))));

  const packing = process.env['NOCK_LINES'] === undefined ? await measurePacking(call, items, () => start(1), again) : [];
  const shown = await boards();
  const anew = await wholeBook();
  const figures: Figure[] = names.map((name, at) => ({
    name: `${name}, ${desk}, p50`,
    ratio:
      percentile(
        [...spent[at]!].sort((a, b) => a - b),
        0.5,
      ) / alone.latency,
    against: 'a transaction of pgbench, one client',
    target: MOST[at]!,
  }));
  figures.push(
    {
      name: `eight clients: transactions of pgbench for a release of five lines, ${desk}`,
      ratio: crowd.rate / releases,
      against: 'releases a second',
      target: 1 / 0.06,
    },
    {
      name: `eight clients: transactions of pgbench for a whole order, ${desk}`,
      ratio: crowd.rate / whole,
      against: 'orders started, filled, read and released a second',
      target: 1 / 0.02,
    },
  );
  for (const [name, taken] of shown)
    figures.push({
      name: `${name}, ${desk}, p95`,
      ratio: percentile(taken, 0.95) / alone.latency,
      against: 'a transaction of pgbench, one client',
      target: BOARD_MOST,
    });
  figures.push(
    {
      name: `the whole book anew has begun, ${desk}`,
      ratio: anew.begun / alone.latency,
      against: 'a transaction of pgbench, one client',
      target: BOARD_MOST,
    },
    { name: `the whole book anew is there, ${desk}`, ratio: anew.done / anew.statement, against: 'the statement that reads its rows', target: 3 },
  );
  process.stdout.write(JSON.stringify([...figures, ...packing]));
}

/** Releases; where somebody was first, what is promised now is looked at, and released. */
async function again(order: Order, tries = 20): Promise<void> {
  try {
    await release(order);
  } catch (error) {
    if (tries === 0 || !/ 409 /.test((error as Error).message)) throw error;
    await again(await read(order), tries - 1);
  }
}

/** So many a second, by eight clients. */
async function rate(count: number, act: (at: number) => Promise<unknown>): Promise<number> {
  let next = 0;
  const before = performance.now();
  await Promise.all(
    Array.from({ length: CLIENTS }, async () => {
      for (let at = next++; at < count; at = next++) await act(at);
    }),
  );
  return count / ((performance.now() - before) / 1000);
}

void main();
