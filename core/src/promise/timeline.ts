import type { DayNumber } from '../calendar';
import type { Scaled } from './quantity';

/**
 * What a pool has left to promise, day by day.
 *
 * Between two supply days the projected available PA only falls, so ATP(t) = max(0, min over u ≥ t of PA(u)) is the
 * same for every day between them: one segment per supply day is enough, whatever days commitments fall on. A segment
 * tree keeps for each range of segments the sum of its changes and the least running sum within it; PA is a prefix sum,
 * ATP a suffix minimum. Every question and every change is O(log supply days).
 *
 * The supply days must all be known at the start; the quantity that comes on them may change at any time.
 */
export class Timeline {
  private readonly days: Float64Array;
  private readonly leaves: number;
  private readonly sum: Float64Array;
  private readonly least: Float64Array;

  /** `supplyDays`: the days supply can become available, in any order, repeats allowed. */
  constructor(supplyDays: Iterable<DayNumber>) {
    this.days = Float64Array.from(new Set(supplyDays)).sort();
    let leaves = 1;
    while (leaves < this.days.length + 1) leaves *= 2;
    this.leaves = leaves;
    this.sum = new Float64Array(2 * leaves);
    this.least = new Float64Array(2 * leaves);
  }

  /** `quantity` more becomes available on `day`, which must be one of the supply days. */
  supply(day: DayNumber, quantity: Scaled): void {
    this.change(this.segment(day), quantity);
  }

  /** `quantity` leaves on `day`; negative gives it back. May take more than there is: kept promises stand. */
  commit(day: DayNumber, quantity: Scaled): void {
    this.change(this.segment(day), -quantity);
  }

  /** ATP of `day`: what can be promised then without taking from any later commitment. Never below 0. */
  available(day: DayNumber): Scaled {
    let node = 1;
    let width = this.leaves;
    let before = 0; // sum of all segments left of the node
    let leastAfter = Infinity; // least running sum right of the path
    const segment = this.segment(day);
    let first = 0;
    while (width > 1) {
      width >>= 1;
      const left = 2 * node;
      if (segment < first + width) {
        leastAfter = Math.min(leastAfter, before + this.sum[left]! + this.least[left + 1]!);
        node = left;
      } else {
        before += this.sum[left]!;
        node = left + 1;
        first += width;
      }
    }
    return Math.max(0, Math.min(leastAfter, before + this.sum[node]!));
  }

  /** The first day on or after `from` whose ATP is at least `quantity` (more than 0); null where there is none. */
  firstDay(from: DayNumber, quantity: Scaled): DayNumber | null {
    let node = 1;
    let before = 0;
    // The last segment that projects less than `quantity`: ATP reaches it in the next one.
    if (this.least[1]! >= quantity) return from;
    let segment = 0;
    let width = this.leaves;
    while (width > 1) {
      width >>= 1;
      const right = 2 * node + 1;
      const beforeRight = before + this.sum[right - 1]!;
      if (beforeRight + this.least[right]! < quantity) {
        node = right;
        before = beforeRight;
        segment += width;
      } else {
        node = right - 1;
      }
    }
    // Segments beyond the last supply day repeat its running sum, so the search ends on the tree's last leaf there.
    if (segment >= this.days.length) return null;
    return Math.max(from, this.days[segment]!);
  }

  /** The supply days after `day`, ascending. */
  supplyDaysAfter(day: DayNumber): readonly DayNumber[] {
    return Array.from(this.days.subarray(this.segment(day)));
  }

  private segment(day: DayNumber): number {
    let [low, high] = [0, this.days.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.days[middle]! <= day) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  private change(segment: number, quantity: Scaled): void {
    let node = this.leaves + segment;
    this.sum[node]! += quantity;
    this.least[node] = this.sum[node]!;
    for (node >>= 1; node >= 1; node >>= 1) {
      const left = 2 * node;
      this.sum[node] = this.sum[left]! + this.sum[left + 1]!;
      this.least[node] = Math.min(this.least[left]!, this.sum[left]! + this.least[left + 1]!);
    }
  }
}
