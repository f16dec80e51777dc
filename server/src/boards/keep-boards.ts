import type { ItemCode, OrderId } from '@nockwright/core/ids';
import { firstShipDay } from '@nockwright/core/calendar';
import { sql, type RawBuilder } from 'kysely';
import type { Now } from '../clock';
import { connect, together, type Db, type Trx } from '../database';
import type { Services } from '../http/context';
import { loadWarehouses } from '../promise';
import type { Task } from '../work';
import { computeBoards, type Boards } from './compute-boards';

/** One computes at a time: what it finds is right whoever comes next. The number is ours and means nothing. */
const TURN = 7_714_201;
/** So many items are computed in the thread that answers; more of them, and the whole book, beside it. */
const MOST_ITEMS_HERE = 40;
/** Of more, the whole book is computed: that costs no more than to pick them out of it. */
const MOST_ITEMS_PICKED = 500;

interface Standing {
  /** The days for which boards were computed, and the days for which they must be. */
  readonly computed: string;
  readonly wanted: string;
  /** Items something has changed of since, at most one more than are computed here. */
  readonly touched: readonly string[];
}

/** What is computed holds until a warehouse's cut-off passes, or midnight. */
function daysOf(warehouses: Awaited<ReturnType<typeof loadWarehouses>>, now: Now): string {
  return [now.today, ...warehouses.map((row) => `${row.code} ${firstShipDay(row.book, now.localTime)}`)].join(', ');
}

async function readStanding(db: Db, now: Now): Promise<Standing> {
  return together(db, async (all) => {
    const [warehouses, clock, touched] = await Promise.all([
      loadWarehouses(all),
      all.selectFrom('board_clock').select('days').executeTakeFirstOrThrow(),
      all
        .selectFrom('board_touched')
        .select('item')
        .distinct()
        .limit(MOST_ITEMS_HERE + 1)
        .execute(),
    ]);
    return { computed: clock.days, wanted: daysOf(warehouses, now), touched: touched.map((row) => row.item) };
  });
}

/**
 * Computes anew what boards show of the items something has changed of, so that who reads them now sees every change that
 * was committed before. Costs one statement where nothing has changed.
 */
export async function freshenBoards(services: Pick<Services, 'db' | 'work' | 'databaseUrl'>, now: Now, user: number): Promise<void> {
  const { computed, wanted, touched } = await readStanding(services.db, now);
  if (computed === wanted && touched.length === 0) return;
  const here = computed === wanted && touched.length <= MOST_ITEMS_HERE;
  await oneAtATime(services.db, () =>
    here ? services.db.transaction().execute((trx) => refreshBoards(trx, now)) : services.work.run(freshenTask, { url: services.databaseUrl, now }, user),
  );
}

interface Flight {
  readonly running: Promise<unknown>;
  /** For all who have come since it began: what they wait for may not be in it. */
  next: Promise<unknown> | null;
}
const flights = new WeakMap<Db, Flight>();

/** However many ask, one connection of this process is used: who comes while one is under way shares the next. */
function oneAtATime(db: Db, work: () => Promise<unknown>): Promise<unknown> {
  const flight = flights.get(db);
  if (flight) return (flight.next ??= flight.running.catch(() => undefined).then(() => oneAtATime(db, work)));
  const running = work().finally(() => flights.delete(db));
  flights.set(db, { running, next: null });
  return running;
}

/** The same within a transaction. */
export async function refreshBoards(trx: Trx, now: Now): Promise<void> {
  await sql`select pg_advisory_xact_lock(${TURN})`.execute(trx);
  const { computed, wanted } = await readStanding(trx, now);
  // Read before what they stand for: a change that is committed meanwhile leaves a mark that stays.
  const marks = await trx.selectFrom('board_touched').select(['id', 'item']).execute();
  const touched = new Set(marks.map((row) => row.item));
  const whole = computed !== wanted || touched.size > MOST_ITEMS_PICKED;
  if (!whole && marks.length === 0) return;
  const items = whole ? undefined : await withTied(trx, [...touched]);
  await storeBoards(trx, await computeBoards(trx, now, items), whole);
  await sql`delete from board_touched where id = any(${marks.map((row) => row.id)}::bigint[])`.execute(trx);
  if (whole) await trx.updateTable('board_clock').set({ days: wanted }).execute();
}

export const freshenTask: Task<{ readonly url: string; readonly now: Now }, null> = {
  name: 'boards',
  run: async ({ url, now }) => {
    const { db, pool } = connect(url, 1);
    try {
      await db.transaction().execute((trx) => refreshBoards(trx, now));
      return null;
    } finally {
      await pool.end();
    }
  },
};

