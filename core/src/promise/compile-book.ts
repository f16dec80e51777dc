import { parseLocalTime, calendarOf, firstShipDayIn, parseClock, type DayNumber, leavesAgainIn } from '../calendar';
import type { BookColumns, Site } from './book-columns';
import { DayReader } from './day-reader';
import type { OrderBook } from './order-book';
import { indexById, PoolTable } from './pool-table';
import { SCALE, type Scaled } from './quantity';

/** Turns a faultless order book into columns. */
export function compileBook(book: OrderBook): BookColumns {
  const scale = hasFractions(book) ? SCALE : 1;
  const exact: Exact = (quantity) => Math.round(quantity * scale);
  // The columns must not hold the book: nothing that lives on may look at it.
  const { asOf } = book;
  const now = parseLocalTime(asOf)!;
  const sites = book.warehouses.map((warehouse): Site => {
    const calendar = calendarOf(warehouse);
    return { calendar, firstShipDay: firstShipDayIn(calendar, warehouse.cutoff, asOf), receivingDays: warehouse.receivingDays ?? 0 };
  });
  const days = new DayReader(sites);
  const pools = new PoolTable(book);
  const orderOf = indexById(book.orders);
  return {
    scale,
    sites,
    ...lineColumns(book, days, pools, orderOf, exact),
    ...promisedColumns(book, days, pools, exact),
    ...orderColumns(book, days),
    ...supplyColumns(book, days, pools, sites, now.day, exact),
    ...pools.columns(book, exact),
    poolOf: (item, warehouse) => pools.find(item, warehouse),
    orderOf: (id) => orderOf.get(id),
  };
}

/** A quantity of the book as the whole number the columns keep. */
type Exact = (quantity: number) => Scaled;

type LineColumns = 'lineIds' | 'lineOrder' | 'linePool' | 'lineQuantity' | 'lineRequested' | 'lineTarget' | 'linePartial' | 'lineLife';

function lineColumns(book: OrderBook, days: DayReader, pools: PoolTable, orderOf: ReadonlyMap<string, number>, exact: Exact): Pick<BookColumns, LineColumns> {
  const lines = book.demand.length;
  const lineOrder = new Int32Array(lines);
  const linePool = new Int32Array(lines);
  const lineQuantity = new Float64Array(lines);
  const lineRequested = new Int32Array(lines);
  const lineTarget = new Int32Array(lines);
  const linePartial = new Uint8Array(lines);
  const lineLife = new Int32Array(lines);
  for (let line = 0; line < lines; line++) {
    const demand = book.demand[line]!;
    const pool = pools.of(demand.item, demand.warehouse);
    lineOrder[line] = orderOf.get(demand.order)!;
    linePool[line] = pool;
    lineQuantity[line] = exact(demand.quantity);
    lineRequested[line] = days.number(demand.requested);
    lineTarget[line] = days.shipDay(demand.requested, pools.site[pool]!);
    linePartial[line] = (demand.partial ?? true) ? 1 : 0;
    lineLife[line] = demand.lifeDays ?? 0;
  }
  return { lineIds: book.demand.map((demand) => demand.id), lineOrder, linePool, lineQuantity, lineRequested, lineTarget, linePartial, lineLife };
}

type PromisedColumns = 'promisedFrom' | 'promisedDay' | 'promisedQuantity' | 'promisedAssembled' | 'promisedBound';

/** What is promised of each line, sorted by day, own before assembled; entries of one day become one. */
function promisedColumns(book: OrderBook, days: DayReader, pools: PoolTable, exact: Exact): Pick<BookColumns, PromisedColumns> {
  const promisedFrom = new Int32Array(book.demand.length + 1);
  const most = book.demand.reduce((sum, demand) => sum + (demand.promised?.length ?? 0), 0);
  const promisedDay = new Int32Array(most);
  const promisedQuantity = new Float64Array(most);
  const promisedAssembled = new Uint8Array(most);
  const saysBound = book.demand.some((demand) => demand.promised?.some((entry) => entry.boundQuantity !== undefined));
  const promisedBound = saysBound ? new Float64Array(most) : null;
  let promised = 0;
  for (const [line, { item, warehouse, promised: entries = [] }] of book.demand.entries()) {
    const first = promised;
    promisedFrom[line] = first;
    const site = entries.length > 0 ? pools.site[pools.of(item, warehouse)]! : 0;
    for (const entry of entries) {
      const day = days.shipDay(entry.date, site);
      const assembled = entry.assembled ? 1 : 0;
      const bound = exact(Math.min(entry.boundQuantity ?? entry.quantity, entry.quantity));
      let at = promised;
      while (at > first && rank(promisedDay[at - 1]!, promisedAssembled[at - 1]!) > rank(day, assembled)) at--;
      if (at > first && promisedDay[at - 1] === day && promisedAssembled[at - 1] === assembled) {
        promisedQuantity[at - 1]! += exact(entry.quantity);
        if (promisedBound) promisedBound[at - 1]! += bound;
        continue;
      }
      insertAt(promisedDay, at, promised, day);
      insertAt(promisedQuantity, at, promised, exact(entry.quantity));
      insertAt(promisedAssembled, at, promised, assembled);
      if (promisedBound) insertAt(promisedBound, at, promised, bound);
      promised++;
    }
  }
  promisedFrom[book.demand.length] = promised;
  // Entries of one day became one: there may be fewer than the book names.
  return {
    promisedFrom,
    promisedDay: promisedDay.subarray(0, promised),
    promisedQuantity: promisedQuantity.subarray(0, promised),
    promisedAssembled: promisedAssembled.subarray(0, promised),
    promisedBound: promisedBound && promisedBound.subarray(0, promised),
  };
}

