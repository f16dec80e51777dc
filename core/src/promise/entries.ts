import type { DayNumber } from '../calendar';
import type { Scaled } from './quantity';

/**
 * The parts in which lines leave, as columns that grow. Entries 0 to kept - 1 are the promises kept, in the order of
 * the book's columns; new ones follow, those of one line together.
 */
export class Entries {
  count: number;
  day: Int32Array;
  quantity: Float64Array;
  /** How much of it comes from supply bound to the line; the rest of an own entry is taken from the line's pool. */
  fromBound: Float64Array;
  assembled: Uint8Array;
  /** A kept assembled entry whose components would have had to be taken before the first ship day. */
  startsTooLate: Uint8Array;
  /** The components of an assembled entry: rows of `Takings`. */
  takingsFrom: Int32Array;
  takingsCount: Int32Array;

  constructor(
    readonly kept: number,
    room: number,
  ) {
    this.count = kept;
    const size = kept + room;
    this.day = new Int32Array(size);
    this.quantity = new Float64Array(size);
    this.fromBound = new Float64Array(size);
    this.assembled = new Uint8Array(size);
    this.startsTooLate = new Uint8Array(size);
    this.takingsFrom = new Int32Array(size);
    this.takingsCount = new Int32Array(size);
  }

  add(day: DayNumber, quantity: Scaled, fromBound: Scaled): number {
    if (this.count === this.day.length) this.widen();
    const entry = this.count++;
    this.day[entry] = day;
    this.quantity[entry] = quantity;
    this.fromBound[entry] = fromBound;
    return entry;
  }

  private widen() {
    const size = 2 * this.count + 16;
    this.day = widened(this.day, new Int32Array(size));
    this.quantity = widened(this.quantity, new Float64Array(size));
    this.fromBound = widened(this.fromBound, new Float64Array(size));
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

  add(pool: number, day: DayNumber, quantity: Scaled, lead: number): number {
    if (this.count === this.pool.length) {
      const size = 2 * this.count;
      this.pool = widened(this.pool, new Int32Array(size));
      this.day = widened(this.day, new Int32Array(size));
      this.quantity = widened(this.quantity, new Float64Array(size));
      this.lead = widened(this.lead, new Float64Array(size));
    }
    const taking = this.count++;
    this.pool[taking] = pool;
    this.day[taking] = day;
    this.quantity[taking] = quantity;
    this.lead[taking] = lead;
    return taking;
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

export function widened<A extends Int32Array | Float64Array | Uint8Array>(from: A, to: A): A {
  to.set(from as never);
  return to;
}