/** Items, and those that were tied to them when they were computed: what no longer ties them changes both. */
async function withTied(trx: Trx, items: readonly string[]): Promise<string[]> {
  const { rows } = await sql<{ item: ItemCode }>`
    with recursive tied(item) as (
      select unnest(${items}::text[])
      union
      select other.item from tied join board_tie t on t.item = tied.item join board_tie other on other.order_id = t.order_id
    )
    select item from tied`.execute(trx);
  return rows.map((row) => row.item);
}

/** Writes what differs from what is kept of these items. */
async function storeBoards(trx: Trx, boards: Boards, whole: boolean): Promise<void> {
  // Of very many rows, and before the database has counted them, comparing each with each would take minutes.
  if (whole) await sql`set local enable_nestloop = off`.execute(trx);
  const known = whole ? sql`true` : sql`k.item = any(${boards.items}::text[])`;
  const orders = await ordersOf(trx, boards);
  await storeRows(trx, 'board_short', boards.short, known);
  await storeRows(trx, 'board_ready', boards.ready, known);
  await storeRows(trx, 'board_gap', boards.gaps, known);
  await storeRows(trx, 'board_offer', boards.offers, known);
  await storeRows(trx, 'board_tie', boards.ties, known);
  await storeDifferences(trx, 'board_leave', LEAVE_COLUMNS, leaving(whole ? null : orders), whole ? sql`true` : sql`k.order_id = any(${orders}::int[])`);
}

/** Orders of which something can leave, or is kept from it, by what was kept and by what was found. */
async function ordersOf(trx: Trx, { items, ready, gaps }: Boards): Promise<number[]> {
  const { rows } = await sql<{ order_id: OrderId }>`
    select order_id from board_ready where item = any(${items}::text[]) union select order_id from board_gap where item = any(${items}::text[])`.execute(trx);
  return [...new Set([...rows, ...ready, ...gaps].map((row) => row.order_id))];
}

const LEAVE_COLUMNS = ['order_id', 'warehouse', 'place', 'day', 'entered', 'search'];

/** What can leave together, by order, warehouse and place: nothing of a complete order that lacks something. */
function leaving(orders: readonly number[] | null): RawBuilder<unknown> {
  return sql`
    select r.order_id, r.warehouse, coalesce(l.ship_to_id, o.ship_to_id) as place, min(r.day) as day, o.entered,
      lower(concat_ws(' ', o.number, c.name, p.town, string_agg(i.code || ' ' || i.description, ' ' order by l.line_no))) as search
    from board_ready r
    join order_line l on l.id = r.line_id
    join sales_order o on o.id = r.order_id
    join customer c on c.id = o.customer_id
    join ship_to p on p.id = coalesce(l.ship_to_id, o.ship_to_id)
    join item i on i.code = r.item
    where ${orders ? sql`r.order_id = any(${orders}::int[])` : sql`true`}
      and not (o.ship_complete and exists (select from board_gap g where g.order_id = r.order_id))
    group by r.order_id, r.warehouse, coalesce(l.ship_to_id, o.ship_to_id), o.entered, o.number, c.name, p.town`;
}

type BoardTable = 'board_short' | 'board_ready' | 'board_gap' | 'board_offer' | 'board_tie' | 'board_leave';

/** `known`: which of the rows that are kept, as `k`, these rows stand in the place of. */
async function storeRows(trx: Trx, table: BoardTable, rows: readonly object[], known: RawBuilder<unknown>): Promise<void> {
  if (rows.length === 0) await sql`delete from ${sql.table(table)} k where ${known}`.execute(trx);
  else {
    const wanted = sql`select * from jsonb_populate_recordset(null::${sql.table(table)}, ${JSON.stringify(rows)}::jsonb)`;
    await storeDifferences(trx, table, Object.keys(rows[0]!), wanted, known);
  }
}

/** Takes away what is kept and no longer so, and adds what is new; what is the same is not written. */
async function storeDifferences(trx: Trx, table: BoardTable, columns: readonly string[], rows: RawBuilder<unknown>, known: RawBuilder<unknown>): Promise<void> {
  const of = (name: string) => sql.join(columns.map((column) => sql.ref(`${name}.${column}`)));
  // Few rows have the same key: what is the same in all columns is looked for among those.
  const key = columns.includes('line_id') ? 'line_id' : 'order_id';
  const same = sql`${sql.ref(`k.${key}`)} = ${sql.ref(`w.${key}`)} and (${of('k')}) is not distinct from (${of('w')})`;
  const wanted = sql`wanted as materialized (${rows})`;
  await sql`with ${wanted} delete from ${sql.table(table)} k where ${known} and not exists (select from wanted w where ${same})`.execute(trx);
  await sql`with ${wanted} insert into ${sql.table(table)} (${sql.join(columns.map((column) => sql.ref(column)))})
    select ${of('w')} from wanted w where not exists (select from ${sql.table(table)} k where ${same})`.execute(trx);
}