/** Puts a value in place `at` of a column that is filled up to `end`. */
function insertAt(column: Int32Array | Float64Array | Uint8Array, at: number, end: number, value: number): void {
  column.copyWithin(at + 1, at, end);
  column[at] = value;
}

type SupplyColumns =
  'supplyIds' | 'supplyPool' | 'supplyQuantity' | 'supplyAvailable' | 'supplyOnHand' | 'supplyIdRank' | 'supplyFor' | 'supplyExpires' | 'poolExpires';

function supplyColumns(
  book: OrderBook,
  days: DayReader,
  pools: PoolTable,
  sites: readonly Site[],
  today: DayNumber,
  exact: Exact,
): Pick<BookColumns, SupplyColumns> {
  const supplies = book.supply.length;
  const supplyPool = new Int32Array(supplies);
  const supplyQuantity = new Float64Array(supplies);
  const supplyAvailable = new Int32Array(supplies);
  const supplyOnHand = new Uint8Array(supplies);
  const supplyFor = new Int32Array(supplies).fill(-1);
  const lineOf = book.supply.some((supply) => supply.for !== undefined) ? indexById(book.demand) : null;
  for (let at = 0; at < supplies; at++) {
    const supply = book.supply[at]!;
    const pool = pools.of(supply.item, supply.warehouse);
    const site = sites[pools.site[pool]!]!;
    supplyPool[at] = pool;
    supplyQuantity[at] = exact(supply.quantity);
    supplyOnHand[at] = supply.date === undefined ? 1 : 0;
    supplyAvailable[at] = supply.date === undefined ? site.firstShipDay : availableDay(days.number(supply.date), site, today);
    if (supply.for !== undefined) supplyFor[at] = lineOf!.get(supply.for)!;
  }

  const expiring = book.supply.some((supply) => supply.expires !== undefined);
  const supplyExpires = expiring ? Float64Array.from(book.supply, (supply) => (supply.expires === undefined ? Infinity : days.number(supply.expires))) : null;
  return {
    supplyIds: book.supply.map((supply) => supply.id),
    supplyPool,
    supplyQuantity,
    supplyAvailable,
    supplyOnHand,
    supplyIdRank: idRanks(book.supply),
    supplyFor,
    supplyExpires,
    poolExpires: supplyExpires && expiringPools(supplyExpires, supplyPool, pools.site.length),
  };
}

type OrderColumns = 'orderIds' | 'orderPriority' | 'orderEntered' | 'orderIdRank' | 'orderComplete';

function orderColumns(book: OrderBook, days: DayReader): Pick<BookColumns, OrderColumns> {
  const orders = book.orders.length;
  const orderPriority = new Float64Array(orders);
  const orderEntered = new Float64Array(orders);
  const orderComplete = new Uint8Array(orders);
  for (let at = 0; at < orders; at++) {
    const order = book.orders[at]!;
    orderPriority[at] = order.priority ?? DEFAULT_PRIORITY;
    orderEntered[at] = days.number(order.entered.slice(0, 10)) * MINUTES_A_DAY + parseClock(order.entered.slice(11))!;
    orderComplete[at] = order.shipComplete ? 1 : 0;
  }
  return { orderIds: book.orders.map((order) => order.id), orderPriority, orderEntered, orderIdRank: idRanks(book.orders), orderComplete };
}

export function expiringPools(supplyExpires: Float64Array, supplyPool: Int32Array, pools: number): Uint8Array {
  const expires = new Uint8Array(pools);
  supplyExpires.forEach((end, supply) => end < Infinity && (expires[supplyPool[supply]!] = 1));
  return expires;
}

/** The first day goods due on `due` can leave: they arrive on a working day and are put away, never before the first ship day. */
export function availableDay(due: DayNumber, site: Site, today: DayNumber): DayNumber {
  return Math.max(leavesAgainIn(site.calendar, site.receivingDays, due < today ? today + 1 : due), site.firstShipDay);
}

export function hasFractions(book: OrderBook): boolean {
  const fraction = ({ quantity }: { readonly quantity: number }) => !Number.isInteger(quantity);
  return (
    book.supply.some(fraction) ||
    book.items.some((item) => item.assembly?.components.some(fraction)) ||
    book.demand.some(
      (demand) => fraction(demand) || (demand.promised?.some((entry) => fraction(entry) || !Number.isInteger(entry.boundQuantity ?? 0)) ?? false),
    )
  );
}

export function rank(day: DayNumber, assembled: number): number {
  return 2 * day + assembled;
}

/** Each row's place when all are sorted by id, by UTF-16 code units as the book's format says: what the built-in sort does. */
export function idRanks(rows: readonly { readonly id: string }[]): Int32Array {
  const index = indexById(rows);
  const ranks = new Int32Array(rows.length);
  rows
    .map((row) => row.id)
    .sort()
    .forEach((id, place) => (ranks[index.get(id)!] = place));
  return ranks;
}

export const DEFAULT_PRIORITY = 5;
export const MINUTES_A_DAY = 1440;
