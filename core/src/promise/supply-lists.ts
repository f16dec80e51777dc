import type { BookColumns } from './book-columns';
import type { Scaled } from './quantity';
import { bucketSort } from './sort';

/**
 * Each pool's supplies in the order in which goods are taken: by the day they can leave, on hand before inbound, then
 * by id; and of each, how much is bound to a line and how much is free for anyone.
 */
export interface SupplyLists {
  /** Supplies by pool, in taking order; pool p has `sorted[from[p]]` to `sorted[from[p + 1] - 1]`. */
  readonly sorted: Int32Array;
  readonly from: Int32Array;
  /** What of each supply is in its pool now: bound supply that its line does not take joins later. */
  readonly free: Float64Array;
  /** What of each supply is bound to its line, and what the line has not taken of it yet. */
  readonly bound: Float64Array;
  readonly boundLeft: Float64Array;
  /** A line's bound supplies in taking order; null in a book without any. */
  readonly boundSorted: Int32Array | null;
  readonly boundFrom: Int32Array | null;
}

export function listSupplies(book: BookColumns): SupplyLists {
  const { supplyPool, supplyQuantity, supplyFor, lineOrder } = book;
  const count = supplyPool.length;
  const from = new Int32Array(book.poolSite.length + 1);
  const sorted = bucketSort(supplyPool, book.poolSite.length, from);
  sortWithinPools(book, sorted, from);

  const free = supplyQuantity.slice();
  const bound = new Float64Array(count);
  let boundSorted: Int32Array | null = null;
  let boundFrom: Int32Array | null = null;
  if (supplyFor.some((line) => line >= 0)) {
    boundFrom = new Int32Array(lineOrder.length + 1);
    const some = sorted.filter((supply) => supplyFor[supply]! >= 0);
    const byLine = bucketSort(
      some.map((supply) => supplyFor[supply]!),
      lineOrder.length,
      boundFrom,
    );
    boundSorted = byLine.map((at) => some[at]!);
    for (const supply of some) {
      // What suits its line on no day is anyone's from the start.
      if (!everSuits(book, supply)) continue;
      bound[supply] = supplyQuantity[supply]!;
      free[supply] = 0;
    }
    for (let line = 0; line < lineOrder.length; line++) freeSurplus(book.lineQuantity[line]!, boundSorted, boundFrom[line]!, boundFrom[line + 1]!, bound, free);
  }
  return { sorted, from, free, bound, boundLeft: bound.slice(), boundSorted, boundFrom };
}

/** Whether a bound supply lasts long enough for its line on the first day it can leave. */
function everSuits({ supplyAvailable, supplyExpires, supplyFor, lineLife }: BookColumns, supply: number): boolean {
  return supplyExpires === null || supplyExpires[supply]! >= supplyAvailable[supply]! + lineLife[supplyFor[supply]!]!;
}

/** What is bound above the whole quantity of the line serves anyone: the latest of it is freed. */
function freeSurplus(quantity: Scaled, sorted: Int32Array, from: number, to: number, bound: Float64Array, free: Float64Array) {
  let surplus = -quantity;
  for (let at = from; at < to; at++) surplus += bound[sorted[at]!]!;
  for (let at = to - 1; at >= from && surplus > 0; at--) {
    const supply = sorted[at]!;
    const freed = Math.min(surplus, bound[supply]!);
    bound[supply]! -= freed;
    free[supply]! += freed;
    surplus -= freed;
  }
}

const FEW = 32;

function sortWithinPools(book: BookColumns, sorted: Int32Array, from: Int32Array) {
  const { supplyAvailable, supplyOnHand, supplyIdRank } = book;
  const before = (a: number, b: number) =>
    supplyAvailable[a]! - supplyAvailable[b]! || supplyOnHand[b]! - supplyOnHand[a]! || supplyIdRank[a]! - supplyIdRank[b]!;
  for (let pool = 0; pool + 1 < from.length; pool++) {
    const start = from[pool]!;
    const end = from[pool + 1]!;
    if (end - start > FEW) {
      sorted.subarray(start, end).sort(before);
      continue;
    }
    for (let at = start + 1; at < end; at++) {
      const supply = sorted[at]!;
      let to = at;
      for (; to > start && before(sorted[to - 1]!, supply) > 0; to--) sorted[to] = sorted[to - 1]!;
      sorted[to] = supply;
    }
  }
}
