import type { BookColumns } from './book-columns';
import { bucketSort, KeySorter } from './sort';

/** Each order's turn, from 0: by priority, then by when it was entered, then by id. */
export function orderTurns(book: BookColumns): Int32Array {
  const count = book.orderPriority.length;
  const orders = new Int32Array(count);
  for (let order = 0; order < count; order++) orders[book.orderIdRank[order]!] = order;
  // From what decides last to what decides first: each sort leaves rows of one key as they stood.
  const sorter = new KeySorter();
  const keys = new Float64Array(count);
  for (const values of [wholeKeys(book.orderEntered), wholeKeys(book.orderPriority)]) {
    for (let place = 0; place < count; place++) keys[place] = values[orders[place]!]!;
    sorter.sort(orders, keys, 0, count);
  }
  const turns = new Int32Array(count);
  for (let turn = 0; turn < count; turn++) turns[orders[turn]!] = turn;
  return turns;
}

/** Lines by order, in file order: order o has `sorted[from[o]]` to `sorted[from[o + 1] - 1]`. */
export function linesOfOrders(book: BookColumns): { readonly sorted: Int32Array; readonly from: Int32Array } {
  const from = new Int32Array(book.orderIds.length + 1);
  return { sorted: bucketSort(book.lineOrder, book.orderIds.length, from), from };
}

/** Whole numbers that stay exact times the number of rows are their own keys; others get their rank among the distinct values. */
function wholeKeys(values: Float64Array): Float64Array {
  const most = Number.MAX_SAFE_INTEGER / values.length - 1;
  let small = true;
  for (let row = 0; row < values.length; row++) {
    const value = values[row]!;
    small = small && Number.isInteger(value) && Math.abs(value) < most;
  }
  if (small) return values;
  const distinct = Float64Array.from(new Set(values)).sort();
  const rankOf = new Map<number, number>();
  distinct.forEach((value, rank) => rankOf.set(value, rank));
  return values.map((value) => rankOf.get(value)!);
}
