import type { DayNumber } from '../calendar';
import type { Scaled } from './quantity';
import { distinct, firstFrom } from './sorted-days';

/** A kept commitment on goods that expire, and what became of it: see `Shelf`. */
export interface KeptGoods {
  /** An entry as it is, a taking as its complement. */
  readonly ref: number;
  /** The place of its line, and within a line own entries before components: with its day, its turn. */
  readonly line: number;
  readonly day: DayNumber;
  /** Days of life that must be left on the day it is served. */
  readonly life: number;
  readonly quantity: Scaled;
  served: Scaled;
  /** What cannot be served on its day, on the days on which it can; what is in neither is broken. */
  moved: { readonly day: DayNumber; readonly quantity: Scaled }[];
}

/**
 * What a pool has whose goods expire. A supply suits a commitment that is served on day D and needs life up to day N if it
 * is available by D and lasts until N: supplies and commitments are points in a plane of two conditions.
 *
 * Only the distinct days on which supply becomes available (rows) and expires (columns) matter. A set of commitments can be
 * served together if none of its parts asks for more than all the supplies that suit the part (Hall's condition); the parts
 * to look at are those behind a staircase: from row to row a first column that never falls. So what can still be promised in
 * a cell is the least, over all staircases with the cell behind them, of supply less commitments behind it. One pass from
 * either side gives that for every cell: O(rows × columns) after a change, O(log) for a question.
 */
export class Shelf {
  private readonly days: readonly DayNumber[];
  private readonly ends: readonly number[];
  private readonly supply: Float64Array;
  private readonly fresh: Float64Array;
  private readonly held: Float64Array;
  private readonly table: Float64Array;
  private readonly sums: Float64Array;
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private kept: KeptGoods[] = [];
  private stale = true;
  private unsettled = false;
  private allServed = true;

  /** `expires`: the last day goods may be used, Infinity where they do not expire. All supplies of the pool, bound ones too. */
  constructor(supplies: Iterable<{ readonly available: DayNumber; readonly expires: number }>) {
    const all = [...supplies];
    this.days = distinct(all.map((row) => row.available));
    this.ends = distinct(all.map((row) => row.expires));
    const cells = this.days.length * this.ends.length;
    const steps = this.days.length * (this.ends.length + 1);
    this.supply = new Float64Array(cells);
    this.fresh = new Float64Array(cells);
    this.held = new Float64Array(cells);
    this.table = new Float64Array(cells);
    this.sums = new Float64Array(steps);
    this.left = new Float64Array(steps);
    this.right = new Float64Array(steps);
  }

  /** The days after `day` on which supply becomes available. */
  daysAfter(day: DayNumber): readonly DayNumber[] {
    return this.days.slice(firstFrom(this.days, day + 1));
  }

  /** Goods that are the pool's from now on; below 0 takes them back. What was kept is served afresh: none of it later where goods join. */
  join(available: DayNumber, expires: number, quantity: Scaled): void {
    this.supply[this.cell(available, expires)]! += quantity;
    this.stale = true;
    if (!this.allServed || quantity < 0) this.unsettled = true;
  }

  /** The greatest quantity that can be served on `day` with `life` days left, together with all that is committed. */
  available(day: DayNumber, life: number): Scaled {
    const cell = this.cell(day, day + life);
    if (cell < 0) return 0;
    this.settle();
    if (this.stale) this.read(true);
    return Math.max(0, this.table[cell]!);
  }

  /** A new commitment; below 0 takes one back. There must be so much available. */
  commit(day: DayNumber, life: number, quantity: Scaled): void {
    if (quantity === 0) return;
    const cell = this.cell(day, day + life);
    if (cell < 0) {
      // Nothing there suits it: whoever moves commitments together asks whether all can be served.
      this.beyond += quantity;
      return;
    }
    this.fresh[cell]! += quantity;
    this.stale = true;
  }
  private beyond = 0;

  /** Whether all that is newly committed can be served beside what is kept. */
  isServed(): boolean {
    this.settle();
    if (this.stale) this.read(true);
    return this.beyond === 0 && this.least() >= 0;
  }

  /**
   * A commitment that stands whether or not it can be served. Until somebody asks what is left they are only collected; from
   * then on one that fits beside those that are all served is served, too, and only one that does not has all served afresh.
   */
  keep(ref: number, line: number, day: DayNumber, life: number, quantity: Scaled): void {
    const commitment: KeptGoods = { ref, line, day, life, quantity, served: 0, moved: [] };
    if (this.kept.length === 0) this.unsettled = true;
    const fits = !this.unsettled && this.allServed && this.available(day, life) >= quantity;
    this.kept.push(commitment);
    this.byRef = null;
    if (!fits) {
      this.unsettled = true;
      return;
    }
    commitment.served = quantity;
    this.hold(commitment, day, quantity);
  }

  /** Takes the last kept commitment back. */
  dropKept(): void {
    this.kept.pop();
    this.byRef = null;
    this.unsettled = true;
  }

