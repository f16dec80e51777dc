import type { DayNumber } from '../calendar';
import type { BookColumns } from './book-columns';
import { assembleKept, moveTakings } from './assemble';
import { boundBy, freeBound, hasBound, takeBound, takeBoundThatSuits } from './bound';
import { shelfOf } from './goods';
import { addOwn, ownBy } from './own';
import { promiseFromShelf, promiseOnBoundThatSuits, shipTogetherFromShelves } from './promise-shelf';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';
import { promiseAssembled } from './promise-assembled';

/**
 * Commits what the line was promised before: bound supply first, whatever day it arrives, as far as the promise stands on
 * it. `built`: whether the timelines of its group answer already, or still collect.
 */
export function keepLine(run: PromiseRun, line: number, built: boolean): void {
  const { book, entries, timelines } = run;
  const pool = book.linePool[line]!;
  for (let entry = run.keptFrom(line), end = run.keptTo(line); entry < end; entry++) {
    const day = entries.day[entry]!;
    run.line = line;
    if (entries.isAssembled(entry)) {
      const { calendar, firstShipDay } = book.sites[book.poolSite[pool]!]!;
      const start = calendar.offset(day, -book.poolAssemblyDays[pool]!);
      entries.takingsFrom[entry] = run.takings.count;
      assembleKept(run, pool, entries.quantity[entry]!, Math.max(start, firstShipDay));
      entries.takingsCount[entry] = run.takings.count - entries.takingsFrom[entry]!;
      entries.startsTooLate[entry] = start < firstShipDay ? 1 : 0;
      continue;
    }
    const shelf = shelfOf(run, pool);
    if (shelf) {
      if (entries.withBound) takeBoundThatSuits(run, line, entry, day, Infinity, onBound(book, entry));
      if (entries.fromPool(entry) > 0) shelf.keep(entry, line, day, book.lineLife[line]!, entries.fromPool(entry));
      continue;
    }
    if (entries.withBound) entries.fromBound[entry] = takeBound(run, line, Infinity, onBound(book, entry));
    const fromPool = entries.fromPool(entry);
    if (fromPool === 0) continue;
    const segment = timelines.segmentOf(pool, day);
    if (built) timelines.change(pool, segment, -fromPool);
    else timelines.load(pool, segment, -fromPool);
  }
}

/** What of a promised entry stands on bound supply at most. */
export function onBound({ promisedQuantity, promisedBound }: BookColumns, entry: number): Scaled {
  return promisedBound ? promisedBound[entry]! : promisedQuantity[entry]!;
}

/** Gives a line of an own-supply pool the new promises it has in another answer, while the timelines still collect. */
export function takeKnown(run: PromiseRun, line: number, answer: PromiseRun): void {
  const { book, entries, timelines } = run;
  const pool = book.linePool[line]!;
  run.freshFrom[line] = entries.count;
  run.freshCount[line] = answer.freshCount[line]!;
  for (let at = answer.freshFrom[line]!, end = at + answer.freshCount[line]!; at < end; at++) {
    const day = answer.entries.day[at]!;
    entries.add(day, answer.entries.quantity[at]!);
    timelines.load(pool, timelines.segmentOf(pool, day), -answer.entries.quantity[at]!);
  }
}

/**
 * Promises what is not yet promised of a line, on the days there is for it, or on one day where it must leave `whole`
 * or the line is not partial. What is bound to it and not taken then serves those that come after. True where the whole
 * line is covered.
 */
export function promiseLine(run: PromiseRun, line: number, whole: boolean): boolean {
  const { book, entries } = run;
  let missing = book.lineQuantity[line]!;
  for (let entry = run.keptFrom(line), end = run.keptTo(line); entry < end; entry++) missing -= entries.quantity[entry]!;
  run.freshFrom[line] = entries.count;
  if (missing > 0) {
    missing = promiseQuantity(run, line, missing, book.lineTarget[line]!, book.linePartial[line] === 1 && !whole);
    run.freshCount[line] = entries.count - run.freshFrom[line]!;
  }
  freeBound(run, line);
  return missing === 0;
}

/** Promises a quantity of a line from a day on, in parts or on one day; gives what could not be promised. */
export function promiseQuantity(run: PromiseRun, line: number, wanted: Scaled, target: DayNumber, inParts: boolean): Scaled {
  if (run.book.poolAssemblyDays[run.book.linePool[line]!]! >= 0) return promiseAssembled(run, line, wanted, target, inParts);
  if (shelfOf(run, run.book.linePool[line]!)) return promiseFromShelf(run, line, wanted, target, inParts);
  if (hasBound(run, line)) return inParts ? promiseBoundInParts(run, line, wanted, target) : promiseBoundWhole(run, line, wanted, target);
  return inParts ? promiseInParts(run, line, wanted, target) : promiseWhole(run, line, wanted, target);
}

/**
 * Promises a quantity on what is bound to the line, whatever day that comes, from a day on: a promise that was made on
 * bound supply goes with it. Gives what is not covered by it.
 */
export function promiseOnBound(run: PromiseRun, line: number, wanted: Scaled, from: DayNumber, inParts: boolean): Scaled {
  if (!hasBound(run, line)) return wanted;
  if (shelfOf(run, run.book.linePool[line]!)) return promiseOnBoundThatSuits(run, line, wanted, from, inParts);
  const { book, entries, supplies } = run;
  let missing = wanted;
  let last = from;
  for (let at = supplies.boundFrom![line]!; at < supplies.boundFrom![line + 1]! && missing > 0; at++) {
    const supply = supplies.boundSorted![at]!;
    const quantity = Math.min(missing, supplies.boundLeft[supply]!);
    if (quantity === 0) continue;
    last = Math.max(last, book.supplyAvailable[supply]!);
    missing -= quantity;
    if (!inParts) continue;
    const entry = entries.add(last, quantity);
    entries.fromBound[entry] = takeBound(run, line, Infinity, quantity);
  }
  if (!inParts && missing < wanted) {
    const entry = entries.add(last, wanted - missing);
    entries.fromBound[entry] = takeBound(run, line, Infinity, wanted - missing);
  }
  return missing;
}

