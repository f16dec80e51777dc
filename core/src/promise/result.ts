import { isoDay, type DayNumber } from '../calendar';
import type { PegRuns } from './entries';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';
import { linesOfOrders } from './sequence';

/** The answer for a book; its names are the open exchange format's. Days are ship days, `YYYY-MM-DD`. */
export interface PromiseResult {
  readonly promises: readonly DemandPromise[];
  readonly orders: readonly OrderPromise[];
  readonly atRisk: readonly AtRisk[];
}

export interface DemandPromise {
  readonly id: string;
  readonly schedule: readonly ScheduleEntry[];
  readonly uncovered: number;
  /** Calendar days from the day requested to the last day goods really leave; 0 if on time; null if some never do. */
  readonly daysLate: number | null;
}

export interface ScheduleEntry {
  readonly date: string;
  readonly quantity: number;
  readonly kept: boolean;
  readonly assembled?: true;
  readonly from: readonly { readonly supply: string; readonly quantity: number }[];
}

export interface OrderPromise {
  readonly id: string;
  readonly date: string | null;
  readonly waitingOn: readonly string[];
}

/** A kept promise that its supply reaches too late (`arrives`) or not at all (null). */
export interface AtRisk {
  readonly id: string;
  readonly date: string;
  readonly quantity: number;
  readonly arrives: string | null;
}

/** What is late or missing of an entry. `arrives` null: no supply is left. */
interface Risk {
  readonly quantity: Scaled;
  readonly arrives: DayNumber | null;
}

/** Never: the last day of what is uncovered or broken. */
const NEVER = 2 ** 31 - 1;
const UNKNOWN = -(2 ** 31);

/** Reads the answer of a run row by row, so that a large one need not stand in memory as a whole. */
export class ResultReader {
  /** By place, as everything below that is not told a row of the file. */
  private readonly lastReal: Int32Array;
  private readonly days = new Map<DayNumber, string>();

  constructor(private readonly run: PromiseRun) {
    this.lastReal = new Int32Array(run.arranged.placeOf.length).fill(UNKNOWN);
  }

  *promises(): Generator<DemandPromise> {
    for (let line = 0; line < this.lastReal.length; line++) yield this.promise(line);
  }

  /** The answer for a line by its row in the file. */
  promise(line: number): DemandPromise {
    const { source, placeOf } = this.run.arranged;
    return this.promiseAt(placeOf[line]!, source.lineIds[line]!);
  }

  /** The answer for the line at a place of the arranged book. */
  promiseAt(place: number, id: string): DemandPromise {
    const { book } = this.run;
    const schedule: ScheduleEntry[] = [];
    let uncovered = book.lineQuantity[place]!;
    for (const entry of this.entriesOf(place)) {
      schedule.push(this.scheduleEntry(entry));
      uncovered -= this.run.entries.quantity[entry]!;
    }
    const last = this.lastRealDay(place);
    return {
      id,
      schedule,
      uncovered: uncovered / book.scale,
      daysLate: last === NEVER ? null : Math.max(0, last - book.lineRequested[place]!),
    };
  }

  *orders(): Generator<OrderPromise> {
    const { source: book, placeOf } = this.run.arranged;
    const lines = linesOfOrders(book);
    for (let order = 0; order < book.orderIds.length; order++) {
      const waitingOn: string[] = [];
      let last = -Infinity;
      for (let at = lines.from[order]!; at < lines.from[order + 1]!; at++) {
        const line = lines.sorted[at]!;
        const day = this.lastRealDay(placeOf[line]!);
        if (day === NEVER) waitingOn.push(book.lineIds[line]!);
        last = Math.max(last, day);
      }
      const none = last === -Infinity || last === NEVER || this.run.withoutDay.has(order);
      yield { id: book.orderIds[order]!, date: none ? null : this.day(last), waitingOn };
    }
  }

  *atRisk(): Generator<AtRisk> {
    const { entries, arranged } = this.run;
    const { source: book, placeOf } = arranged;
    for (let line = 0; line < book.lineOrder.length; line++) {
      const rows: { day: DayNumber; risk: Risk }[] = [];
      for (const entry of this.entriesOf(placeOf[line]!)) for (const risk of this.risksOf(placeOf[line]!, entry)) rows.push({ day: entries.day[entry]!, risk });
      rows.sort((a, b) => a.day - b.day || (a.risk.arrives ?? NEVER) - (b.risk.arrives ?? NEVER));
      for (const { day, risk } of rows) {
        const arrives = risk.arrives === null ? null : this.day(risk.arrives);
        yield { id: book.lineIds[line]!, date: this.day(day), quantity: risk.quantity / book.scale, arrives };
      }
    }
  }

  /** A line's entries by day, kept before new, own before assembled. */
  private entriesOf(line: number): readonly number[] {
    const { entries, freshFrom, freshCount } = this.run;
    const list: number[] = [];
    for (let entry = this.run.keptFrom(line); entry < this.run.keptTo(line); entry++) list.push(entry);
    for (let entry = freshFrom[line]!; entry < freshFrom[line]! + freshCount[line]!; entry++) list.push(entry);
    // Each kind stands in order already, own before assembled, so a stable sort by day is enough.
    return list.length < 2 ? list : list.sort((a, b) => entries.day[a]! - entries.day[b]!);
  }

