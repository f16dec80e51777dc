import type { OrderList, OrderRow } from '@nockwright/contract/orders';
import { promiseBook } from '@nockwright/core/promise';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, escapeLike, searchWords, type Db } from '../database';
import { loadBook } from '../promise';

const PAGE = 60;
const HELD = sql`exists (select from order_hold where order_id = o.id and cleared_at is null)`;

interface Row {
  id: number;
  kind: OrderRow['kind'];
  number: string | null;
  customer: string;
  town: string;
  po_number: string;
  state: OrderRow['state'];
  requested_day: string;
  promised_day: string | null;
  amount: string;
  lines: string;
  waiting: string;
  open: string;
  shipped: string;
  picking: string;
  held: boolean;
}

/** A page of orders, newest first. `before`: the id the last page ended with. */
export async function listOrders(
  db: Db,
  now: Now,
  filter: { readonly search?: string; readonly state?: 'open' | 'draft' | 'held' | 'waiting' | 'quote' | 'done' | 'all'; readonly before?: number },
): Promise<OrderList> {
  const { search, state = 'open', before } = filter;
  const matches = searchWords(search).map(
    (word) =>
      sql`and (o.number like ${`${escapeLike(word)}%`} or lower(o.po_number) like ${`%${escapeLike(word)}%`} or c.search like ${`%${escapeLike(word)}%`})`,
  );
  const states = {
    open: sql`facts.open > 0 and o.kind = 'order' and o.state <> 'discarded'`,
    draft: sql`o.state = 'draft'`,
    quote: sql`o.kind = 'quote' and o.state in ('draft', 'quoted')`,
    held: sql`o.state = 'draft' and ${HELD}`,
    waiting: sql`facts.waiting > 0 and o.state = 'released'`,
    done: sql`facts.open = 0 and o.state = 'released'`,
    all: sql`true`,
  };
  const { rows } = await sql<Row>`
    select o.id, o.kind, o.number, c.name as customer, c.town, o.po_number, o.state, o.requested_day::text as requested_day, facts.promised_day::text as promised_day,
      facts.amount, facts.lines, case when o.state = 'released' then facts.waiting else 0 end as waiting, facts.open, facts.shipped, facts.picking, o.state = 'draft' and ${HELD} as held
    from sales_order o
    join customer c on c.id = o.customer_id
    cross join lateral (
      select count(*) as lines,
        coalesce(sum(round((l.stock_quantity - l.cancelled) * l.price * l.denominator / l.numerator, 2)), 0) as amount,
        count(*) filter (where l.shipped + l.cancelled < l.stock_quantity) + (count(*) = 0)::int as open,
        coalesce(sum(l.shipped), 0) as shipped,
        count(*) filter (where l.stock_quantity - l.shipped - l.cancelled > coalesce(p.promised, 0) + coalesce(d.dropped, 0)) as waiting,
        coalesce(sum(k.picking), 0) as picking,
        greatest(max(p.last_day), max(d.last_day)) as promised_day
      from order_line l
      left join lateral (select sum(quantity) as promised, max(day) as last_day from line_promise where line_id = l.id) p on true
      left join lateral (select sum(quantity - received - closed) as dropped, max(expected_day) as last_day from purchase_line where order_line_id = l.id and warehouse is null and received + closed < quantity) d on true
      left join lateral (select sum(sl.quantity) as picking from shipment_line sl join shipment s on s.id = sl.shipment_id where sl.order_line_id = l.id and s.state = 'picking') k on true
      where l.order_id = o.id
    ) facts
    where ${states[state]} ${before === undefined ? sql`` : sql`and o.id < ${before}`} ${sql.join(matches, sql` `)}
    order by o.id desc
    limit ${PAGE + 1}`.execute(db);
  const page = rows.slice(0, PAGE);
  const atRisk = await realDays(db, now, page);
  return { rows: page.map((row) => toRow(row, atRisk.get(row.id))), next: rows.length > PAGE ? page[page.length - 1]!.id : null };
}

/** Orders of the page whose supply comes later than promised: the day it comes, or null where none is left. */
async function realDays(db: Db, now: Now, page: readonly Row[]): Promise<Map<number, string | null>> {
  const ids = page.filter((row) => row.state === 'released' && Number(row.open) > 0).map((row) => row.id);
  const items = await db.selectFrom('order_line').select('item').distinct().where(anyOf('order_id', ids)).execute();
  if (items.length === 0) return new Map();
  const live = await loadBook(db, now, { items: items.map((row) => row.item) });
  const days = new Map<number, string | null>();
  for (const { id, arrives } of promiseBook(live.book).atRisk) {
    const { orderId } = live.demands.get(id)!;
    const known = days.get(orderId);
    days.set(orderId, arrives === null || known === null ? null : known === undefined || arrives > known ? arrives : known);
  }
  return days;
}

/** `realDay`: undefined where its promises hold. */
function toRow(row: Row, realDay: string | null | undefined): OrderRow {
  return {
    id: row.id,
    kind: row.kind,
    number: row.number,
    customer: row.customer,
    town: row.town,
    poNumber: row.po_number,
    state: row.state,
    progress: progressWord(row),
    requestedDay: row.requested_day,
    promisedDay: realDay ?? row.promised_day,
    amount: Number(row.amount).toFixed(2),
    lines: Number(row.lines),
    waiting: Number(row.waiting),
    atRisk: realDay !== undefined,
  };
}

/** The same words as on the order itself. */
function progressWord(row: Row): string {
  if (row.held) return 'held';
  if (row.state !== 'released') return row.state;
  const shipped = Number(row.shipped) > 0;
  if (Number(row.open) === 0) return shipped ? 'shipped' : 'cancelled';
  if (Number(row.picking) > 0) return 'picking';
  if (shipped) return 'part shipped';
  return Number(row.waiting) > 0 ? 'part waiting' : 'promised';
}
