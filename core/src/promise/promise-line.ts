import type { DayNumber } from '../calendar';
import { assemble, assembleKept, splitOwnAndAssembled, take, type Commitment } from './assemble';
import type { CompiledBook, Line, Pool } from './compiled-book';
import type { Scaled } from './quantity';

/** A part of a line that leaves on one day. */
export interface Entry {
  day: DayNumber;
  readonly quantity: Scaled;
  readonly kept: boolean;
  readonly assembled: boolean;
  /** How much of it comes from supply bound to the line; the rest is committed on pools. */
  readonly fromBound: Scaled;
  readonly commitments: readonly Commitment[];
  /** A kept assembled entry whose components would have had to be taken before the first ship day. */
  readonly startsTooLate: boolean;
}

/** What a line is promised: kept entries and new ones, each ascending by day. */
export interface LinePromise {
  readonly kept: Entry[];
  fresh: Entry[];
}

/** Commits what the line was promised before, bound supply first, whatever day it arrives. */
export function keepPromises(book: CompiledBook, line: Line): Entry[] {
  const pool = book.pool(line.item, line.site);
  return line.promised.map(({ day, quantity, assembled }): Entry => {
    if (assembled) {
      const { calendar, firstShipDay } = book.sites[line.site]!;
      const start = calendar.offset(day, -book.assemblies[line.item]!.days);
      const commitments = assembleKept(book, line.site, line.item, quantity, Math.max(start, firstShipDay));
      return { day, quantity, kept: true, assembled, fromBound: 0, commitments, startsTooLate: start < firstShipDay };
    }
    const fromBound = takeBound(line, Infinity, quantity);
    return ownEntry(pool, day, quantity, fromBound, true);
  });
}

/** Promises `wanted` of a line that must leave whole: on the earliest day on which all of it is there, or not at all. */
export function promiseWhole(book: CompiledBook, line: Line, wanted: Scaled): Entry[] {
  const pool = book.pool(line.item, line.site);
  if (!book.assemblies[line.item]) {
    const day = firstDayOf(line, pool, wanted);
    return day === null ? [] : [ownEntry(pool, day, wanted, takeBound(line, day, wanted), false)];
  }
  for (const day of candidateDays(book, line)) {
    const entries = ownAndAssembled(book, line, pool, day, wanted);
    if (entries) return entries;
  }
  return [];
}

/** Promises `wanted` of a line that may leave in parts: on each day as much as there is. What never comes is left out. */
export function promiseInParts(book: CompiledBook, line: Line, wanted: Scaled): Entry[] {
  const pool = book.pool(line.item, line.site);
  const assembled = book.assemblies[line.item] !== null;
  const entries: Entry[] = [];
  let missing = wanted;
  const days = assembled ? candidateDays(book, line)[Symbol.iterator]() : null;
  for (let day: DayNumber | null = line.target; day !== null && missing > 0;) {
    if (assembled) {
      const last = ownAndAssembled(book, line, pool, day, missing);
      if (last) return [...entries, ...last];
    }
    const quantity = Math.min(missing, boundBy(line, day) + pool.timeline.available(day));
    if (quantity > 0) entries.push(ownEntry(pool, day, quantity, takeBound(line, day, quantity), false));
    missing -= quantity;
    day = days ? nextOf(days, day) : nextDayWithMore(line, pool, day);
  }
  return entries;
}

/** What is bound to the line, not yet used, and can leave by `day`. */
function boundBy(line: Line, day: DayNumber): Scaled {
  let sum = 0;
  for (const piece of line.bound) if (piece.available <= day) sum += piece.quantity;
  return sum;
}

/** Takes at most `wanted` of what is bound and can leave by `day`, earliest first; gives how much. */
function takeBound(line: Line, day: DayNumber, wanted: Scaled): Scaled {
  let missing = wanted;
  for (const piece of line.bound) {
    if (piece.available > day || missing === 0) break;
    const quantity = Math.min(piece.quantity, missing);
    piece.quantity -= quantity;
    missing -= quantity;
  }
  return wanted - missing;
}

function ownEntry(pool: Pool, day: DayNumber, quantity: Scaled, fromBound: Scaled, kept: boolean): Entry {
  const commitments = quantity > fromBound ? [take(pool, day, quantity - fromBound)] : [];
  return { day, quantity, kept, assembled: false, fromBound, commitments, startsTooLate: false };
}

/** All of `wanted` on `day`, own supply first and the rest assembled; null, with nothing taken, where that cannot be. */
function ownAndAssembled(book: CompiledBook, line: Line, pool: Pool, day: DayNumber, wanted: Scaled): Entry[] | null {
  const split = splitOwnAndAssembled(wanted, boundBy(line, day) + pool.timeline.available(day));
  if (!split) return null;
  const commitments = split.assembled > 0 ? assemble(book, line.site, line.item, split.assembled, day) : [];
  if (!commitments) return null;
  const entries = split.own > 0 ? [ownEntry(pool, day, split.own, takeBound(line, day, split.own), false)] : [];
  if (split.assembled > 0) entries.push({ day, quantity: split.assembled, kept: false, assembled: true, fromBound: 0, commitments, startsTooLate: false });
  return entries;
}

/** The earliest day from the target on which bound supply and pool together give `wanted`; null where there is none. */
function firstDayOf(line: Line, pool: Pool, wanted: Scaled): DayNumber | null {
  // Between two bound arrivals only the pool grows: ask it once for each stretch.
  const starts = [line.target, ...line.bound.map((piece) => piece.available).filter((day) => day > line.target)];
  let earliest: DayNumber | null = null;
  for (const start of starts) {
    const missing = wanted - boundBy(line, start);
    const day = missing <= 0 ? start : pool.timeline.firstDay(start, missing);
    if (day !== null && (earliest === null || day < earliest)) earliest = day;
  }
  return earliest;
}

function nextDayWithMore(line: Line, pool: Pool, day: DayNumber): DayNumber | null {
  const next = pool.timeline.firstDay(day, 1);
  const bound = line.bound.find((piece) => piece.available > day && piece.quantity > 0);
  if (!bound) return next;
  return next === null ? bound.available : Math.min(next, bound.available);
}

/**
 * The days from the target on which the answer for an assembled item can change: those on which its own supply grows,
 * and those that a batch reaches which starts when a component's supply grows, at every level.
 */
function candidateDays(book: CompiledBook, line: Line): DayNumber[] {
  const { calendar, firstShipDay } = book.sites[line.site]!;
  const days = new Set<DayNumber>([line.target]);
  const add = (day: DayNumber) => day > line.target && days.add(day);
  for (const piece of line.bound) add(piece.available);
  const seen = new Set<string>();
  const stack = [{ item: line.item, lead: 0 }];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { item, lead } = next;
    const key = `${item} ${lead}`;
    if (seen.has(key)) continue;
    seen.add(key);
    add(calendar.offset(firstShipDay, lead));
    for (const day of book.pool(item, line.site).timeline.supplyDaysAfter(-Infinity)) add(calendar.offset(day, lead));
    const assembly = book.assemblies[item];
    for (const component of assembly?.components ?? []) stack.push({ item: component.item, lead: lead + assembly!.days });
  }
  return [...days].sort((a, b) => a - b);
}

function nextOf(days: Iterator<DayNumber>, after: DayNumber): DayNumber | null {
  for (let step = days.next(); !step.done; step = days.next()) if (step.value > after) return step.value;
  return null;
}
