import type { BookColumns } from './book-columns';
import { groupPools } from './linked-pools';
import { orderTurns } from './sequence';
import { bucketSort, sortNumbers } from './sort';

/**
 * A book with its lines in the order in which they are worked on: group by group, within a group in the sequence of
 * orders, lines of an order as in the file. What is worked on together then lies together in memory, which on large
 * books is most of the speed.
 */
export interface ArrangedBook {
  /** The same book; line n here is line `lineAt[n]` of the source. */
  readonly book: BookColumns;
  readonly source: BookColumns;
  /** Each order's turn. */
  readonly turns: Int32Array;
  readonly groupOf: Int32Array;
  readonly lineAt: Int32Array;
  /** Where each line of the source is. */
  readonly placeOf: Int32Array;
  readonly groups: number;
  /** Group g has lines `lineFrom[g]` to `lineFrom[g + 1] - 1` and pools `pools[poolFrom[g]]` to `pools[poolFrom[g + 1] - 1]`. */
  readonly lineFrom: Int32Array;
  readonly pools: Int32Array;
  readonly poolFrom: Int32Array;
}

export function arrangeBook(source: BookColumns): ArrangedBook {
  const { count: groups, groupOf } = groupPools(source);
  const lineFrom = new Int32Array(groups + 1);
  const poolFrom = new Int32Array(groups + 1);
  const turns = orderTurns(source);
  const lineAt = sortLines(source, turns, groups, groupOf, lineFrom);
  const pools = bucketSort(groupOf, groups, poolFrom);

  const lines = lineAt.length;
  const placeOf = new Int32Array(lines);
  const lineOrder = new Int32Array(lines);
  const linePool = new Int32Array(lines);
  const lineQuantity = new Float64Array(lines);
  const lineRequested = new Int32Array(lines);
  const lineTarget = new Int32Array(lines);
  const linePartial = new Uint8Array(lines);
  const promisedFrom = new Int32Array(lines + 1);
  const promisedDay = new Int32Array(source.promisedDay.length);
  const promisedQuantity = new Float64Array(source.promisedDay.length);
  const promisedAssembled = new Uint8Array(source.promisedDay.length);
  let promised = 0;
  for (let place = 0; place < lines; place++) {
    const line = lineAt[place]!;
    placeOf[line] = place;
    lineOrder[place] = source.lineOrder[line]!;
    linePool[place] = source.linePool[line]!;
    lineQuantity[place] = source.lineQuantity[line]!;
    lineRequested[place] = source.lineRequested[line]!;
    lineTarget[place] = source.lineTarget[line]!;
    linePartial[place] = source.linePartial[line]!;
    promisedFrom[place] = promised;
    for (let at = source.promisedFrom[line]!, end = source.promisedFrom[line + 1]!; at < end; at++) {
      promisedDay[promised] = source.promisedDay[at]!;
      promisedQuantity[promised] = source.promisedQuantity[at]!;
      promisedAssembled[promised++] = source.promisedAssembled[at]!;
    }
  }
  promisedFrom[lines] = promised;
  const supplyFor = source.supplyFor.map((line) => (line < 0 ? -1 : placeOf[line]!));
  const arranged = {
    lineOrder,
    linePool,
    lineQuantity,
    lineRequested,
    lineTarget,
    linePartial,
    promisedFrom,
    promisedDay,
    promisedQuantity,
    promisedAssembled,
  };
  return { book: { ...source, ...arranged, supplyFor }, source, turns, groupOf, lineAt, placeOf, groups, lineFrom, pools, poolFrom };
}

/** Lines by group, then by the turn of their order, then in file order. Fills `starts` with where each group begins. */
function sortLines(book: BookColumns, turns: Int32Array, groups: number, groupOf: Int32Array, starts: Int32Array): Int32Array {
  const { linePool, lineOrder } = book;
  const lines = linePool.length;
  for (let line = 0; line < lines; line++) starts[groupOf[linePool[line]!]! + 1]!++;
  for (let group = 0; group < groups; group++) starts[group + 1]! += starts[group]!;
  // Turn and line in one exact number: it is carried to its group at once, and lines of one turn stay in file order.
  const keys = new Float64Array(lines);
  const next = starts.slice(0, groups);
  for (let line = 0; line < lines; line++) keys[next[groupOf[linePool[line]!]!]!++] = turns[lineOrder[line]!]! * lines + line;
  const sorted = new Int32Array(lines);
  for (let group = 0; group < groups; group++) {
    const [from, to] = [starts[group]!, starts[group + 1]!];
    sortNumbers(keys, from, to);
    for (let place = from; place < to; place++) sorted[place] = keys[place]! % lines;
  }
  return sorted;
}