  /** The last day on which goods of a line really leave; computed when first asked for. */
  private lastRealDay(line: number): DayNumber {
    if (this.lastReal[line] === UNKNOWN) this.lastReal[line] = this.findLastRealDay(line);
    return this.lastReal[line]!;
  }

  private findLastRealDay(line: number): DayNumber {
    const { book, entries, freshFrom, freshCount } = this.run;
    let last = -Infinity;
    let uncovered = book.lineQuantity[line]!;
    const fresh = freshFrom[line]!;
    for (let entry = fresh; entry < fresh + freshCount[line]!; entry++) {
      // New promises are made on what is there: they leave on their day.
      last = Math.max(last, entries.day[entry]!);
      uncovered -= entries.quantity[entry]!;
    }
    for (let entry = this.run.keptFrom(line); entry < this.run.keptTo(line); entry++) {
      last = Math.max(last, entries.day[entry]!);
      uncovered -= entries.quantity[entry]!;
      for (const { arrives } of this.risksOf(line, entry)) {
        if (arrives === null) return NEVER;
        last = Math.max(last, arrives);
      }
    }
    return uncovered > 0 ? NEVER : last;
  }

  private scheduleEntry(entry: number): ScheduleEntry {
    const { book, entries } = this.run;
    const from: { supply: string; quantity: number }[] = [];
    let supply = -1;
    let quantity = 0;
    for (const peg of this.pegsOf(entry)) {
      if (peg.supply < 0) continue;
      if (peg.supply === supply) quantity += peg.quantity;
      else {
        if (supply >= 0) from.push({ supply: book.supplyIds[supply]!, quantity: quantity / book.scale });
        ({ supply, quantity } = peg);
      }
    }
    if (supply >= 0) from.push({ supply: book.supplyIds[supply]!, quantity: quantity / book.scale });
    return {
      date: this.day(entries.day[entry]!),
      quantity: entries.quantity[entry]! / book.scale,
      kept: entry < entries.kept,
      ...(entries.isAssembled(entry) ? { assembled: true as const } : {}),
      from,
    };
  }

  /** What serves an entry, bound supply first; of an assembled one its components, depth first. */
  *pegsOf(entry: number): Generator<{ supply: number; quantity: Scaled; taking: number; bound: boolean }> {
    const { entries, bound, pool, taken } = this.run;
    yield* this.pegRun(bound, entry, -1, true);
    yield* this.pegRun(pool, entry, -1);
    if (!entries.isAssembled(entry)) return;
    for (let taking = entries.takingsFrom[entry]!, end = taking + entries.takingsCount[entry]!; taking < end; taking++)
      yield* this.pegRun(taken, taking, taking);
  }

  private *pegRun(runs: PegRuns, row: number, taking: number, bound = false) {
    const { pegs } = this.run;
    for (let at = runs.fromOf(row), end = at + runs.countOf(row); at < end; at++)
      yield { supply: pegs.supply[at]!, quantity: pegs.quantity[at]!, taking, bound };
  }

  /** What of a kept entry leaves later than promised or never, one row an arrival day. */
  risksOf(line: number, entry: number): readonly Risk[] {
    const { book, entries } = this.run;
    if (entries.isAssembled(entry)) return this.batchRisk(line, entry);
    const byArrival = new Map<DayNumber | null, Scaled>();
    for (const { supply, quantity } of this.pegsOf(entry)) {
      const arrives = supply < 0 ? null : book.supplyAvailable[supply]!;
      if (arrives !== null && arrives <= entries.day[entry]!) continue;
      byArrival.set(arrives, (byArrival.get(arrives) ?? 0) + quantity);
    }
    return [...byArrival].map(([arrives, quantity]) => ({ arrives, quantity }));
  }

  /** An assembled entry is one batch: late or missing as a whole, on the day its last component lets it leave. */
  private batchRisk(line: number, entry: number): readonly Risk[] {
    const { book, entries, takings } = this.run;
    const { calendar } = book.sites[book.poolSite[book.linePool[line]!]!]!;
    const quantity = entries.quantity[entry]!;
    let late = entries.startsTooLate[entry] === 1;
    let arrives = entries.day[entry]!;
    for (const { supply, taking } of this.pegsOf(entry)) {
      if (supply < 0) return [{ quantity, arrives: null }];
      const available = book.supplyAvailable[supply]!;
      if (available > takings.day[taking]!) late = true;
      arrives = Math.max(arrives, calendar.offset(available, takings.lead[taking]!));
    }
    return late ? [{ quantity, arrives }] : [];
  }

  private day(day: DayNumber): string {
    let text = this.days.get(day);
    if (text === undefined) this.days.set(day, (text = isoDay(day)));
    return text;
  }
}

/** The whole answer of a run. */
export function toResult(run: PromiseRun): PromiseResult {
  const reader = new ResultReader(run);
  return { promises: [...reader.promises()], orders: [...reader.orders()], atRisk: [...reader.atRisk()] };
}
