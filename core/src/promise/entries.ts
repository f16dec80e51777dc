import type { DayNumber } from '../calendar';
import type { BookColumns } from './book-columns';
import type { Scaled } from './quantity';

/**
 * The parts in which lines leave, as columns that grow. Entries 0 to kept - 1 are the promises kept, in the order of
 * the arranged book's columns; new ones follow, those of one line together. Columns that only books with bound supply
 * or assembled items need are empty in others: what is read beyond their end is undefined, so ask first.
 */
export class Entries {
  count: number;
  day: Int32Array;
  quantity: Float64Array;
  readonly withBound: boolean;
  /** How much of it comes from supply bound to the line; the rest of an own entry is taken from the line's pool. */
  fromBound: Float64Array;
  readonly withAssembly: boolean;
  assembled: Uint8Array;
  /** A kept assembled entry whose components would have had to be taken before the first ship day. */
  startsTooLate: Uint8Array;
  /** The components of an assembled entry: rows of `Takings`. */
  takingsFrom: Int32Array;
  takingsCount: Int32Array;

  constructor(
    book: BookColumns,
    readonly kept: number,
    room: number,
  ) {
    this.count = kept;
    this.withBound = book.supplyFor.some((line) => line >= 0);
    this.withAssembly = book.partPool.length > 0;
    const size = kept + room;
    this.day = new Int32Array(size);
    this.quantity = new Float64Array(size);
    this.fromBound = new Float64Array(this.withBound ? size : 0);
    const assembled = this.withAssembly ? size : 0;
    this.assembled = new Uint8Array(assembled);
    this.startsTooLate = new Uint8Array(assembled);
    this.takingsFrom = new Int32Array(assembled);
    this.takingsCount = new Int32Array(assembled);
    if (kept === 0) return;
    this.day.set(book.promisedDay);
    this.quantity.set(book.promisedQuantity);
    if (this.withAssembly) this.assembled.set(book.promisedAssembled);
  }

  add(day: DayNumber, quantity: Scaled): number {
    if (this.count === this.day.length) this.widen();
    const entry = this.count++;
    this.day[entry] = day;
    this.quantity[entry] = quantity;
    return entry;
  }

  isAssembled(entry: number): boolean {
    return this.withAssembly && this.assembled[entry] === 1;
  }

  /** What an own entry takes from its pool. */
  fromPool(entry: number): Scaled {
    return this.withBound ? this.quantity[entry]! - this.fromBound[entry]! : this.quantity[entry]!;
  }

  private widen() {
    const size = 2 * this.count + 16;
    this.day = widened(this.day, new Int32Array(size));
    this.quantity = widened(this.quantity, new Float64Array(size));
    if (this.withBound) this.fromBound = widened(this.fromBound, new Float64Array(size));
    if (!this.withAssembly) return;
    this.assembled = widened(this.assembled, new Uint8Array(size));
    this.startsTooLate = widened(this.startsTooLate, new Uint8Array(size));
    this.takingsFrom = widened(this.takingsFrom, new Int32Array(size));
    this.takingsCount = widened(this.takingsCount, new Int32Array(size));
  }
}

/** What is taken from pools as components of assembled entries; as columns that grow, the last ones can be dropped. */
export class Takings {
  count = 0;
  pool = new Int32Array(16);
  day = new Int32Array(16);
  quantity = new Float64Array(16);
  /** Working days from its day until what it goes into can leave: the assembly days of every level above it. */
  lead = new Float64Array(16);

  add(pool: number, day: DayNumber, quantity: Scaled, lead: number): void {
    if (this.count === this.pool.length) {
      const size = 2 * this.count;
      this.pool = widened(this.pool, new Int32Array(size));
      this.day = widened(this.day, new Int32Array(size));
      this.quantity = widened(this.quantity, new Float64Array(size));
      this.lead = widened(this.lead, new Float64Array(size));
    }
    this.pool[this.count] = pool;
    this.day[this.count] = day;
    this.quantity[this.count] = quantity;
    this.lead[this.count++] = lead;
  }
}

/** Which supply serves which entry or taking: runs of rows. Supply -1: none is left. */
export class Pegs {
  count = 0;
  supply: Int32Array;
  quantity: Float64Array;

  constructor(room: number) {
    this.supply = new Int32Array(room);
    this.quantity = new Float64Array(room);
  }

  add(supply: number, quantity: Scaled): void {
    if (this.count === this.supply.length) {
      const size = 2 * this.count + 16;
      this.supply = widened(this.supply, new Int32Array(size));
      this.quantity = widened(this.quantity, new Float64Array(size));
    }
    this.supply[this.count] = supply;
    this.quantity[this.count++] = quantity;
  }
}

/** For each entry or taking the run of pegs that serves it. */
export class PegRuns {
  private from: Int32Array;
  private count: Int32Array;

  constructor(room: number) {
    this.from = new Int32Array(room);
    this.count = new Int32Array(room);
  }

  set(row: number, from: number, count: number): void {
    if (row >= this.from.length) {
      const size = 2 * row + 16;
      this.from = widened(this.from, new Int32Array(size));
      this.count = widened(this.count, new Int32Array(size));
    }
    this.from[row] = from;
    this.count[row] = count;
  }

  fromOf(row: number): number {
    return row < this.from.length ? this.from[row]! : 0;
  }

  countOf(row: number): number {
    return row < this.count.length ? this.count[row]! : 0;
  }
}

export function widened<A extends Int32Array | Float64Array | Uint8Array>(from: A, to: A): A {
  to.set(from as never);
  return to;
}
