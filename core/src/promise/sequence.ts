import type { BookColumns } from './book-columns';
import { bucketSort } from './sort';

/** Each order's turn, from 0: by priority, then by when it was entered, then by id. */
export function orderTurns(book: BookColumns): Int32Array {
  const count = book.orderPriority.length;
  // One exact number an order holds all three, so that the built-in sort of numbers can be used.
  const byPriorityAndTime = joinKeys(keyOf(book.orderPriority), keyOf(book.orderEntered));
  const keys = joinKeys(byPriorityAndTime, { values: Float64Array.from(book.orderIdRank), range: count }).values;
  keys.sort();
  const ofIdRank = new Int32Array(count);
  for (let order = 0; order < count; order++) ofIdRank[book.orderIdRank[order]!] = order;
  const turns = new Int32Array(count);
  for (let turn = 0; turn < count; turn++) turns[ofIdRank[keys[turn]! - Math.floor(keys[turn]! / count) * count]!] = turn;
  return turns;
}

/** Lines by order, in file order: order o has `sorted[from[o]]` to `sorted[from[o + 1] - 1]`. */
export function linesOfOrders(book: BookColumns): { readonly sorted: Int32Array; readonly from: Int32Array } {
  const from = new Int32Array(book.orderIds.length + 1);
  return { sorted: bucketSort(book.lineOrder, book.orderIds.length, from), from };
}

/** Whole numbers from 0 to `range - 1` that sort as what they stand for. */
interface Key {
  readonly values: Float64Array;
  readonly range: number;
}

/** Two keys in one: by `first`, then by `second`. */
function joinKeys(first: Key, second: Key): Key {
  const fits = first.range * second.range <= Number.MAX_SAFE_INTEGER;
  const high = fits ? first : denseRanks(first.values);
  const low = fits || second.range <= second.values.length ? second : denseRanks(second.values);
  const values = new Float64Array(high.values.length);
  for (let row = 0; row < values.length; row++) values[row] = high.values[row]! * low.range + low.values[row]!;
  return { values, range: high.range * low.range };
}

/** Whole numbers keep their distance, others only their order. */
function keyOf(values: Float64Array): Key {
  let least = Infinity;
  let most = -Infinity;
  let whole = true;
  for (let row = 0; row < values.length; row++) {
    const value = values[row]!;
    if (value < least) least = value;
    if (value > most) most = value;
    whole = whole && Number.isSafeInteger(value);
  }
  if (!whole || !Number.isSafeInteger(most - least)) return denseRanks(values);
  const shifted = new Float64Array(values.length);
  for (let row = 0; row < values.length; row++) shifted[row] = values[row]! - least;
  return { values: shifted, range: most - least + 1 };
}

/** Each value's rank among the distinct values. */
function denseRanks(values: Float64Array): Key {
  const distinct = Float64Array.from(new Set(values)).sort();
  const rankOf = new Map<number, number>();
  distinct.forEach((value, rank) => rankOf.set(value, rank));
  return { values: values.map((value) => rankOf.get(value)!), range: Math.max(1, distinct.length) };
}