  /** What became of a kept commitment. */
  keptOf(ref: number): KeptGoods | undefined {
    this.settle();
    this.byRef ??= new Map(this.kept.map((commitment) => [commitment.ref, commitment]));
    return this.byRef.get(ref);
  }
  private byRef: Map<number, KeptGoods> | null = null;

  /**
   * Serves what is kept, as if nothing were newly promised: in the sequence of their days and turns as much of each as can be
   * served on its own day; when all have had their turn the rest of each, in the same sequence, on the earliest later days.
   */
  private settle() {
    if (!this.unsettled) return;
    this.unsettled = false;
    this.byRef = null;
    // By day, then in the sequence of lines; those of a line own before components, as each was committed.
    this.kept.sort((a, b) => a.day - b.day || a.line - b.line || Number(a.ref < 0) - Number(b.ref < 0) || (a.ref < 0 ? b.ref - a.ref : a.ref - b.ref));
    this.held.fill(0);
    for (const commitment of this.kept) {
      commitment.served = 0;
      commitment.moved = [];
    }
    if (this.serveAll()) return;
    this.held.fill(0);
    this.read(false);
    for (const commitment of this.kept) {
      commitment.served = this.serve(commitment, commitment.day, commitment.quantity);
    }
    this.allServed = true;
    for (const commitment of this.kept) {
      let rest = commitment.quantity - commitment.served;
      if (rest > 0) this.allServed = false;
      for (let at = firstFrom(this.days, commitment.day + 1); at < this.days.length && rest > 0; at++) {
        const quantity = this.serve(commitment, this.days[at]!, rest);
        if (quantity > 0) commitment.moved.push({ day: this.days[at]!, quantity });
        rest -= quantity;
      }
    }
    this.stale = true;
  }

  /** All on their own days, where they can be served so together. */
  private serveAll(): boolean {
    for (const commitment of this.kept) {
      if (this.cell(commitment.day, commitment.day + commitment.life) < 0) return false;
      this.hold(commitment, commitment.day, commitment.quantity);
    }
    this.read(false);
    if (this.least() < 0) return false;
    for (const commitment of this.kept) commitment.served = commitment.quantity;
    this.allServed = true;
    this.stale = true;
    return true;
  }

  private serve(commitment: KeptGoods, day: DayNumber, wanted: Scaled): Scaled {
    const cell = this.cell(day, day + commitment.life);
    const quantity = cell < 0 ? 0 : Math.min(wanted, Math.max(0, this.table[cell]!));
    if (quantity === 0) return 0;
    this.hold(commitment, day, quantity);
    this.read(false);
    return quantity;
  }

  private hold({ life }: KeptGoods, day: DayNumber, quantity: Scaled) {
    this.held[this.cell(day, day + life)]! += quantity;
    this.stale = true;
  }

  /** The cell of goods needed by one day with life until another; -1 where nothing there can suit it. */
  private cell(day: DayNumber, until: number): number {
    const row = firstFrom(this.days, day + 1) - 1;
    const column = firstFrom(this.ends, until);
    return row < 0 || column === this.ends.length ? -1 : row * this.ends.length + column;
  }

  /** What can still be served in each cell. */
  private read(withFresh: boolean) {
    const { days, ends, supply, fresh, held, sums, left, right, table } = this;
    const columns = ends.length;
    const width = columns + 1;
    for (let row = 0; row < days.length; row++) {
      let sum = 0;
      sums[row * width + columns] = 0;
      for (let column = columns - 1; column >= 0; column--) {
        const cell = row * columns + column;
        sum += supply[cell]! - held[cell]! - (withFresh ? fresh[cell]! : 0);
        sums[row * width + column] = sum;
      }
    }
    for (let row = 0; row < days.length; row++) {
      let least = row === 0 ? 0 : Infinity;
      for (let step = 0; step < width; step++) {
        if (row > 0) least = Math.min(least, left[(row - 1) * width + step]!);
        left[row * width + step] = sums[row * width + step]! + least;
      }
    }
    for (let row = days.length - 1; row >= 0; row--) {
      const last = row === days.length - 1;
      let least = last ? 0 : Infinity;
      for (let step = width - 1; step >= 0; step--) {
        if (!last) least = Math.min(least, right[(row + 1) * width + step]!);
        right[row * width + step] = sums[row * width + step]! + least;
      }
      least = Infinity;
      for (let column = 0; column < columns; column++) {
        const step = row * width + column;
        least = Math.min(least, left[step]! + right[step]! - sums[step]!);
        table[row * columns + column] = least;
      }
    }
    this.stale = !withFresh;
  }

  /** Supply less commitments behind the worst staircase; below 0 where not all can be served. */
  private least(): Scaled {
    let least = 0;
    for (let step = 0; step <= this.ends.length; step++) least = Math.min(least, this.right[step] ?? 0);
    return least;
  }
}
