import { calendarOf, dayNumber, type DayNumber, firstShipDayIn, leavesAgainIn, parseClock, parseLocalTime, type WorkCalendar } from '../calendar';
import type { OrderBook } from './order-book';
import { SCALE, type Scaled } from './quantity';

/** A warehouse as the computation sees it. */
export interface Site {
  readonly calendar: WorkCalendar;
  /** F: the first day on which goods can leave. */
  readonly firstShipDay: DayNumber;
  readonly receivingDays: number;
}

/**
 * A faultless order book as columns: one typed array a field, rows in file order, references as row numbers, days as
 * day numbers already read by the warehouse's calendar, quantities exact. A *pool* is an item at a warehouse; every
 * pool that a line, a supply or a component can need has a row. A list within a row (`…From`) ends where the next begins.
 */
export interface BookColumns {
  /** Parts of the stocking unit that quantities count: 1 or 10,000. */
  readonly scale: number;
  readonly sites: readonly Site[];

  readonly lineIds: readonly string[];
  readonly lineOrder: Int32Array;
  readonly linePool: Int32Array;
  readonly lineQuantity: Float64Array;
  readonly lineRequested: Int32Array;
  /** The last working day on or before `requested`, never before the first ship day. */
  readonly lineTarget: Int32Array;
  readonly linePartial: Uint8Array;
  /** Days of life that must be left on its ship day; asked only where a pool's goods expire. */
  readonly lineLife: Int32Array;

  /** What each line was promised: by day, own before assembled, one entry a day of either. */
  readonly promisedFrom: Int32Array;
  readonly promisedDay: Int32Array;
  readonly promisedQuantity: Float64Array;
  readonly promisedAssembled: Uint8Array;
  /** What of it stands on bound supply at most; null in a book that says so of none. */
  readonly promisedBound: Float64Array | null;

  readonly orderIds: readonly string[];
  readonly orderPriority: Float64Array;
  /** Minutes since 1970-01-01T00:00. */
  readonly orderEntered: Float64Array;
  /** The order's place when all are sorted by id. */
  readonly orderIdRank: Int32Array;
  readonly orderComplete: Uint8Array;

  readonly supplyIds: readonly string[];
  readonly supplyPool: Int32Array;
  readonly supplyQuantity: Float64Array;
  /** The day its goods can leave. */
  readonly supplyAvailable: Int32Array;
  readonly supplyOnHand: Uint8Array;
  readonly supplyIdRank: Int32Array;
  /** The line it is bound to, or -1. */
  readonly supplyFor: Int32Array;
  /** The last day its goods may be used, Infinity where they keep; null in a book without any that expire. */
  readonly supplyExpires: Float64Array | null;
  /** Whether a supply of the pool expires, bound or not; null in a book without any. */
  readonly poolExpires: Uint8Array | null;

  readonly poolSite: Int32Array;
  /** Working days of assembly, or -1 where the item is not assembled. */
  readonly poolAssemblyDays: Float64Array;
  readonly partFrom: Int32Array;
  readonly partPool: Int32Array;
  readonly partQuantity: Float64Array;

  /** The row of an item at a warehouse, and of an order; undefined where the book has none. */
  readonly poolOf: (item: string, warehouse: string) => number | undefined;
  readonly orderOf: (id: string) => number | undefined;
}

const DEFAULT_PRIORITY = 5;
const MINUTES_A_DAY = 1440;

