import { dayNumber, isoDay } from '../calendar';
import type { ArrangedBook } from './arrange';
import { withColumns } from './book-columns';
import { compileBook } from './compile-book';
import { changedLines, type ChangedLine } from './changed-lines';
import type { BookDemand, OrderBook } from './order-book';
import { pegNewLine } from './peg';
import { keptLoad, promiseColumns, promiseGroup } from './promise-group';
import { PromiseRun, type PromiseMode } from './promise-run';
import { ResultReader, type DemandPromise } from './result';

/** What leaves on a day, kept and new parts as one. */
export interface DayQuantity {
  readonly date: string;
  readonly quantity: number;
}

/** A line whose days or quantities an added demand changes; days ascend. */
export interface LineChange {
  readonly id: string;
  readonly before: readonly DayQuantity[];
  readonly after: readonly DayQuantity[];
}

/** What an added demand would get, and what it would change for others, in file order. */
export interface Trial {
  readonly promise: DemandPromise;
  readonly changed: readonly LineChange[];
}

/**
 * A book kept open to try demands on. The book is compiled, sorted and promised once; a trial then inserts one line and
 * promises again only the lines of its pools that have their turn after it.
 */
export class OpenBook {
  private readonly base: PromiseRun;
  private readonly keptLoads = new Map<number, Float64Array>();

  constructor(
    private readonly book: OrderBook,
    private readonly mode: PromiseMode = 'keep',
  ) {
    this.base = promiseColumns(compileBook(book), mode);
  }

  /** Tries one more demand of an order of the book, last of its lines. The demand must be faultless. */
  try(demand: BookDemand): Trial {
    const { source } = this.base.arranged;
    const pool = source.poolOf(demand.item, demand.warehouse);
    const order = source.orderOf(demand.order);
    const plain = demand.promised === undefined && (Number.isInteger(demand.quantity) || source.scale > 1);
    // A pool the book has not seen, or an order that ties pools together, changes how the book is grouped.
    if (pool === undefined || order === undefined || !plain || source.orderComplete[order]) return this.tryAnew(demand);
    const { arranged, place: added } = insertLine(this.base.arranged, demand, pool, order);
    const run = new PromiseRun(arranged, this.mode);
    const group = arranged.groupOf[pool]!;
    promiseGroup(run, group, { answer: this.base, line: added, keptLoad: () => this.keptLoad(group) });
    pegNewLine(run, group, added);
    // Lines that have their turn before the added one are promised as they were.
    return this.trial(
      new ResultReader(run).promiseAt(added, demand.id),
      run,
      changedLines(this.base, run, added + 1, arranged.lineFrom[group + 1]!, (place) => place - 1),
    );
  }

  private tryAnew(demand: BookDemand): Trial {
    const run = promiseColumns(compileBook({ ...this.book, demand: [...this.book.demand, demand] }), this.mode);
    const { lineAt } = run.arranged;
    const known = this.base.arranged.placeOf;
    return this.trial(
      new ResultReader(run).promise(lineAt.length - 1),
      run,
      changedLines(this.base, run, 0, lineAt.length, (place) => known[lineAt[place]!] ?? -1),
    );
  }

  private trial(promise: DemandPromise, run: PromiseRun, changed: readonly ChangedLine[]): Trial {
    const { source } = this.base.arranged;
    const change = ({ line, before, after }: ChangedLine): LineChange => ({
      id: source.lineIds[line]!,
      before: dayQuantities(before, source.scale),
      after: dayQuantities(after, run.book.scale),
    });
    return { promise, changed: [...changed].sort((a, b) => a.line - b.line).map(change) };
  }

  /** What a group's pools have left once all that is kept is committed; the same for every trial. */
  private keptLoad(group: number): Float64Array {
    let load = this.keptLoads.get(group);
    if (!load) this.keptLoads.set(group, (load = keptLoad(this.base, group)));
    return load;
  }
}

function dayQuantities(byDay: ReadonlyMap<number, number>, scale: number): DayQuantity[] {
  return [...byDay].sort(([a], [b]) => a - b).map(([day, quantity]) => ({ date: isoDay(day), quantity: quantity / scale }));
}

/**
 * The arranged book with one more line, behind the lines of its order and of orders of the same turn or an earlier one,
 * and the place of that line. The source stays as it was: the line is a row behind its last.
 */
function insertLine(arranged: ArrangedBook, demand: BookDemand, pool: number, order: number): { readonly arranged: ArrangedBook; readonly place: number } {
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
  const line = {
    lineOrder: inserted(book.lineOrder, place, order),
    linePool: inserted(book.linePool, place, pool),
    lineQuantity: inserted(book.lineQuantity, place, Math.round(demand.quantity * source.scale)),
    lineRequested: inserted(book.lineRequested, place, requested),
    lineTarget: inserted(book.lineTarget, place, target),
    linePartial: inserted(book.linePartial, place, (demand.partial ?? true) ? 1 : 0),
    lineLife: inserted(book.lineLife, place, demand.lifeDays ?? 0),
    promisedFrom: inserted(book.promisedFrom, place, book.promisedFrom[place]!),
    supplyFor: book.supplyFor.map((bound) => (bound >= place ? bound + 1 : bound)),
  };
  const wider = {
    ...arranged,
    book: withColumns(book, line),
    lineAt: inserted(arranged.lineAt, place, source.lineOrder.length),
    placeOf: placesWith(arranged.placeOf, place),
    lineFrom: arranged.lineFrom.map((from, at) => (at > group ? from + 1 : from)),
  };
  return { arranged: wider, place };
}

/** The places of lines when one is put at `place`, as the last of the file. */
function placesWith(places: Int32Array, place: number): Int32Array {
  const wider = inserted(places, places.length, place);
  for (let line = 0; line < places.length; line++) if (wider[line]! >= place) wider[line]!++;
  return wider;
}

function inserted<A extends Int32Array | Float64Array | Uint8Array>(column: A, at: number, value: number): A {
  const wider = new (column.constructor as new (length: number) => A)(column.length + 1);
  wider.set(column.subarray(0, at) as never);
  wider[at] = value;
  wider.set(column.subarray(at) as never, at + 1);
  return wider;
}
