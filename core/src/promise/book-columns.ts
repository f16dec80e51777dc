import type { ItemCode, WarehouseCode } from '../ids';
import { type DayNumber, type WorkCalendar } from '../calendar';

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
  readonly poolOf: (item: ItemCode, warehouse: WarehouseCode) => number | undefined;
  readonly orderOf: (id: string) => number | undefined;
}

/**
 * The book with some columns in place of its own. Made here always: objects made in one place have one shape, and code
 * that meets one shape only is compiled for it.
 */
export function withColumns(book: BookColumns, columns: Partial<BookColumns>): BookColumns {
  return { ...book, ...columns };
}
