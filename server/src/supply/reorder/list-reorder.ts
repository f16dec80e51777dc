import type { ReorderPolicy, ReorderRow } from '@nockwright/contract/supply';
import { calendarOf, dayNumber, isoDay, leavesAgain, type WorkCalendar } from '@nockwright/core/calendar';
import { compareDecimal, lineAmount } from '@nockwright/core/money';
import { costFor, purchaseQuantity, supplierArrival } from '@nockwright/core/shortages';
import { demandOf, economicQuantity, reorderPoint, type LeadTime } from '@nockwright/core/supply';
import { sql } from 'kysely';
import type { Now } from '../../clock';
import { escapeLike, searchWords, type Db } from '../../database';
import { loadOdds, loadWarehouses } from '../../promise';
import { loadOffers, type ItemOffer } from '../load-offers';
import { readReorderPolicy } from './policy';

export interface ReorderFilter {
  readonly search?: string;
  readonly warehouse?: string;
  /** Only what is to be bought; else everything that is asked for. */
  readonly which?: 'due' | 'all';
}

interface Pool {
  readonly item: string;
  readonly description: string;
  readonly unit: string;
  readonly warehouse: string;
  readonly on_hand: string;
  readonly due: string;
  readonly owed: string;
  /** Of that, what waits for a purchase: chosen so, and nothing is bought for it yet. */
  readonly waiting: string;
  /** What was ordered on each day that anything was. */
  readonly days: readonly { readonly day: string; readonly quantity: string }[];
}

interface Place {
  readonly calendar: WorkCalendar;
  readonly book: { readonly workdays: readonly number[]; readonly closed?: readonly string[]; readonly receivingDays?: number };
}

/**
 * What to buy next. Demand is what customers ordered on the working days of the last so many, drop shipments and what was
 * bought for one order left out: they never touch the shelf. The lead time is what the supplier's calendar and ours make of
 * it today, its spread that of their receipts. Assembled items are not bought: their parts are.
 */
export async function listReorder(db: Db, now: Now, { search, warehouse, which = 'due' }: ReorderFilter): Promise<ReorderRow[]> {
  const policy = await readReorderPolicy(db);
  const from = isoDay(dayNumber(now.today) - policy.demandDays);
  const pools = await loadPools(db, now, from, search, warehouse);
  const offers = await loadOffers(db, [...new Set(pools.map((pool) => pool.item))], await loadOdds(db));
  const first = await db
    .selectFrom('sales_order')
    .select(({ fn }) => fn.min<string | null>('entered').as('first'))
    .executeTakeFirst();
  // A desk that is younger than the days looked back on has no demand before its first order.
  const since = first?.first && first.first.slice(0, 10) > from ? first.first.slice(0, 10) : from;
  const places = new Map((await loadWarehouses(db)).map(({ code, book }): [string, Place] => [code, { book, calendar: calendarOf(book) }]));
  // Many items have the same times of the same supplier: each way is counted through the calendars once.
  const known = new Map<string, Times>();
  const timesOf = (offer: ItemOffer, warehouse: string): Times => {
    // What they owe of an item already holds for that item alone.
    const key = `${offer.supplier}/${offer.leadDays}/${offer.notBefore ?? ''}/${warehouse}`;
    let times = known.get(key);
    if (!times) known.set(key, (times = timesFor(offer, places.get(warehouse)!, now)));
    return times;
  };
  const rows = pools.flatMap((pool) => rowOf(pool, offers.get(pool.item) ?? [], places.get(pool.warehouse)!, timesOf, policy, now, since));
  return rows
    .filter((row) => which === 'all' || compareDecimal(row.position, row.point) <= 0 || compareDecimal(row.waiting, '0') > 0)
    .sort((a, b) => a.supplierName.localeCompare(b.supplierName) || a.warehouse.localeCompare(b.warehouse) || a.item.localeCompare(b.item));
}

/** When what is ordered of a supplier now comes to a warehouse and can leave it, and how surely. */
interface Times {
  readonly arrives: string;
  readonly lead: LeadTime;
}

