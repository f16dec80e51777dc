import type { DayNumber } from '../calendar';
import type { Entries } from './entries';
import { availableOn, commitOn, shelfOf } from './goods';
import type { PromiseRun } from './promise-run';
import { ceilToWhole, type Scaled } from './quantity';

/** Components need no life beyond the day they are taken. */
const NO_LIFE = 0;

interface Batch {
  readonly pool: number;
  readonly quantity: Scaled;
  /** The day components are taken. */
  readonly day: DayNumber;
  readonly lead: number;
  next: number;
}

/**
 * Takes what it needs to assemble `quantity` (a whole number of units) of a pool's item so that it leaves on `day`,
 * `lead` working days of assembly still to come after that. Components that lack own supply are assembled in turn, to
 * any depth, without recursion. What it takes is added to the run's takings in the order in which it was taken; false,
 * with nothing taken, where it cannot be done.
 */
export function assemble(run: PromiseRun, pool: number, quantity: Scaled, day: DayNumber, lead = 0): boolean {
  const { book, takings } = run;
  const mark = takings.count;
  const start = batch(run, pool, quantity, day, lead);
  const stack = start ? [start] : [];
  let possible = start !== null;
  while (possible && stack.length > 0) {
    const top = stack[stack.length - 1]!;
    const part = book.partFrom[top.pool]! + top.next++;
    if (part >= book.partFrom[top.pool + 1]!) {
      stack.pop();
      continue;
    }
    const needed = (top.quantity / book.scale) * book.partQuantity[part]!;
    const step = takeOrAssemble(run, book.partPool[part]!, needed, top.day, top.lead);
    if (step === 'impossible') possible = false;
    else if (step !== 'taken') stack.push(step);
  }
  if (!possible) giveBackTakings(run, mark);
  return possible;
}

/**
 * Takes the components of a batch that was promised earlier. What a component lacks and cannot be wholly assembled is
 * taken from the component's own pool all the same, more than there is: a kept promise stands, and pegging will say
 * what it lacks. `day`: the day components are taken.
 */
export function assembleKept(run: PromiseRun, pool: number, quantity: Scaled, day: DayNumber): void {
  const { book, takings } = run;
  const lead = book.poolAssemblyDays[pool]!;
  for (let part = book.partFrom[pool]!; part < book.partFrom[pool + 1]!; part++) {
    const needed = (quantity / book.scale) * book.partQuantity[part]!;
    const mark = takings.count;
    const step = takeOrAssemble(run, book.partPool[part]!, needed, day, lead);
    if (step === 'taken') continue;
    if (step !== 'impossible' && assemble(run, book.partPool[part]!, step.quantity, day, lead)) continue;
    giveBackTakings(run, mark);
    take(run, book.partPool[part]!, day, needed, lead);
  }
}

/** Moves the components of an assembled entry to the days that belong to its new day. */
export function moveTakings(run: PromiseRun, entries: Entries, entry: number, day: DayNumber): void {
  const { book, takings } = run;
  for (let at = entries.takingsFrom[entry]!, end = at + entries.takingsCount[entry]!; at < end; at++) {
    const pool = takings.pool[at]!;
    const to = book.sites[book.poolSite[pool]!]!.calendar.offset(day, -takings.lead[at]!);
    commitOn(run, pool, takings.day[at]!, NO_LIFE, -takings.quantity[at]!);
    commitOn(run, pool, to, NO_LIFE, takings.quantity[at]!);
    takings.day[at] = to;
  }
}

/**
 * How much of `needed` is assembled when own supply gives at most `own`: a whole number of units, the rest is own.
 * -1 where that cannot be.
 */
export function assembledPart(needed: Scaled, own: Scaled, scale: number): Scaled {
  const assembled = own >= needed ? 0 : ceilToWhole(needed - own, scale);
  return assembled > needed ? -1 : assembled;
}

function takeOrAssemble(run: PromiseRun, pool: number, needed: Scaled, day: DayNumber, lead: number): Batch | 'taken' | 'impossible' {
  const assembled = assembledPart(needed, availableOn(run, pool, day, NO_LIFE), run.book.scale);
  if (assembled < 0) return 'impossible';
  const deeper = assembled > 0 ? batch(run, pool, assembled, day, lead) : null;
  if (assembled > 0 && !deeper) return 'impossible';
  if (needed > assembled) take(run, pool, day, needed - assembled, lead);
  return deeper ?? 'taken';
}

function batch(run: PromiseRun, pool: number, quantity: Scaled, day: DayNumber, lead: number): Batch | null {
  const days = run.book.poolAssemblyDays[pool]!;
  if (days < 0) return null;
  const { calendar, firstShipDay } = run.book.sites[run.book.poolSite[pool]!]!;
  const start = calendar.offset(day, -days);
  return start < firstShipDay ? null : { pool, quantity, day: start, lead: lead + days, next: 0 };
}

function take(run: PromiseRun, pool: number, day: DayNumber, quantity: Scaled, lead: number) {
  const taking = run.takings.count;
  run.takings.add(pool, day, quantity, lead);
  const shelf = run.keeping ? shelfOf(run, pool) : undefined;
  if (shelf) shelf.keep(~taking, run.line, day, NO_LIFE, quantity);
  else commitOn(run, pool, day, NO_LIFE, quantity);
}

/** Undoes what was taken since there were `mark` takings. */
export function giveBackTakings(run: PromiseRun, mark: number) {
  const { takings } = run;
  while (takings.count > mark) {
    const last = --takings.count;
    const pool = takings.pool[last]!;
    const shelf = run.keeping ? shelfOf(run, pool) : undefined;
    if (shelf) shelf.dropKept();
    else commitOn(run, pool, takings.day[last]!, NO_LIFE, -takings.quantity[last]!);
  }
}
