import type { DayNumber } from '../calendar';
import { boundBy, giveBackBound, takeBound, takeBoundThatSuits } from './bound';
import { availableOn, commitOn, shelfOf } from './goods';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';

// What a line takes from its own item: bound supply first, the rest from the pool.

/** What can be taken for a line on `day` from its bound supply and its pool together. */
export function ownBy(run: PromiseRun, line: number, day: DayNumber): Scaled {
  return boundBy(run, line, day) + availableOn(run, run.book.linePool[line]!, day, run.book.lineLife[line]!);
}

/** Adds an own entry: bound supply first, the rest committed on the pool. */
export function addOwn(run: PromiseRun, line: number, day: DayNumber, quantity: Scaled): void {
  const { book, entries } = run;
  const pool = book.linePool[line]!;
  const entry = entries.add(day, quantity);
  const shelf = shelfOf(run, pool);
  if (shelf) run.entryLife.set(entry, book.lineLife[line]!);
  if (entries.withBound && shelf) takeBoundThatSuits(run, line, entry, day, day, quantity);
  else if (entries.withBound) entries.fromBound[entry] = takeBound(run, line, day, quantity);
  commitOn(run, pool, day, book.lineLife[line]!, entries.fromPool(entry));
}

/**
 * Undoes an own entry: its goods are the pool's and, what was bound, the line's again. The entry itself is left. Gives what
 * takes the very same goods again.
 */
export function giveBackEntry(run: PromiseRun, line: number, entry: number): () => void {
  const { book, entries } = run;
  const pool = book.linePool[line]!;
  const [day, life, fromPool] = [entries.day[entry]!, book.lineLife[line]!, entries.fromPool(entry)];
  commitOn(run, pool, day, life, -fromPool);
  const takeBoundAgain = giveBackBound(run, line, entry);
  return () => {
    commitOn(run, pool, day, life, fromPool);
    takeBoundAgain();
  };
}
