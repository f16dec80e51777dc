import type { CustomerId, WarehouseCode } from '@nockwright/core/ids';
import { parseDay } from '@nockwright/core/calendar';
import type { orderRoutes, OrderList, OrderRow, OrderSort } from '@nockwright/contract/orders';
import type { QueryOf } from '@nockwright/contract/shape';
import { isExpired } from '@nockwright/core/orders';
import { sql, type RawBuilder } from 'kysely';
import { hasWord, searchWords, type Db } from '../database';
import { invalid } from '../http/refusal';
import { readOrderIds } from './order-ids';

const PAGE = 100;
const MOST_EXPORTED = 50_000;

export type OrderFilter = Omit<QueryOf<typeof orderRoutes.listOrders>, 'after'>;

interface Row {
  id: number;
  kind: OrderRow['kind'];
  number: string | null;
  customer: string;
  customer_id: CustomerId;
  town: string;
  po_number: string;
  state: OrderRow['state'];
  requested_day: string;
  promised_day: string | null;
  valid_until: string | null;
  entered: string;
  source: OrderRow['source'];
  warehouse: WarehouseCode;
  amount: string;
  lines: number;
  open_lines: number;
  waiting_lines: number;
  shipped: boolean;
  picking: boolean;
  billed: boolean;
  held: boolean;
  key: string;
}

/** Each list by what keeps an order in it; each has its index. */
const STATES: Readonly<Record<NonNullable<OrderFilter['state']>, RawBuilder<unknown>>> = {
  // A draft that somebody left without a line is found among the drafts.
  open: sql`s.open and (s.lines > 0 or s.state <> 'draft')`,
  draft: sql`s.state = 'draft'`,
  held: sql`s.state = 'draft' and s.held`,
  waiting: sql`s.waiting`,
  quote: sql`s.kind = 'quote' and s.state in ('draft', 'quoted')`,
  done: sql`s.kind = 'order' and s.state = 'released' and s.open_lines = 0`,
  all: sql`true`,
};

/** What a list is sorted by, its type, and whether the greatest comes first. */
const SORTS: Readonly<Record<OrderSort, { readonly column: string; readonly type: string; readonly falls: boolean }>> = {
  newest: { column: 's.order_id', type: 'integer', falls: true },
  customer: { column: 's.customer_name', type: 'text', falls: false },
  requested: { column: 's.requested_day', type: 'date', falls: false },
  promised: { column: 's.promised_day', type: 'date', falls: false },
  amount: { column: 's.amount', type: 'numeric', falls: true },
};

/**
 * A page of orders. `after`: where the page before ended; pages by key, so that a page deep in a long list is as quick as
 * the first, and none is doubled or left out while orders come in.
 */
export async function listOrders(db: Db, today: string, filter: OrderFilter, after?: string): Promise<OrderList> {
  const rows = await select(db, filter, PAGE + 1, after);
  const page = rows.slice(0, PAGE);
  const last = rows.length > PAGE ? page.at(-1)! : null;
  return { rows: page.map((row) => toRow(row, today)), next: last && JSON.stringify([last.key, last.id]) };
}

/** All orders of a list, in its sequence. */
export async function listForExport(db: Db, today: string, filter: OrderFilter): Promise<OrderRow[]> {
  return (await select(db, filter, MOST_EXPORTED)).map((row) => toRow(row, today));
}

/** Rows of a list that are looked through in its sequence, before all that have the words are sought by their index. */
const WINDOW = 4_000;

async function select(db: Db, filter: OrderFilter, limit: number, after?: string): Promise<Row[]> {
  const words = searchWords(filter.search);
  if (words.length === 0) return read(db, filter, limit, (page) => sql`${page} limit ${limit}`, after);
  const has = sql.join(
    words.map((word) => hasWord('s.search', word)),
    sql` and `,
  );
  // Words that many orders have are found among the first of the list; those that few have, by their index. Which they are is not known before.
  const near = await read(db, filter, limit, (page) => sql`select * from (${page} limit ${WINDOW}) s where ${has} limit ${limit}`, after);
  if (near.length === limit) return near;
  return read(db, filter, limit, (page) => sql`${page} limit ${limit}`, after, sql`(select * from order_standing s where ${has} offset 0)`);
}

