import { isoDay, type DayNumber } from '../calendar';
import type { CompiledBook, Line } from './compiled-book';
import type { Peg, Pegs } from './peg';
import type { Entry, LinePromise } from './promise-line';
import { fromScaled, type Scaled } from './quantity';

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

export function toResult(book: CompiledBook, promises: readonly LinePromise[], pegs: Pegs): PromiseResult {
  const atRisk: AtRisk[] = [];
  const lastReal: (DayNumber | null)[] = [];
  const demand = book.lines.map((line): DemandPromise => {
    const { kept, fresh } = promises[line.index]!;
    const entries = [...kept, ...fresh].sort((a, b) => a.day - b.day || Number(b.kept) - Number(a.kept) || Number(a.assembled) - Number(b.assembled));
    const uncovered = line.quantity - entries.reduce((sum, entry) => sum + entry.quantity, 0);
    let last: DayNumber | null = uncovered > 0 ? null : 0;
    const rows: { day: DayNumber; risk: Risk }[] = [];
    for (const entry of entries) {
      const risks = risksOf(book, line, entry, pegs);
      for (const risk of risks) rows.push({ day: entry.day, risk });
      const real = risks.reduce<DayNumber | null>((day, { arrives }) => (day === null || arrives === null ? null : Math.max(day, arrives)), entry.day);
      last = last === null || real === null ? null : Math.max(last, real);
    }
    rows.sort((a, b) => a.day - b.day || (a.risk.arrives ?? Infinity) - (b.risk.arrives ?? Infinity));
    for (const { day, risk } of rows)
      atRisk.push({ id: line.id, date: isoDay(day), quantity: fromScaled(risk.quantity), arrives: risk.arrives === null ? null : isoDay(risk.arrives) });
    lastReal[line.index] = last;
    return {
      id: line.id,
      schedule: entries.map((entry) => toScheduleEntry(entry, pegs)),
      uncovered: fromScaled(uncovered),
      daysLate: last === null ? null : Math.max(0, last - line.requested),
    };
  });
  const orders = book.orders.map(({ id, lines }): OrderPromise => {
    const waitingOn = lines.filter((line) => lastReal[line.index] === null).map((line) => line.id);
    const date = lines.length > 0 && waitingOn.length === 0 ? isoDay(Math.max(...lines.map((line) => lastReal[line.index]!))) : null;
    return { id, date, waitingOn };
  });
  return { promises: demand, orders, atRisk };
}

function toScheduleEntry(entry: Entry, pegs: Pegs): ScheduleEntry {
  const from: { supply: string; quantity: Scaled }[] = [];
  for (const { supply, quantity } of allPegs(entry, pegs)) {
    if (!supply) continue;
    const last = from[from.length - 1];
    if (last && last.supply === supply.id) last.quantity += quantity;
    else from.push({ supply: supply.id, quantity });
  }
  return {
    date: isoDay(entry.day),
    quantity: fromScaled(entry.quantity),
    kept: entry.kept,
    ...(entry.assembled ? { assembled: true as const } : {}),
    from: from.map(({ supply, quantity }) => ({ supply, quantity: fromScaled(quantity) })),
  };
}

function allPegs(entry: Entry, pegs: Pegs): Peg[] {
  return [...(pegs.bound.get(entry) ?? []), ...entry.commitments.flatMap((commitment) => pegs.pool.get(commitment)!)];
}

/** What of an entry leaves later than promised or never, one row an arrival day. */
function risksOf(book: CompiledBook, line: Line, entry: Entry, pegs: Pegs): Risk[] {
  if (entry.assembled) return batchRisk(book, line, entry, pegs);
  const byArrival = new Map<DayNumber | null, Scaled>();
  for (const { supply, quantity } of allPegs(entry, pegs)) {
    if (supply && supply.available <= entry.day) continue;
    const arrives = supply?.available ?? null;
    byArrival.set(arrives, (byArrival.get(arrives) ?? 0) + quantity);
  }
  return [...byArrival].map(([arrives, quantity]) => ({ arrives, quantity }));
}

/** An assembled entry is one batch: late or missing as a whole, on the day its last component lets it leave. */
function batchRisk(book: CompiledBook, line: Line, entry: Entry, pegs: Pegs): Risk[] {
  const { calendar } = book.sites[line.site]!;
  let late = entry.startsTooLate;
  let arrives = entry.day;
  for (const commitment of entry.commitments) {
    for (const { supply } of pegs.pool.get(commitment)!) {
      if (!supply) return [{ quantity: entry.quantity, arrives: null }];
      if (supply.available > commitment.day) late = true;
      arrives = Math.max(arrives, calendar.offset(supply.available, commitment.lead));
    }
  }
  return late ? [{ quantity: entry.quantity, arrives }] : [];
}
