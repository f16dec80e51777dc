import type { DayNumber } from '../calendar';
import { moveTakings } from './assemble';
import { lasts, takeBoundThatSuits } from './bound';
import { commitOn, joinPool, shelfOf } from './goods';
import { addOwn, ownBy } from './own';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';

/**
 * Promises a quantity of a line whose goods expire, from a day on, in parts or on one day; gives what could not be promised.
 * What can be promised only rises on days on which supply becomes available: those are looked at after the first.
 */
export function promiseFromShelf(run: PromiseRun, line: number, wanted: Scaled, target: DayNumber, inParts: boolean): Scaled {
  const shelf = shelfOf(run, run.book.linePool[line]!)!;
  let missing = wanted;
  for (const day of [target, ...shelf.daysAfter(target)]) {
    const there = ownBy(run, line, day);
    if (there < missing && !inParts) continue;
    const quantity = Math.min(there, missing);
    if (quantity > 0) addOwn(run, line, day, quantity);
    missing -= quantity;
    if (missing === 0) return 0;
  }
  return missing;
}

/** Promises a quantity on what is bound to the line, whatever day that comes, from a day on; gives what is not covered by it. */
export function promiseOnBoundThatSuits(run: PromiseRun, line: number, wanted: Scaled, from: DayNumber, inParts: boolean): Scaled {
  const { book, entries, supplies } = run;
  const bound = [...supplies.boundSorted!.subarray(supplies.boundFrom![line]!, supplies.boundFrom![line + 1]!)];
  let missing = wanted;
  const add = (day: DayNumber, most: Scaled) => {
    const entry = entries.add(day, most);
    takeBoundThatSuits(run, line, entry, day, day, most);
    entries.quantity[entry] = entries.fromBound[entry]!;
    missing -= entries.fromBound[entry]!;
  };
  if (inParts) {
    for (const supply of bound) {
      const day = Math.max(from, book.supplyAvailable[supply]!);
      if (missing > 0 && supplies.boundLeft[supply]! > 0 && lasts(run, line, supply, day)) add(day, Math.min(missing, supplies.boundLeft[supply]!));
    }
    return missing;
  }
  const days = [from, ...bound.map((supply) => book.supplyAvailable[supply]!).filter((day) => day > from)];
  const there = (day: DayNumber) =>
    bound.reduce((sum, supply) => (book.supplyAvailable[supply]! <= day && lasts(run, line, supply, day) ? sum + supplies.boundLeft[supply]! : sum), 0);
  const most = Math.max(...days.map(there));
  const day = days.find((one) => there(one) >= Math.min(most, wanted));
  if (most > 0 && day !== undefined) add(day, Math.min(most, wanted));
  return missing;
}

/**
 * Moves what was newly promised of a ship-complete order to the day its last line can leave, or to the earliest later day on
 * which all of it can be served beside what else is committed. Where there is none it stays as it is and the order has no day.
 */
export function shipTogetherFromShelves(run: PromiseRun, from: number, to: number, last: DayNumber): void {
  for (const day of [last, ...turnsAfter(run, from, to, last)]) if (moveTogether(run, from, to, day)) return;
  run.withoutDay.add(run.book.lineOrder[from]!);
}

/** The calendar days after `last` on which it may become possible: a supply becomes available to a line, or what is bound to it no longer lasts. */
function turnsAfter(run: PromiseRun, from: number, to: number, last: DayNumber): readonly DayNumber[] {
  const { book, entries, takings } = run;
  const days = new Set<DayNumber>();
  for (let line = from; line < to; line++) {
    const pool = book.linePool[line]!;
    const { calendar } = book.sites[book.poolSite[pool]!]!;
    // The first calendar day from which on the line leaves on a day of its warehouse.
    const leavesOn = (day: DayNumber) => days.add(calendar.floor(calendar.ceil(day) - 1) + 1);
    for (let entry = run.freshFrom[line]!, end = entry + run.freshCount[line]!; entry < end; entry++) {
      if (!entries.isAssembled(entry)) {
        for (const day of shelfOf(run, pool)?.daysAfter(entries.day[entry]!) ?? []) leavesOn(day);
        for (const { supply } of run.boundTakes.get(entry) ?? []) {
          const end = book.supplyExpires![supply]!;
          if (end < Infinity) leavesOn(end - book.lineLife[line]! + 1);
        }
        continue;
      }
      for (let at = entries.takingsFrom[entry]!; at < entries.takingsFrom[entry]! + entries.takingsCount[entry]!; at++) {
        for (const day of shelfOf(run, takings.pool[at]!)?.daysAfter(takings.day[at]!) ?? []) leavesOn(calendar.offset(day, takings.lead[at]!));
      }
    }
  }
  return [...days].filter((day) => day > last).sort((a, b) => a - b);
}

/** Moves all newly promised lines to a day, each to the first working day of its warehouse; false, with nothing moved, where not all can be served so. */
function moveTogether(run: PromiseRun, from: number, to: number, last: DayNumber): boolean {
  const { book } = run;
  const undo: (() => void)[] = [];
  for (let line = from; line < to; line++) {
    const day = book.sites[book.poolSite[book.linePool[line]!]!]!.calendar.ceil(last);
    for (let entry = run.freshFrom[line]!, end = entry + run.freshCount[line]!; entry < end; entry++) undo.push(moveEntry(run, line, entry, day));
  }
  if ([...run.shelves!.values()].every((shelf) => shelf.isServed())) return true;
  for (const back of undo.reverse()) back();
  return false;
}

/** Moves an entry to a day; what is bound to it and does not last so long joins the pool, and it takes as much more from there. */
function moveEntry(run: PromiseRun, line: number, entry: number, day: DayNumber): () => void {
  const { book, entries, supplies } = run;
  const pool = book.linePool[line]!;
  const life = book.lineLife[line]!;
  const before = entries.day[entry]!;
  entries.day[entry] = day;
  if (entries.isAssembled(entry)) {
    moveTakings(run, entries, entry, day);
    return () => {
      moveTakings(run, entries, entry, before);
      entries.day[entry] = before;
    };
  }
  const takes = run.boundTakes.get(entry) ?? [];
  const spoilt = takes.filter(({ supply }) => !lasts(run, line, supply, day));
  const quantity = spoilt.reduce((sum, take) => sum + take.quantity, 0);
  commitOn(run, pool, before, life, -entries.fromPool(entry));
  for (const take of spoilt) joinPool(run, take.supply, take.quantity);
  if (quantity > 0) {
    entries.fromBound[entry]! -= quantity;
    run.boundTakes.set(
      entry,
      takes.filter((take) => !spoilt.includes(take)),
    );
  }
  commitOn(run, pool, day, life, entries.fromPool(entry));
  return () => {
    commitOn(run, pool, day, life, -entries.fromPool(entry));
    for (const take of spoilt) {
      supplies.free[take.supply]! -= take.quantity;
      shelfOf(run, pool)!.join(book.supplyAvailable[take.supply]!, book.supplyExpires![take.supply]!, -take.quantity);
    }
    if (quantity > 0) {
      entries.fromBound[entry]! += quantity;
      run.boundTakes.set(entry, takes);
    }
    entries.day[entry] = before;
    commitOn(run, pool, before, life, entries.fromPool(entry));
  };
}
