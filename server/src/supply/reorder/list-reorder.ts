import type { WarehouseCode } from '@nockwright/core/ids';
import type { ItemOffer } from '@nockwright/core/routing';
import type { ReorderPolicy, ReorderRow } from '@nockwright/contract/supply';
import { calendarOf, dayNumber, isoDay, leavesAgain, type WorkCalendar } from '@nockwright/core/calendar';
import { compareDecimal, lineAmount } from '@nockwright/core/money';
import { costFor, purchaseQuantity, supplierArrival } from '@nockwright/core/shortages';
import { demandOf, economicQuantity, reorderPoint, type LeadTime } from '@nockwright/core/supply';
import type { Now } from '../../clock';
import { type Db } from '../../database';
import { loadCurrency } from '../../firm';
import { loadOdds, loadWarehouses } from '../../promise';
import { mapInTurns } from '../../work';
import { loadOffers } from '../load-offers';
import { readReorderPolicy } from './policy';
import { loadPools, type Pool } from './reorder-pools';

export interface ReorderFilter {
  readonly search?: string;
  readonly warehouse?: WarehouseCode;
  /** Only what is to be bought; else everything that is asked for. */
  readonly which?: 'due' | 'all';
}

interface Place {
  readonly calendar: WorkCalendar;
  /** Working days looked back on, as day numbers. */
  readonly days: readonly number[];
  /** The working day that an order of a day counts for. */
  readonly countsFor: (day: string) => number;
  readonly book: { readonly workdays: readonly number[]; readonly closed?: readonly string[]; readonly receivingDays?: number };
}

/**
 * What to buy next. Demand is what customers ordered on the working days of the last so many, drop shipments and what was
 * bought for one order left out: they never touch the shelf. The lead time is what the supplier's calendar and ours make of
 * it today, its spread that of their receipts. Assembled items are not bought: their parts are.
 */
export async function listReorder(db: Db, now: Now, { search, warehouse, which = 'due' }: ReorderFilter): Promise<ReorderRow[]> {
  const policy = await readReorderPolicy(db);
  const currency = await loadCurrency(db);
  const from = isoDay(dayNumber(now.today) - policy.demandDays);
  const pools = await loadPools(db, now, from, search, warehouse);
  const offers = await loadOffers(db, [...new Set(pools.map((pool) => pool.item))], await loadOdds(db));
  const first = await db
    .selectFrom('sales_order')
    .select(({ fn }) => fn.min<string | null>('entered').as('first'))
    .executeTakeFirst();
  // A desk that is younger than the days looked back on has no demand before its first order.
  const since = first?.first && first.first.slice(0, 10) > from ? first.first.slice(0, 10) : from;
  const places = new Map((await loadWarehouses(db)).map(({ code, book }): [string, Place] => [code, placeOf(book, since, now.today)]));
  // Many items have the same times of the same supplier: each way is counted through the calendars once.
  const known = new Map<string, Times>();
  const timesOf = (offer: ItemOffer, warehouse: WarehouseCode): Times => {
    // What they owe of an item already holds for that item alone.
    const key = `${offer.supplier}/${offer.leadDays}/${offer.notBefore ?? ''}/${warehouse}`;
    let times = known.get(key);
    if (!times) known.set(key, (times = timesFor(offer, places.get(warehouse)!, now)));
    return times;
  };
  const rows = await mapInTurns(pools, (pool) => rowOf(pool, offers.get(pool.item) ?? [], places.get(pool.warehouse)!, timesOf, policy, currency));
  return rows
    .flat()
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
  timesOf: (offer: ItemOffer, warehouse: WarehouseCode) => Times,
  policy: ReorderPolicy,
  currency: string,
): ReorderRow[] {
  const asked = demandOf(dailyDemand(pool, place));
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
      value: lineAmount(best.quantity, best.cost, currency),
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

/** What was ordered on each working day looked back on; of a day that is none, on the working day after it. */
function dailyDemand(pool: Pool, { days, countsFor }: Place): number[] {
  const asked = new Map(days.map((day) => [day, 0]));
  for (const { day, quantity } of pool.days) {
    const at = countsFor(day);
    if (asked.has(at)) asked.set(at, asked.get(at)! + Number(quantity));
  }
  return [...asked.values()];
}

/** A warehouse, its days read from its calendar once for all items. */
function placeOf(book: Place['book'], since: string, today: string): Place {
  const calendar = calendarOf(book);
  const days: number[] = [];
  for (let day = calendar.ceil(dayNumber(since)); day < dayNumber(today); day = calendar.ceil(day + 1)) days.push(day);
  const known = new Map<string, number>();
  const countsFor = (day: string) => {
    let at = known.get(day);
    if (at === undefined) known.set(day, (at = calendar.ceil(dayNumber(day))));
    return at;
  };
  return { book, calendar, days, countsFor };
}

function workdaysBetween(calendar: WorkCalendar, from: string, to: string): number {
  let days = 0;
  for (let day = calendar.ceil(dayNumber(from)); day < dayNumber(to); day = calendar.ceil(day + 1)) days++;
  return days;
}

function whole(value: number): string {
  return String(Math.ceil(value - 1e-9));
}

function rounded(value: number): number {
  return Math.round(value * 100) / 100;
}