/** Turns a faultless order book into columns. */
export function compileBook(book: OrderBook): BookColumns {
  const scale = hasFractions(book) ? SCALE : 1;
  const exact = (quantity: number): Scaled => Math.round(quantity * scale);
  // The columns must not hold the book: nothing that lives on may look at it.
  const { asOf } = book;
  const now = parseLocalTime(asOf)!;
  const sites = book.warehouses.map((warehouse): Site => {
    const calendar = calendarOf(warehouse);
    return { calendar, firstShipDay: firstShipDayIn(calendar, warehouse.cutoff, asOf), receivingDays: warehouse.receivingDays ?? 0 };
  });
  const days = new DayReader(sites);
  const pools = new PoolTable(book);

  const lines = book.demand.length;
  const lineOrder = new Int32Array(lines);
  const linePool = new Int32Array(lines);
  const lineQuantity = new Float64Array(lines);
  const lineRequested = new Int32Array(lines);
  const lineTarget = new Int32Array(lines);
  const linePartial = new Uint8Array(lines);
  const lineLife = new Int32Array(lines);
  const promisedFrom = new Int32Array(lines + 1);
  const most = book.demand.reduce((sum, demand) => sum + (demand.promised?.length ?? 0), 0);
  const promisedDay = new Int32Array(most);
  const promisedQuantity = new Float64Array(most);
  const promisedAssembled = new Uint8Array(most);
  const saysBound = book.demand.some((demand) => demand.promised?.some((entry) => entry.boundQuantity !== undefined));
  const promisedBound = saysBound ? new Float64Array(most) : null;
  const orderOf = indexById(book.orders);
  const lineIds = book.demand.map((demand) => demand.id);
  let promised = 0;
  for (let line = 0; line < lines; line++) {
    const demand = book.demand[line]!;
    const pool = pools.of(demand.item, demand.warehouse);
    const site = pools.site[pool]!;
    lineOrder[line] = orderOf.get(demand.order)!;
    linePool[line] = pool;
    lineQuantity[line] = exact(demand.quantity);
    lineRequested[line] = days.number(demand.requested);
    lineTarget[line] = days.shipDay(demand.requested, site);
    linePartial[line] = (demand.partial ?? true) ? 1 : 0;
    lineLife[line] = demand.lifeDays ?? 0;
    promisedFrom[line] = promised;
    for (const entry of demand.promised ?? []) {
      const day = days.shipDay(entry.date, site);
      const assembled = entry.assembled ? 1 : 0;
      // Kept sorted by day, own before assembled; entries of one day become one.
      let at = promised;
      while (at > promisedFrom[line]! && rank(promisedDay[at - 1]!, promisedAssembled[at - 1]!) > rank(day, assembled)) at--;
      if (at > promisedFrom[line]! && promisedDay[at - 1] === day && promisedAssembled[at - 1] === assembled) {
        promisedQuantity[at - 1]! += exact(entry.quantity);
        if (promisedBound) promisedBound[at - 1]! += exact(Math.min(entry.boundQuantity ?? entry.quantity, entry.quantity));
        continue;
      }
      promisedDay.copyWithin(at + 1, at, promised);
      promisedQuantity.copyWithin(at + 1, at, promised);
      promisedAssembled.copyWithin(at + 1, at, promised);
      promisedDay[at] = day;
      promisedQuantity[at] = exact(entry.quantity);
      promisedAssembled[at] = assembled;
      if (promisedBound) {
        promisedBound.copyWithin(at + 1, at, promised);
        promisedBound[at] = exact(Math.min(entry.boundQuantity ?? entry.quantity, entry.quantity));
      }
      promised++;
    }
  }
  promisedFrom[lines] = promised;

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
    supplyAvailable[at] = supply.date === undefined ? site.firstShipDay : availableDay(days.number(supply.date), site, now.day);
    if (supply.for !== undefined) supplyFor[at] = lineOf!.get(supply.for)!;
  }

  const expiring = book.supply.some((supply) => supply.expires !== undefined);
  const supplyExpires = expiring ? Float64Array.from(book.supply, (supply) => (supply.expires === undefined ? Infinity : days.number(supply.expires))) : null;

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

  return {
    scale,
    sites,
    lineIds,
    lineOrder,
    linePool,
    lineQuantity,
    lineRequested,
    lineTarget,
    linePartial,
    lineLife,
    promisedFrom,
    // Entries of one day became one: there may be fewer than the book names.
    promisedDay: promisedDay.subarray(0, promised),
    promisedQuantity: promisedQuantity.subarray(0, promised),
    promisedAssembled: promisedAssembled.subarray(0, promised),
    promisedBound: promisedBound && promisedBound.subarray(0, promised),
    orderIds: book.orders.map((order) => order.id),
    orderPriority,
    orderEntered,
    orderIdRank: idRanks(book.orders),
    orderComplete,
    supplyIds: book.supply.map((supply) => supply.id),
    supplyPool,
    supplyQuantity,
    supplyAvailable,
    supplyOnHand,
    supplyIdRank: idRanks(book.supply),
    supplyFor,
    supplyExpires,
    poolExpires: supplyExpires && expiringPools(supplyExpires, supplyPool, pools.site.length),
    ...pools.columns(book, exact),
    poolOf: (item, warehouse) => pools.find(item, warehouse),
    orderOf: (id) => orderOf.get(id),
  };
}

/**
 * The book with some columns in place of its own. Made here always: objects made in one place have one shape, and code
 * that meets one shape only is compiled for it.
 */
export function withColumns(book: BookColumns, columns: Partial<BookColumns>): BookColumns {
  return { ...book, ...columns };
}

function expiringPools(supplyExpires: Float64Array, supplyPool: Int32Array, pools: number): Uint8Array {
  const expires = new Uint8Array(pools);
  supplyExpires.forEach((end, supply) => end < Infinity && (expires[supplyPool[supply]!] = 1));
  return expires;
}

