import type { DayNumber } from '../calendar';
import type { Scaled } from './quantity';

/**
 * What pools have left to promise, day by day.
 *
 * Between two supply days the projected available PA only falls, so ATP(t) = max(0, min over u ≥ t of PA(u)) is the
 * same for every day between them: one *segment* per supply day is enough, whatever days commitments fall on. Segment 0
 * lies before the first supply day, segment s begins on the s-th. A segment tree keeps for each range of segments the
 * sum of its changes and the least running sum within it; PA is a prefix sum, ATP a suffix minimum. Every question and
 * every change is O(log supply days).
 *
 * All trees lie in two arrays that are used again for each group of pools. A pool is opened with its supply, may take
 * commitments at once with `load`, and answers after `build`.
 */
export class Timelines {
  private days = new Int32Array(256);
  private daysUsed = 0;
  /** Node n of a pool's tree: sum of its changes at 2n, least running sum at 2n + 1; the root is node 1. */
  private tree = new Float64Array(2048);
  private treeUsed = 0;
  private readonly firstDayAt: Int32Array;
  private readonly dayCount: Int32Array;
  private readonly treeAt: Int32Array;
  private readonly leaves: Int32Array;

  constructor(pools: number) {
    this.firstDayAt = new Int32Array(pools);
    this.dayCount = new Int32Array(pools);
    this.treeAt = new Int32Array(pools);
    this.leaves = new Int32Array(pools);
  }

  /** Forgets all pools, so that their room is used again. */
  clear(): void {
    this.daysUsed = 0;
    this.treeUsed = 0;
  }

  /**
   * Opens a pool with the supplies `supplies[from]` to `supplies[to - 1]`, ascending by available day. A supply of
   * quantity 0 keeps its day on the timeline: goods may join on it later.
   */
  open(pool: number, supplies: Int32Array, from: number, to: number, available: Int32Array, quantity: Float64Array): void {
    if (this.daysUsed + to - from > this.days.length) {
      const wider = new Int32Array(2 * (this.daysUsed + to - from));
      wider.set(this.days.subarray(0, this.daysUsed));
      this.days = wider;
    }
    const { days } = this;
    const first = this.daysUsed;
    let count = 0;
    for (let at = from; at < to; at++) {
      const day = available[supplies[at]!]!;
      if (count === 0 || days[first + count - 1] !== day) days[first + count++] = day;
    }
    let leaves = 1;
    while (leaves < count + 1) leaves *= 2;
    const base = this.treeUsed;
    const end = base + 4 * leaves;
    if (end > this.tree.length) {
      const wider = new Float64Array(2 * end);
      wider.set(this.tree.subarray(0, base));
      this.tree = wider;
    } else this.tree.fill(0, base, end);
    this.firstDayAt[pool] = first;
    this.dayCount[pool] = count;
    this.treeAt[pool] = base;
    this.leaves[pool] = leaves;
    this.daysUsed += count;
    this.treeUsed = end;
    for (let at = from, segment = 0; at < to; at++) {
      const supply = supplies[at]!;
      if (segment === 0 || days[first + segment - 1] !== available[supply]) segment++;
      this.load(pool, segment, quantity[supply]!);
    }
  }

  /** A change to a pool that is not built yet. */
  load(pool: number, segment: number, quantity: Scaled): void {
    this.tree[this.treeAt[pool]! + 2 * (this.leaves[pool]! + segment)]! += quantity;
  }

  /** A copy of what the open pools hold before they are built, for `loadAll` of others opened with the same supply. */
  loads(): Float64Array {
    return this.tree.slice(0, this.treeUsed);
  }

  /** In place of what the open pools were loaded with since they were opened. */
  loadAll(loads: Float64Array): void {
    this.tree.set(loads);
  }

  /** Makes a pool ready to answer. */
  build(pool: number): void {
    const { tree } = this;
    const base = this.treeAt[pool]!;
    const leaves = this.leaves[pool]!;
    for (let at = base + 2 * leaves; at < base + 4 * leaves; at += 2) tree[at + 1] = tree[at]!;
    for (let node = leaves - 1; node > 0; node--) {
      const at = base + 2 * node;
      const left = base + 4 * node;
      const sum = tree[left]!;
      const right = sum + tree[left + 3]!;
      tree[at] = sum + tree[left + 2]!;
      tree[at + 1] = right < tree[left + 1]! ? right : tree[left + 1]!;
    }
  }

  /** The segment that `day` lies in. */
  segmentOf(pool: number, day: DayNumber): number {
    const { days } = this;
    const first = this.firstDayAt[pool]!;
    let low = first;
    let high = first + this.dayCount[pool]!;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (days[middle]! <= day) low = middle + 1;
      else high = middle;
    }
    return low - first;
  }

  /** The first day of a segment after the one before all supply. */
  dayOf(pool: number, segment: number): DayNumber {
    return this.days[this.firstDayAt[pool]! + segment - 1]!;
  }

  segments(pool: number): number {
    return this.dayCount[pool]! + 1;
  }

  /** `quantity` more in a segment; negative for what leaves in it. May take more than there is: kept promises stand. */
  change(pool: number, segment: number, quantity: Scaled): void {
    const { tree } = this;
    const base = this.treeAt[pool]!;
    let node = this.leaves[pool]! + segment;
    tree[base + 2 * node]! += quantity;
    tree[base + 2 * node + 1] = tree[base + 2 * node]!;
    for (node >>= 1; node >= 1; node >>= 1) {
      const at = base + 2 * node;
      const left = base + 4 * node;
      const sum = tree[left]!;
      const right = sum + tree[left + 3]!;
      tree[at] = sum + tree[left + 2]!;
      tree[at + 1] = right < tree[left + 1]! ? right : tree[left + 1]!;
    }
  }

  /** ATP in a segment: what can be promised on its days without taking from any later commitment. Never below 0. */
  available(pool: number, segment: number): Scaled {
    const { tree } = this;
    const base = this.treeAt[pool]!;
    let node = this.leaves[pool]! + segment;
    // The least running sum from the segment on, counted from where the node's range begins.
    let least = tree[base + 2 * node + 1]!;
    while (node > 1) {
      if (node & 1) least += tree[base + 2 * node - 2]!;
      else {
        const right = tree[base + 2 * node]! + tree[base + 2 * node + 3]!;
        if (right < least) least = right;
      }
      node >>= 1;
    }
    return least > 0 ? least : 0;
  }

  /** The first segment from which on ATP is at least `quantity` (more than 0), 0 where it always is; -1 where it never is. */
  firstWith(pool: number, quantity: Scaled): number {
    const { tree } = this;
    const base = this.treeAt[pool]!;
    if (tree[base + 3]! >= quantity) return 0;
    const leaves = this.leaves[pool]!;
    let node = 1;
    let before = 0;
    // The last segment that projects less than `quantity`: ATP reaches it in the next one.
    while (node < leaves) {
      const left = base + 4 * node;
      const beforeRight = before + tree[left]!;
      if (beforeRight + tree[left + 3]! < quantity) {
        node = 2 * node + 1;
        before = beforeRight;
      } else node = 2 * node;
    }
    const segment = node - leaves;
    // Leaves beyond the last supply day repeat its running sum, so the search ends at the last leaf there.
    return segment >= this.dayCount[pool]! ? -1 : segment + 1;
  }
}
