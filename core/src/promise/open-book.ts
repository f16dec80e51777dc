import { dayNumber } from '../calendar';
import type { ArrangedBook } from './arrange';
import { compileBook, type BookColumns } from './book-columns';
import { changedLines } from './changed-lines';
import type { BookDemand, OrderBook } from './order-book';
import { pegGroup } from './peg';
import { promiseColumns, promiseGroup } from './promise-group';
import { PromiseRun, type PromiseMode } from './promise-run';
import { ResultReader, type DemandPromise } from './result';

/** What an added demand would get, and what it would change for others. */
export interface Trial {
  readonly promise: DemandPromise;
  /** Lines whose days or quantities change, in file order, with their promise before and after. */
  readonly changed: readonly { readonly before: DemandPromise; readonly after: DemandPromise }[];
}

/**
 * A book kept open to try demands on. The book is compiled, sorted and promised once; a trial then inserts one line and
 * promises again only the pools that it is linked to.
 */
export class OpenBook {
  private readonly base: PromiseRun;
  private readonly reader: ResultReader;

  constructor(
    private readonly book: OrderBook,
    private readonly mode: PromiseMode = 'keep',
  ) {
    this.base = promiseColumns(compileBook(book), mode);
    this.reader = new ResultReader(this.base);
  }

  /** Tries one more demand of an order of the book, last of its lines. The demand must be faultless. */
  try(demand: BookDemand): Trial {
    const { source } = this.base.arranged;
    const pool = source.poolOf(demand.item, demand.warehouse);
    const order = source.orderOf(demand.order);
    const plain = demand.promised === undefined && (Number.isInteger(demand.quantity) || source.scale > 1);
    // A pool the book has not seen, or an order that ties pools together, changes how the book is grouped.
    if (pool === undefined || order === undefined || !plain || source.orderComplete[order]) return this.tryAnew(demand);
    const arranged = insertLine(this.base.arranged, demand, pool, order);
    const run = new PromiseRun(arranged, this.mode);
    const group = arranged.groupOf[pool]!;
    promiseGroup(run, group, { answer: this.base, line: arranged.placeOf[source.lineOrder.length]! });
    const added = arranged.placeOf[source.lineOrder.length]!;
    // Lines that have their turn before the added one are promised as they were.
    const changed = changedLines(this.base, run, arranged.lineAt.subarray(added + 1, arranged.lineFrom[group + 1]!));
    pegGroup(run, group, changed.length > 0 ? Infinity : lastDayOf(run, added));
    return this.trial(run, changed);
  }

  private tryAnew(demand: BookDemand): Trial {
    const run = promiseColumns(compileBook({ ...this.book, demand: [...this.book.demand, demand] }), this.mode);
    return this.trial(run, changedLines(this.base, run, run.arranged.lineAt));
  }

  private trial(run: PromiseRun, changed: readonly number[]): Trial {
    const after = new ResultReader(run);
    return {
      promise: after.promise(this.base.arranged.lineAt.length),
      changed: [...changed].sort((a, b) => a - b).map((line) => ({ before: this.reader.promise(line), after: after.promise(line) })),
    };
  }
}

/** The last day a line is newly promised for: whoever leaves later takes nothing from before it. */
function lastDayOf({ entries, freshFrom, freshCount }: PromiseRun, line: number): number {
  let last = -Infinity;
  for (let at = 0; at < freshCount[line]!; at++) last = Math.max(last, entries.day[freshFrom[line]! + at]!);
  return last;
}

/** The arranged book with one more line, behind the lines of its order and of orders of the same turn or an earlier one. */
function insertLine(arranged: ArrangedBook, demand: BookDemand, pool: number, order: number): ArrangedBook {
  const { source, book, turns } = arranged;
  const { calendar, firstShipDay } = source.sites[source.poolSite[pool]!]!;
  const requested = dayNumber(demand.requested);
  const target = Math.max(calendar.floor(requested), firstShipDay);
  const group = arranged.groupOf[pool]!;
  let low = arranged.lineFrom[group]!;
  let high = arranged.lineFrom[group + 1]!;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (turns[book.lineOrder[middle]!]! <= turns[order]!) low = middle + 1;
    else high = middle;
  }
  const place = low;
  const added = source.lineOrder.length;
  const withLine = (columns: BookColumns, at: number): BookColumns => ({
    ...columns,
    lineOrder: inserted(columns.lineOrder, at, order),
    linePool: inserted(columns.linePool, at, pool),
    lineQuantity: inserted(columns.lineQuantity, at, Math.round(demand.quantity * source.scale)),
    lineRequested: inserted(columns.lineRequested, at, requested),
    lineTarget: inserted(columns.lineTarget, at, target),
    linePartial: inserted(columns.linePartial, at, (demand.partial ?? true) ? 1 : 0),
    promisedFrom: inserted(columns.promisedFrom, at, columns.promisedFrom[at]!),
  });
  return {
    ...arranged,
    source: { ...withLine(source, added), lineIds: [...source.lineIds, demand.id] },
    book: { ...withLine(book, place), supplyFor: book.supplyFor.map((line) => (line >= place ? line + 1 : line)) },
    lineAt: inserted(arranged.lineAt, place, added),
    placeOf: inserted(
      arranged.placeOf.map((at) => (at >= place ? at + 1 : at)),
      added,
      place,
    ),
    lineFrom: arranged.lineFrom.map((from, at) => (at > group ? from + 1 : from)),
  };
}

function inserted<A extends Int32Array | Float64Array | Uint8Array>(column: A, at: number, value: number): A {
  const wider = new (column.constructor as new (length: number) => A)(column.length + 1);
  wider.set(column.subarray(0, at) as never);
  wider[at] = value;
  wider.set(column.subarray(at) as never, at + 1);
  return wider;
}