function timesFor(offer: ItemOffer, { calendar, book }: Place, now: Now): Times {
  const arrives = supplierArrival(now.localTime, offer);
  // As they deliver, not as they say: a supplier who is four days late on average has a lead time that is four days longer.
  const delivered = isoDay(Math.max(dayNumber(now.today), dayNumber(arrives) + Math.round(offer.odds?.meanLate ?? 0)));
  const leaves = leavesAgain(delivered, { workdays: book.workdays, closed: book.closed ?? [], receivingDays: book.receivingDays ?? 0 });
  return { arrives, lead: { days: workdaysBetween(calendar, now.today, leaves), deviation: offer.odds?.deviation ?? 0 } };
}

function rowOf(
  pool: Pool,
  offers: readonly ItemOffer[],
  place: Place,
  timesOf: (offer: ItemOffer, warehouse: string) => Times,
  policy: ReorderPolicy,
  now: Now,
  since: string,
): ReorderRow[] {
  const asked = demandOf(dailyDemand(pool, place.calendar, since, now.today));
  const waits = Number(pool.waiting);
  if ((asked.perDay === 0 && waits === 0) || offers.length === 0) return [];
  const position = Number(pool.on_hand) + Number(pool.due) - Number(pool.owed);
  const choices = offers.map((offer) => choiceOf(offer, timesOf(offer, pool.warehouse), policy, asked, position, waits));
  choices.sort((a, b) => compareDecimal(a.cost, b.cost) || a.lead.days - b.lead.days);
  const [best] = choices as [Choice, ...Choice[]];
  return [
    {
      item: pool.item,
      description: pool.description,
      unit: pool.unit,
      warehouse: pool.warehouse,
      onHand: pool.on_hand,
      due: pool.due,
      owed: pool.owed,
      waiting: pool.waiting,
      position: whole(position),
      perDay: rounded(asked.perDay),
      deviation: rounded(asked.deviation),
      leadDays: best.lead.days,
      leadDeviation: rounded(best.lead.deviation),
      safety: whole(best.safety),
      point: whole(best.point),
      quantity: best.quantity,
      supplier: best.offer.supplier,
      supplierName: best.offer.name,
      cost: best.cost,
      value: lineAmount(best.quantity, best.cost, 'EUR'),
      suppliers: choices.map(({ offer, cost, quantity, arrives }) => ({ code: offer.supplier, name: offer.name, cost, quantity, arrives })),
    },
  ];
}

interface Choice {
  readonly offer: ItemOffer;
  readonly lead: LeadTime;
  readonly arrives: string;
  readonly safety: number;
  readonly point: number;
  readonly quantity: string;
  readonly cost: string;
}

/** What buying of this supplier means: when it is time, how many in their lots, what each costs. */
function choiceOf(
  offer: ItemOffer,
  { arrives, lead }: Times,
  policy: ReorderPolicy,
  asked: { readonly perDay: number; readonly deviation: number },
  position: number,
  waits: number,
): Choice {
  const { safety, point } = reorderPoint(asked, lead, policy.level);
  const economic = economicQuantity(asked.perDay, Number(offer.cost), { order: Number(policy.orderCost), holdingPercent: Number(policy.holdingPercent) });
  // At least back up to the reorder point, and never a part of a unit more than is asked for.
  const wanted = Math.max(1, Math.ceil(Math.max(economic, point - position, waits)));
  const quantity = purchaseQuantity(String(wanted), offer);
  return { offer, lead, arrives, safety, point, quantity, cost: costFor(quantity, offer) };
}

/** What was ordered on each working day since then; of a day that is none, on the working day after it. */
function dailyDemand(pool: Pool, calendar: WorkCalendar, since: string, today: string): number[] {
  const days = new Map<number, number>();
  for (let day = calendar.ceil(dayNumber(since)); day < dayNumber(today); day = calendar.ceil(day + 1)) days.set(day, 0);
  for (const { day, quantity } of pool.days) {
    const at = calendar.ceil(dayNumber(day));
    if (days.has(at)) days.set(at, days.get(at)! + Number(quantity));
  }
  return [...days.values()];
}

function workdaysBetween(calendar: WorkCalendar, from: string, to: string): number {
  let days = 0;
  for (let day = calendar.ceil(dayNumber(from)); day < dayNumber(to); day = calendar.ceil(day + 1)) days++;
  return days;
}

