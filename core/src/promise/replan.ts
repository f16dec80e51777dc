import { isoDay, type DayNumber } from '../calendar';
import { arrangeBook } from './arrange';
import { compileBook } from './compile-book';
import { heldBook } from './held-book';
import type { OrderBook } from './order-book';
import { giveBackTakings } from './assemble';
import { freeBound } from './bound';
import { giveBackEntry } from './own';
import { onBound, promiseOnBound, promiseQuantity, shipTogether } from './promise-line';
import { openGroup } from './promise-group';
import { PromiseRun } from './promise-run';
import { ResultReader, type ScheduleEntry } from './result';

/**
 * What a line does when promises are made again because something has changed.
 * `hold`: its promises stay on their days where that is possible, and move no further than they must where it is not;
 * what of it waits goes on waiting. `improve`: the same, and when all have held theirs it takes what is left: what it
 * waits for, and earlier days where it is later than asked. `alone`: it holds, and its line of the plan says what it would
 * have if it improved and nobody else of those that try alone did. `claim`: at its turn it takes what it asks for, also
 * from those behind it.
 */
export type Stance = 'hold' | 'improve' | 'alone' | 'claim';

export interface PlannedLine {
  readonly id: string;
  readonly schedule: readonly Pick<ScheduleEntry, 'date' | 'quantity'>[];
  readonly uncovered: number;
}

type Outcome = Pick<PlannedLine, 'schedule' | 'uncovered'>;

/**
 * Makes the promises of a faultless book again so that as few move as must. What was promised stands as the promise
 * computation finds it: on its day, on the day its goods come where that is later, or without goods; so who loses by a
 * slip, a short receipt or a count is whom the computation says, and nobody else. Then, in the sequence of orders, each line
 * holds that or claims anew; at last those that may improve take what is left. No line of the plan is at risk. Lines in file
 * order. Assembled promises are held, not improved.
 */
export function replan(book: OrderBook, stanceOf: (demandId: string) => Stance): readonly PlannedLine[] {
  return replanHeld(heldBook(book), stanceOf);
}

/** The same for a book whose promises all stand on what there is (`heldBook`). */
export function replanHeld(book: OrderBook, stanceOf: (demandId: string) => Stance): readonly PlannedLine[] {
  const source = compileBook(book);
  const run = new PromiseRun(arrangeBook(source), 'resequence');
  const stances = Array.from(run.arranged.lineAt, (line) => stanceOf(source.lineIds[line]!));
  const alone = new Map<number, Outcome>();
  for (let group = 0; group < run.arranged.groups; group++) replanGroup(run, group, stances, alone);
  const reader = new ResultReader(run);
  return source.lineIds.map((id, line) => {
    const { schedule, uncovered } = alone.get(run.arranged.placeOf[line]!) ?? reader.promise(line);
    return { id, schedule: onePartADay(schedule), uncovered };
  });
}

function replanGroup(run: PromiseRun, group: number, stances: readonly Stance[], alone: Map<number, Outcome>) {
  const { book } = run;
  const { lineFrom, pools, poolFrom } = run.arranged;
  const [from, to] = [lineFrom[group]!, lineFrom[group + 1]!];
  if (from === to) return;
  openGroup(run, group);
  for (let at = poolFrom[group]!; at < poolFrom[group + 1]!; at++) run.timelines.build(pools[at]!);

  for (let line = from; line < to;) {
    const order = book.lineOrder[line]!;
    const first = line;
    let whole = book.orderComplete[order] === 1;
    for (; line < to && book.lineOrder[line] === order; line++) {
      const covered = stances[line] === 'claim' ? claim(run, line) : hold(run, line);
      whole &&= covered;
    }
    if (whole) shipTogether(run, first, line);
  }
  for (let line = from; line < to; line++) {
    // An order that leaves complete gains nothing from one line that is earlier: only what it waits for is looked for.
    if (stances[line] === 'improve') improve(run, line);
    if (stances[line] === 'alone') alone.set(line, tryAlone(run, line));
    freeBound(run, line);
  }
}

/** Promises what the line was promised, each part from its day on. True where the whole line is promised. */
function hold(run: PromiseRun, line: number): boolean {
  run.freshFrom[line] = run.entries.count;
  return holdUntil(run, line, Infinity) === 0;
}

/** Holds what the line was promised by the day asked for, and promises the rest anew from that day on. */
function claim(run: PromiseRun, line: number): boolean {
  const { book, entries } = run;
  const target = book.lineTarget[line]!;
  const inParts = mayPart(run, line);
  run.freshFrom[line] = entries.count;
  let missing = inParts ? holdUntil(run, line, target) : book.lineQuantity[line]!;
  if (missing > 0) missing = promiseQuantity(run, line, missing, target, inParts);
  run.freshCount[line] = entries.count - run.freshFrom[line]!;
  return missing === 0;
}