/** `narrow`: takes the page from the list; `from`: what the list is made of. The page is taken before anything is joined to it. */
async function read(
  db: Db,
  { state = 'open', sort = 'newest', reverse = false, orders, customer }: OrderFilter,
  limit: number,
  narrow: (list: RawBuilder<unknown>) => RawBuilder<unknown>,
  after?: string,
  from: RawBuilder<unknown> = sql`order_standing`,
): Promise<Row[]> {
  const { column, type, falls } = SORTS[sort];
  const down = falls !== reverse;
  const by = sql.ref(column);
  const direction = down ? sql`desc` : sql`asc`;
  const named = orders === undefined ? sql`` : sql`and s.order_id = any(${readOrderIds(orders)}::int[])`;
  const theirs = customer === undefined ? sql`` : sql`and s.order_id in (select id from sales_order where customer_id = ${customer})`;
  const list = sql`select * from ${from} s where ${STATES[state]} ${named} ${theirs} ${behind(after, by, type, down)} order by ${by} ${direction}, s.order_id ${direction}`;
  const { rows } = await sql<Row>`
    with s as materialized (${narrow(list)})
    select o.id, o.kind, o.number, c.name as customer, c.id as customer_id, c.town, o.po_number, o.state, s.requested_day::text as requested_day,
      nullif(s.promised_day, 'infinity')::text as promised_day, o.valid_until::text as valid_until, o.entered::date::text as entered, o.source, o.warehouse,
      s.amount, s.lines, s.open_lines, s.waiting_lines, s.shipped, s.picking, s.billed, s.held, ${by}::text as key
    from s
    join sales_order o on o.id = s.order_id
    join customer c on c.id = o.customer_id
    order by ${by} ${direction}, s.order_id ${direction}
    limit ${limit}`.execute(db);
  return rows;
}

function behind(after: string | undefined, by: RawBuilder<unknown>, type: string, down: boolean): RawBuilder<unknown> {
  if (after === undefined) return sql``;
  const place: unknown = readJson(after);
  if (!Array.isArray(place) || place.length !== 2 || typeof place[0] !== 'string' || !Number.isSafeInteger(place[1])) throw wrongPlace();
  const [key, id] = place as [string, number];
  if (!TYPES[type]!.test(key) || (type === 'date' && key !== 'infinity' && parseDay(key) === null)) throw wrongPlace();
  return sql`and (${by}, s.order_id) ${down ? sql`<` : sql`>`} (${key}::${sql.raw(type)}, ${id}::integer)`;
}

/** What a key of a type looks like as text. */
const TYPES: Readonly<Record<string, RegExp>> = {
  integer: /^\d{1,9}$/,
  text: /^[^\0]*$/,
  date: /^(\d{4}-\d{2}-\d{2}|infinity)$/,
  numeric: /^-?\d{1,15}(\.\d{1,4})?$/,
};

function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

function wrongPlace() {
  return invalid('query.after', 'expected the `next` of a page of this list');
}

function toRow(row: Row, today: string): OrderRow {
  return {
    id: row.id,
    kind: row.kind,
    number: row.number,
    customer: row.customer,
    customerId: row.customer_id,
    town: row.town,
    poNumber: row.po_number,
    state: row.state,
    progress: progressWord(row, today),
    requestedDay: row.requested_day,
    promisedDay: row.promised_day,
    validUntil: row.valid_until,
    entered: row.entered,
    source: row.source,
    warehouse: row.warehouse,
    amount: Number(row.amount).toFixed(2),
    lines: row.lines,
    waiting: row.state === 'released' ? row.waiting_lines : 0,
  };
}

/** The same words as on the order itself. */
function progressWord(row: Row, today: string): string {
  if (row.held) return 'held';
  if (row.state === 'quoted' && isExpired(row.valid_until!, today)) return 'expired';
  if (row.state !== 'released') return row.state;
  if (row.open_lines === 0) return row.shipped ? (row.billed ? 'billed' : 'shipped') : 'cancelled';
  if (row.picking) return 'picking';
  if (row.shipped) return 'part shipped';
  return row.waiting_lines > 0 ? 'part backordered' : 'promised';
}