async function loadPools(db: Db, now: Now, from: string, search: string | undefined, warehouse: string | undefined): Promise<readonly Pool[]> {
  const matches = searchWords(search).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (i.search like ${like} or exists (select from supplier_item x join supplier s on s.code = x.supplier where x.item = i.code and lower(s.name) like ${like}))`;
  });
  // Each sum is made once for all items, not once for each: a desk has thousands of them.
  const { rows } = await sql<Pool>`
    with due as (
      select l.item, l.warehouse, sum(l.quantity - l.received - l.closed) as quantity
      from purchase_line l join purchase_order p on p.id = l.purchase_id
      where l.warehouse is not null and p.state <> 'cancelled' and l.received + l.closed < l.quantity
      group by 1, 2
    ), bound as (
      select order_line_id, sum(quantity - closed) as bought, coalesce(sum(quantity - received - closed) filter (where warehouse is null), 0) as dropping
      from purchase_line where order_line_id is not null
      group by 1
    ), taken as (
      select c.component as item, a.warehouse, a.created_day as day, c.per_unit * (a.quantity - a.cancelled) as asked,
        c.per_unit * (a.quantity - a.built - a.cancelled) as owed
      from assembly_order a join assembly_component c on c.assembly_id = a.id
      where a.state = 'open' or a.created_day >= ${from}::date
    ), line as (
      select l.item, l.warehouse, o.entered::date as day, greatest(0, l.stock_quantity - l.cancelled - coalesce(b.bought, 0)) as asked,
        greatest(0, l.stock_quantity - l.shipped - l.cancelled - coalesce(b.dropping, 0)) as owed
      from order_line l join sales_order o on o.id = l.order_id left join bound b on b.order_line_id = l.id
      where o.kind = 'order' and o.state = 'released' and (l.shipped + l.cancelled < l.stock_quantity or o.entered >= ${from}::date)
    ), need as (
      select * from line union all select * from taken
    ), owed as (
      select item, warehouse, sum(owed) as quantity from need group by 1, 2
    ), waiting as (
      select l.item, l.warehouse, sum(least(r.quantity, l.stock_quantity - l.shipped - l.cancelled - coalesce(b.dropping, 0) - coalesce(p.promised, 0))) as quantity
      from (select line_id, sum(quantity) as quantity from line_route where kind = 'backorder' group by 1) r
      join order_line l on l.id = r.line_id
      join sales_order o on o.id = l.order_id and o.kind = 'order' and o.state = 'released'
      left join bound b on b.order_line_id = l.id
      left join (select line_id, sum(quantity) as promised from line_promise group by 1) p on p.line_id = l.id
      where l.stock_quantity - l.shipped - l.cancelled - coalesce(b.dropping, 0) - coalesce(p.promised, 0) > 0
      group by 1, 2
    ), asked as (
      select item, warehouse, json_agg(json_build_object('day', day, 'quantity', quantity::text)) as days
      from (
        select item, warehouse, day::text, sum(asked) as quantity
        from need where day >= ${from}::date and day < ${now.today}::date
        group by 1, 2, 3
      ) d
      group by 1, 2
    )
    select i.code as item, i.description, i.unit, w.code as warehouse, trim_scale(coalesce(s.on_hand, 0))::text as on_hand,
      trim_scale(coalesce(due.quantity, 0))::text as due, trim_scale(coalesce(owed.quantity, 0))::text as owed,
      trim_scale(coalesce(waiting.quantity, 0))::text as waiting, coalesce(asked.days, '[]') as days
    from (select item, warehouse from asked union select item, warehouse from waiting) pool
    join item i on i.code = pool.item
    join warehouse w on w.code = pool.warehouse
    left join asked on asked.item = i.code and asked.warehouse = w.code
    left join waiting on waiting.item = i.code and waiting.warehouse = w.code
    left join stock s on s.item = i.code and s.warehouse = w.code
    left join due on due.item = i.code and due.warehouse = w.code
    left join owed on owed.item = i.code and owed.warehouse = w.code
    where not i.discontinued and exists (select from supplier_item x where x.item = i.code)
      and ${warehouse ? sql`w.code = ${warehouse}` : sql`true`} ${sql.join(matches, sql` `)}`.execute(db);
  return rows;
}

function whole(value: number): string {
  return String(Math.ceil(value - 1e-9));
}

function rounded(value: number): number {
  return Math.round(value * 100) / 100;
}