/** Promises each part that the line was promised up to a day, from its own day on; gives what of the line is left. */
function holdUntil(run: PromiseRun, line: number, last: DayNumber): number {
  const { book, entries } = run;
  const inParts = mayPart(run, line);
  let missing = book.lineQuantity[line]!;
  // All that stands on bound goods first: what stands on anyone's must not take what a later part stands on.
  const fromPool: { readonly day: DayNumber; readonly quantity: number; readonly rest: number }[] = [];
  for (let at = book.promisedFrom[line]!; at < book.promisedFrom[line + 1]!; at++) {
    const quantity = book.promisedQuantity[at]!;
    const day = book.promisedDay[at]!;
    if (day > last) break;
    const bound = book.promisedAssembled[at] ? 0 : onBound(book, at);
    fromPool.push({ day, quantity, rest: quantity - bound + (bound > 0 ? promiseOnBound(run, line, bound, day, inParts) : 0) });
  }
  for (const { day, quantity, rest } of fromPool) missing -= quantity - (rest > 0 ? promiseQuantity(run, line, rest, day, inParts) : 0);
  run.freshCount[line] = entries.count - run.freshFrom[line]!;
  return missing;
}

/** What a line would have if it improved; the run is left as it was. */
function tryAlone(run: PromiseRun, line: number): Outcome {
  const { book, entries, takings } = run;
  const [freshFrom, freshCount, mark] = [run.freshFrom[line]!, run.freshCount[line]!, takings.count];
  const { stayed, takeAgain } = improve(run, line);
  const [from, end] = [run.freshFrom[line]!, run.freshFrom[line]! + run.freshCount[line]!];
  const schedule: { date: string; quantity: number }[] = [];
  let uncovered = book.lineQuantity[line]!;
  for (let entry = from; entry < end; entry++) {
    schedule.push({ date: isoDay(entries.day[entry]!), quantity: entries.quantity[entry]! / book.scale });
    uncovered -= entries.quantity[entry]!;
  }
  for (let entry = from + stayed; entry < end; entry++) if (!entries.isAssembled(entry)) giveBackEntry(run, line, entry);
  giveBackTakings(run, mark);
  for (const again of takeAgain) again();
  [run.freshFrom[line], run.freshCount[line]] = [freshFrom, freshCount];
  return { schedule: schedule.sort((a, b) => (a.date < b.date ? -1 : 1)), uncovered: uncovered / book.scale };
}

/**
 * Gives back what leaves later than asked and promises it, and what waits, anew on what all others have left. `stayed`: how
 * many of its first entries it had before; `takeAgain` takes what it gave back.
 */
function improve(run: PromiseRun, line: number): { readonly stayed: number; readonly takeAgain: readonly (() => void)[] } {
  const { book, entries } = run;
  const target = book.lineTarget[line]!;
  const complete = book.orderComplete[book.lineOrder[line]!] === 1;
  const stays: { day: DayNumber; quantity: number; fromBound: number; entry: number }[] = [];
  const takeAgain: (() => void)[] = [];
  let missing = book.lineQuantity[line]!;
  const [first, end] = [run.freshFrom[line]!, run.freshFrom[line]! + run.freshCount[line]!];
  for (let entry = first; entry < end; entry++) if (entries.isAssembled(entry)) return { stayed: end - first, takeAgain };
  for (let entry = first; entry < end; entry++) {
    if (complete || entries.day[entry]! <= target) {
      stays.push({ day: entries.day[entry]!, quantity: entries.quantity[entry]!, fromBound: entries.withBound ? entries.fromBound[entry]! : 0, entry });
      missing -= entries.quantity[entry]!;
    } else takeAgain.push(giveBackEntry(run, line, entry));
  }
  if (missing === 0) return { stayed: stays.length, takeAgain };
  // The entries of a line stand together: those that stay are written once more.
  run.freshFrom[line] = entries.count;
  for (const { day, quantity, fromBound, entry: before } of stays) {
    const entry = entries.add(day, quantity);
    if (entries.withBound) entries.fromBound[entry] = fromBound;
    const takes = run.boundTakes.get(before);
    if (takes) run.boundTakes.set(entry, takes);
  }
  promiseQuantity(run, line, missing, target, mayPart(run, line));
  run.freshCount[line] = entries.count - run.freshFrom[line]!;
  return { stayed: stays.length, takeAgain };
}

function mayPart({ book }: PromiseRun, line: number): boolean {
  return book.linePartial[line] === 1 && book.orderComplete[book.lineOrder[line]!] === 0;
}

function onePartADay(schedule: PlannedLine['schedule']): PlannedLine['schedule'] {
  const parts: { date: string; quantity: number }[] = [];
  for (const { date, quantity } of schedule) {
    const last = parts[parts.length - 1];
    if (last && last.date === date) last.quantity = Math.round((last.quantity + quantity) * 10_000) / 10_000;
    else parts.push({ date, quantity });
  }
  return parts;
}
