import { withColumns, type BookColumns } from './book-columns';
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
  const turns = orderTurns(source);
  const lineFrom = new Int32Array(groups + 1);
  const lineAt = sequenceLines(source, turns, groups, groupOf, lineFrom);
  const poolFrom = new Int32Array(groups + 1);
  const pools = bucketSort(groupOf, groups, poolFrom);
  const placeOf = new Int32Array(lineAt.length);
  for (let place = 0; place < lineAt.length; place++) placeOf[lineAt[place]!] = place;
  const book = withColumns(source, {
    lineOrder: movedInts(source.lineOrder, placeOf),
    linePool: movedInts(source.linePool, placeOf),
    lineQuantity: movedNumbers(source.lineQuantity, placeOf),
    lineRequested: movedInts(source.lineRequested, placeOf),
    lineTarget: movedInts(source.lineTarget, placeOf),
    linePartial: movedBytes(source.linePartial, placeOf),
    lineLife: movedInts(source.lineLife, placeOf),
    ...arrangePromised(source, placeOf),
    supplyFor: source.supplyFor.map((line) => (line < 0 ? -1 : placeOf[line]!)),
  });
  return { book, source, turns, groupOf, lineAt, placeOf, groups, lineFrom, pools, poolFrom };
}

/** The lists of what lines were promised, each with its line. */
function arrangePromised({ promisedFrom, promisedDay, promisedQuantity, promisedAssembled, promisedBound }: BookColumns, placeOf: Int32Array) {
  const lines = placeOf.length;
  const from = new Int32Array(lines + 1);
  for (let line = 0; line < lines; line++) from[placeOf[line]! + 1] = promisedFrom[line + 1]! - promisedFrom[line]!;
  for (let place = 0; place < lines; place++) from[place + 1]! += from[place]!;
  const entryPlace = new Int32Array(promisedDay.length);
  for (let line = 0; line < lines; line++) {
    let at = promisedFrom[line]!;
    const end = promisedFrom[line + 1]!;
    if (at === end) continue;
    for (let place = from[placeOf[line]!]!; at < end; at++) entryPlace[at] = place++;
  }
  return {
    promisedFrom: from,
    promisedDay: movedInts(promisedDay, entryPlace),
    promisedQuantity: movedNumbers(promisedQuantity, entryPlace),
    promisedAssembled: movedBytes(promisedAssembled, entryPlace),
    promisedBound: promisedBound && movedNumbers(promisedBound, entryPlace),
  };
}

// Row n of a column goes to `places[n]`. The rows are read in sequence and written all over, one column at a time: a
// processor waits for what it reads from far away, not for what it writes there. One function a type of column, since
// one for all three would be compiled for none.

function movedInts(column: Int32Array, places: Int32Array): Int32Array {
  const moved = new Int32Array(column.length);
  for (let row = 0; row < moved.length; row++) moved[places[row]!] = column[row]!;
  return moved;
}

function movedNumbers(column: Float64Array, places: Int32Array): Float64Array {
  const moved = new Float64Array(column.length);
  for (let row = 0; row < moved.length; row++) moved[places[row]!] = column[row]!;
  return moved;
}

function movedBytes(column: Uint8Array, places: Int32Array): Uint8Array {
  const moved = new Uint8Array(column.length);
  for (let row = 0; row < moved.length; row++) moved[places[row]!] = column[row]!;
  return moved;
}

/** Lines by group, then by the turn of their order, then in file order. Fills `starts` with where each group begins. */
function sequenceLines(book: BookColumns, turns: Int32Array, groups: number, groupOf: Int32Array, starts: Int32Array): Int32Array {
  const { linePool, lineOrder } = book;
  const lines = linePool.length;
  const lineGroup = new Int32Array(lines);
  for (let line = 0; line < lines; line++) starts[(lineGroup[line] = groupOf[linePool[line]!]!) + 1]!++;
  for (let group = 0; group < groups; group++) starts[group + 1]! += starts[group]!;
  // Turn and line in one exact number: it is carried to its group at once, and lines of one turn stay in file order.
  const keys = new Float64Array(lines);
  const next = starts.slice(0, groups);
  for (let line = 0; line < lines; line++) keys[next[lineGroup[line]!]!++] = turns[lineOrder[line]!]! * lines + line;
  const sequenced = new Int32Array(lines);
  for (let group = 0; group < groups; group++) {
    const [from, to] = [starts[group]!, starts[group + 1]!];
    sortNumbers(keys, from, to);
    for (let place = from; place < to; place++) sequenced[place] = keys[place]! - Math.floor(keys[place]! / lines) * lines;
  }
  return sequenced;
}
