import type { DayNumber } from '../calendar';
import { joinPool } from './goods';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';

// What is bound to a line: what there is of it by a day, taking it, and freeing what is left.

export function hasBound({ supplies: { boundFrom } }: PromiseRun, line: number): boolean {
  return boundFrom !== null && boundFrom[line]! < boundFrom[line + 1]!;
}

/** What is bound to the line, not yet used, and can leave by `day`. */
export function boundBy(run: PromiseRun, line: number, day: DayNumber): Scaled {
  if (!hasBound(run, line)) return 0;
  const { boundSorted, boundFrom, boundLeft } = run.supplies;
  let sum = 0;
  for (let at = boundFrom![line]!; at < boundFrom![line + 1]!; at++) {
    const supply = boundSorted![at]!;
    if (run.book.supplyAvailable[supply]! <= day && lasts(run, line, supply, day)) sum += boundLeft[supply]!;
  }
  return sum;
}

/** Takes at most `wanted` of what is bound to the line and can leave by `day`, earliest first; gives how much. */
export function takeBound(run: PromiseRun, line: number, day: DayNumber, wanted: Scaled): Scaled {
  if (!hasBound(run, line)) return 0;
  const { boundSorted, boundFrom, boundLeft } = run.supplies;
  let missing = wanted;
  for (let at = boundFrom![line]!; at < boundFrom![line + 1]! && missing > 0; at++) {
    const supply = boundSorted![at]!;
    if (run.book.supplyAvailable[supply]! > day) break;
    const quantity = Math.min(boundLeft[supply]!, missing);
    boundLeft[supply]! -= quantity;
    missing -= quantity;
  }
  return wanted - missing;
}

/** Whether a bound supply lasts as long as its line asks when it is served on `day`, or when it comes where that is later. */
export function lasts({ book }: PromiseRun, line: number, supply: number, day: DayNumber): boolean {
  return book.supplyExpires === null || book.supplyExpires[supply]! >= Math.max(day, book.supplyAvailable[supply]!) + book.lineLife[line]!;
}

/**
 * Takes at most `wanted` for an entry that leaves on `day` of what is bound to its line, can leave by `by` and lasts long
 * enough, the earliest first; what was taken is noted with the entry.
 */
export function takeBoundThatSuits(run: PromiseRun, line: number, entry: number, day: DayNumber, by: DayNumber, wanted: Scaled): void {
  if (!hasBound(run, line)) return;
  const { boundSorted, boundFrom, boundLeft } = run.supplies;
  const takes: { supply: number; quantity: number }[] = [];
  let missing = wanted;
  for (let at = boundFrom![line]!; at < boundFrom![line + 1]! && missing > 0; at++) {
    const supply = boundSorted![at]!;
    if (run.book.supplyAvailable[supply]! > by) break;
    const quantity = lasts(run, line, supply, day) ? Math.min(boundLeft[supply]!, missing) : 0;
    if (quantity === 0) continue;
    boundLeft[supply]! -= quantity;
    missing -= quantity;
    takes.push({ supply, quantity });
  }
  run.entries.fromBound[entry] = wanted - missing;
  if (takes.length > 0) run.boundTakes.set(entry, takes);
}

/** Gives what an entry took of bound supply back to its line. Gives what takes the very same goods again. */
export function giveBackBound(run: PromiseRun, line: number, entry: number): () => void {
  const { entries, supplies, boundTakes } = run;
  const noted = boundTakes.get(entry);
  const given = noted ?? (entries.withBound ? latestTaken(run, line, entries.fromBound[entry]!) : []);
  for (const { supply, quantity } of given) supplies.boundLeft[supply]! += quantity;
  boundTakes.delete(entry);
  return () => {
    for (const { supply, quantity } of given) supplies.boundLeft[supply]! -= quantity;
    if (noted) boundTakes.set(entry, noted);
  };
}

/** Of what a line has taken of goods bound to it: `wanted` of it. They are taken earliest first, so given back latest first. */
function latestTaken({ supplies }: PromiseRun, line: number, wanted: Scaled) {
  const taken: { supply: number; quantity: number }[] = [];
  let back = wanted;
  for (let at = supplies.boundFrom![line + 1]! - 1; at >= supplies.boundFrom![line]! && back > 0; at--) {
    const supply = supplies.boundSorted![at]!;
    const quantity = Math.min(back, supplies.bound[supply]! - supplies.boundLeft[supply]!);
    taken.push({ supply, quantity });
    back -= quantity;
  }
  return taken;
}

/** What was bound to the line and it has not taken serves those that come after it. */
export function freeBound(run: PromiseRun, line: number): void {
  if (!hasBound(run, line)) return;
  const { supplies } = run;
  for (let at = supplies.boundFrom![line]!; at < supplies.boundFrom![line + 1]!; at++) {
    const supply = supplies.boundSorted![at]!;
    if (supplies.boundLeft[supply]! > 0) joinPool(run, supply, supplies.boundLeft[supply]!);
  }
}