/** Moves what was newly promised of a ship-complete order to the day its last line can leave. */
export function shipTogether(run: PromiseRun, from: number, to: number): void {
  const { book, entries, timelines } = run;
  let last = -Infinity;
  for (let line = from; line < to; line++) {
    for (let entry = run.keptFrom(line); entry < run.keptTo(line); entry++) last = Math.max(last, entries.day[entry]!);
    const end = run.freshFrom[line]! + run.freshCount[line]!;
    for (let entry = run.freshFrom[line]!; entry < end; entry++) last = Math.max(last, entries.day[entry]!);
  }
  if (run.shelves && run.shelves.size > 0) return shipTogetherFromShelves(run, from, to, last);
  for (let line = from; line < to; line++) {
    const pool = book.linePool[line]!;
    const day = book.sites[book.poolSite[pool]!]!.calendar.ceil(last);
    const end = run.freshFrom[line]! + run.freshCount[line]!;
    for (let entry = run.freshFrom[line]!; entry < end; entry++) {
      if (entries.isAssembled(entry)) moveTakings(run, entries, entry, day);
      else {
        const fromPool = entries.fromPool(entry);
        timelines.change(pool, timelines.segmentOf(pool, entries.day[entry]!), fromPool);
        timelines.change(pool, timelines.segmentOf(pool, day), -fromPool);
      }
      entries.day[entry] = day;
    }
  }
}

function promiseWhole(run: PromiseRun, line: number, missing: Scaled, target: DayNumber): Scaled {
  const { book, entries, timelines } = run;
  const pool = book.linePool[line]!;
  let day = target;
  let segment = timelines.segmentOf(pool, day);
  if (timelines.available(pool, segment) < missing) {
    segment = timelines.firstWith(pool, missing);
    if (segment < 0) return missing;
    day = timelines.dayOf(pool, segment);
  }
  entries.add(day, missing);
  timelines.change(pool, segment, -missing);
  return 0;
}

function promiseInParts(run: PromiseRun, line: number, wanted: Scaled, target: DayNumber): Scaled {
  const { book, entries, timelines } = run;
  const pool = book.linePool[line]!;
  let missing = wanted;
  let day = target;
  let segment = timelines.segmentOf(pool, day);
  for (;;) {
    const there = timelines.available(pool, segment);
    const quantity = there < missing ? there : missing;
    if (quantity > 0) {
      entries.add(day, quantity);
      timelines.change(pool, segment, -quantity);
      missing -= quantity;
      if (missing === 0) return 0;
    }
    // All that was there is taken: ATP is 0 up to the next segment with some.
    segment = timelines.firstWith(pool, 1);
    if (segment < 0) return missing;
    day = timelines.dayOf(pool, segment);
  }
}

function promiseBoundWhole(run: PromiseRun, line: number, wanted: Scaled, target: DayNumber): Scaled {
  const { book, supplies } = run;
  // Between two bound arrivals only the pool grows: ask it once for each stretch.
  let earliest = firstDayFrom(run, line, target, wanted);
  for (let at = supplies.boundFrom![line]!; at < supplies.boundFrom![line + 1]!; at++) {
    const start = book.supplyAvailable[supplies.boundSorted![at]!]!;
    if (start > target && (earliest === null || start < earliest)) {
      const day = firstDayFrom(run, line, start, wanted);
      if (day !== null && (earliest === null || day < earliest)) earliest = day;
    }
  }
  if (earliest === null) return wanted;
  addOwn(run, line, earliest, wanted);
  return 0;
}

/** The earliest day from `start` on which the pool and what is bound by `start` give `wanted`; null where there is none. */
function firstDayFrom(run: PromiseRun, line: number, start: DayNumber, wanted: Scaled): DayNumber | null {
  const { book, timelines } = run;
  const pool = book.linePool[line]!;
  const missing = wanted - boundBy(run, line, start);
  if (missing <= 0 || timelines.available(pool, timelines.segmentOf(pool, start)) >= missing) return start;
  const segment = timelines.firstWith(pool, missing);
  return segment < 0 ? null : timelines.dayOf(pool, segment);
}

function promiseBoundInParts(run: PromiseRun, line: number, wanted: Scaled, target: DayNumber): Scaled {
  const { book, supplies, timelines } = run;
  const pool = book.linePool[line]!;
  let missing = wanted;
  let day = target;
  for (;;) {
    const quantity = Math.min(missing, ownBy(run, line, day));
    if (quantity > 0) addOwn(run, line, day, quantity);
    missing -= quantity;
    if (missing === 0) return 0;
    const segment = timelines.firstWith(pool, 1);
    let next = segment < 0 ? Infinity : timelines.dayOf(pool, segment);
    for (let at = supplies.boundFrom![line]!; at < supplies.boundFrom![line + 1]!; at++) {
      const supply = supplies.boundSorted![at]!;
      const available = book.supplyAvailable[supply]!;
      if (available > day && available < next && supplies.boundLeft[supply]! > 0) next = available;
    }
    if (next === Infinity) return missing;
    day = next;
  }
}