/** The first day goods due on `due` can leave: they arrive on a working day and are put away, never before the first ship day. */
function availableDay(due: DayNumber, site: Site, today: DayNumber): DayNumber {
  return Math.max(leavesAgainIn(site.calendar, site.receivingDays, due < today ? today + 1 : due), site.firstShipDay);
}

/** Reads days once each: a book names few days and names them often. */
class DayReader {
  private readonly numbers = new Map<string, DayNumber>();
  private readonly shipDays: readonly Map<string, DayNumber>[];

  constructor(private readonly sites: readonly Site[]) {
    this.shipDays = sites.map(() => new Map());
  }

  number(text: string): DayNumber {
    let day = this.numbers.get(text);
    if (day === undefined) this.numbers.set(text, (day = dayNumber(text)));
    return day;
  }

  /** The last working day on or before it, never before the first ship day. */
  shipDay(text: string, site: number): DayNumber {
    let day = this.shipDays[site]!.get(text);
    if (day === undefined) {
      const { calendar, firstShipDay } = this.sites[site]!;
      this.shipDays[site]!.set(text, (day = Math.max(calendar.floor(this.number(text)), firstShipDay)));
    }
    return day;
  }
}

/** Numbers the pools a book can need, components of assembled items included. Outlives the book, so it must not hold it. */
class PoolTable {
  readonly site: number[] = [];
  private readonly item: number[] = [];
  private readonly numbers = new Map<number, number>();
  private readonly itemOf: ReadonlyMap<string, number>;
  private readonly siteOf: ReadonlyMap<string, number>;

  constructor(book: OrderBook) {
    this.itemOf = indexById(book.items);
    this.siteOf = indexById(book.warehouses);
  }

  of(item: string, warehouse: string): number {
    return this.number(this.itemOf.get(item)!, this.siteOf.get(warehouse)!);
  }

  find(item: string, warehouse: string): number | undefined {
    const [itemAt, siteAt] = [this.itemOf.get(item), this.siteOf.get(warehouse)];
    return itemAt === undefined || siteAt === undefined ? undefined : this.numbers.get(itemAt * this.siteOf.size + siteAt);
  }

  columns(book: OrderBook, exact: (quantity: number) => Scaled) {
    const partFrom: number[] = [];
    const partPool: number[] = [];
    const partQuantity: number[] = [];
    const assemblyDays: number[] = [];
    // The list grows while it is walked: components bring pools of their own.
    for (let pool = 0; pool < this.site.length; pool++) {
      const { assembly } = book.items[this.item[pool]!]!;
      partFrom.push(partPool.length);
      assemblyDays.push(assembly ? assembly.days : -1);
      for (const part of assembly?.components ?? []) {
        partPool.push(this.number(this.itemOf.get(part.item)!, this.site[pool]!));
        partQuantity.push(exact(part.quantity));
      }
    }
    partFrom.push(partPool.length);
    return {
      poolSite: Int32Array.from(this.site),
      poolAssemblyDays: Float64Array.from(assemblyDays),
      partFrom: Int32Array.from(partFrom),
      partPool: Int32Array.from(partPool),
      partQuantity: Float64Array.from(partQuantity),
    };
  }

  private number(item: number, site: number): number {
    const key = item * this.siteOf.size + site;
    let pool = this.numbers.get(key);
    if (pool === undefined) {
      pool = this.site.length;
      this.numbers.set(key, pool);
      this.site.push(site);
      this.item.push(item);
    }
    return pool;
  }
}

function hasFractions(book: OrderBook): boolean {
  const fraction = ({ quantity }: { readonly quantity: number }) => !Number.isInteger(quantity);
  return (
    book.supply.some(fraction) ||
    book.items.some((item) => item.assembly?.components.some(fraction)) ||
    book.demand.some(
      (demand) => fraction(demand) || (demand.promised?.some((entry) => fraction(entry) || !Number.isInteger(entry.boundQuantity ?? 0)) ?? false),
    )
  );
}

function rank(day: DayNumber, assembled: number): number {
  return 2 * day + assembled;
}

function indexById(rows: readonly { readonly id: string }[]): ReadonlyMap<string, number> {
  const index = new Map<string, number>();
  for (let at = 0; at < rows.length; at++) index.set(rows[at]!.id, at);
  return index;
}

/** Each row's place when all are sorted by id, by UTF-16 code units as the book's format says: what the built-in sort does. */
function idRanks(rows: readonly { readonly id: string }[]): Int32Array {
  const index = indexById(rows);
  const ranks = new Int32Array(rows.length);
  rows
    .map((row) => row.id)
    .sort()
    .forEach((id, place) => (ranks[index.get(id)!] = place));
  return ranks;
}
