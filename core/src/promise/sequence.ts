import type { BookColumns } from './book-columns';

const MOST_EXACT = Number.MAX_SAFE_INTEGER;

/** Each order's turn, from 0: by priority, then by when it was entered, then by id. */
export function orderTurns(book: BookColumns): Int32Array {
  const count = book.orderPriority.length;
  const priority = denseRanks(book.orderPriority);
  let entered = shiftToZero(book.orderEntered);
  if (!(priority.count * entered.range * count < MOST_EXACT)) {
    // Too far apart for one exact key: ranks in place of minutes.
    const ranks = denseRanks(book.orderEntered);
    entered = { values: ranks.ranks, range: ranks.count };
  }
  let first = new Float64Array(count);
  for (let at = 0; at < count; at++) first[at] = priority.ranks[at]! * entered.range + entered.values[at]!;
  let firstRange = priority.count * entered.range;
  if (!(firstRange * count < MOST_EXACT)) {
    const ranks = denseRanks(first);
    first = Float64Array.from(ranks.ranks);
    firstRange = ranks.count;
  }
  const keys = new Float64Array(count);
  for (let at = 0; at < count; at++) keys[at] = first[at]! * count + book.orderIdRank[at]!;
  keys.sort();
  const byIdRank = new Int32Array(count);
  for (let at = 0; at < count; at++) byIdRank[book.orderIdRank[at]!] = at;
  const turns = new Int32Array(count);
  for (let turn = 0; turn < count; turn++) turns[byIdRank[keys[turn]! % count]!] = turn;
  return turns;
}

/** Lines by the turn of their order, then in file order. */
export function linesInSequence(book: BookColumns, turns: Int32Array): Int32Array {
  const { lineOrder } = book;
  return countingSort(lineOrder.length, turns.length, (line) => turns[lineOrder[line]!]!);
}

/** Lines by order, in file order: order o has `sorted[from[o]]` to `sorted[from[o + 1] - 1]`. */
export function linesOfOrders(book: BookColumns): { readonly sorted: Int32Array; readonly from: Int32Array } {
  const from = new Int32Array(book.orderIds.length + 1);
  return { sorted: countingSort(book.lineOrder.length, book.orderIds.length, (line) => book.lineOrder[line]!, undefined, from), from };
}

/**
 * Places 0 to `count - 1` sorted by a whole number from 0 to `buckets - 1`, equal ones as they stood; `from`, where
 * given, names the places in their present order. Also fills `starts` (buckets + 1), where each bucket begins.
 */
export function countingSort(count: number, buckets: number, bucketOf: (place: number) => number, from?: Int32Array, starts?: Int32Array): Int32Array {
  const at = starts ?? new Int32Array(buckets + 1);
  for (let place = 0; place < count; place++) at[bucketOf(from ? from[place]! : place) + 1]!++;
  for (let bucket = 0; bucket < buckets; bucket++) at[bucket + 1]! += at[bucket]!;
  const next = at.slice(0, buckets);
  const sorted = new Int32Array(count);
  for (let place = 0; place < count; place++) {
    const value = from ? from[place]! : place;
    sorted[next[bucketOf(value)]!++] = value;
  }
  return sorted;
}

function shiftToZero(values: Float64Array): { readonly values: ArrayLike<number>; readonly range: number } {
  let [least, most] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return values.length === 0 ? { values, range: 1 } : { values: values.map((value) => value - least), range: most - least + 1 };
}

/** Each value's rank among the distinct values, from 0. */
function denseRanks(values: Float64Array): { readonly ranks: Int32Array; readonly count: number } {
  const distinct = Float64Array.from(new Set(values)).sort();
  const rankOf = new Map<number, number>();
  distinct.forEach((value, rank) => rankOf.set(value, rank));
  return { ranks: Int32Array.from(values, (value) => rankOf.get(value)!), count: Math.max(1, distinct.length) };
}
