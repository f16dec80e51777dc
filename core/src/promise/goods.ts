import type { DayNumber } from '../calendar';
import type { PromiseRun } from './promise-run';
import type { Scaled } from './quantity';
import type { Shelf } from './shelf';

// What can be promised of a pool and what is committed on it, whether its goods keep (a timeline) or expire (a shelf).

/** The pool's shelf where its goods expire; undefined where they keep. */
export function shelfOf({ shelves }: PromiseRun, pool: number): Shelf | undefined {
  return shelves?.get(pool);
}

/** The greatest quantity that can be committed on a day, `life` days of life left on it, beside all that is committed. */
export function availableOn(run: PromiseRun, pool: number, day: DayNumber, life: number): Scaled {
  const shelf = shelfOf(run, pool);
  return shelf ? shelf.available(day, life) : run.timelines.available(pool, run.timelines.segmentOf(pool, day));
}

/** A new commitment on a pool; below 0 takes one back. */
export function commitOn(run: PromiseRun, pool: number, day: DayNumber, life: number, quantity: Scaled): void {
  const shelf = shelfOf(run, pool);
  if (shelf) shelf.commit(day, life, quantity);
  else run.timelines.change(pool, run.timelines.segmentOf(pool, day), -quantity);
}

/** Goods of a supply that are the pool's from now on. */
export function joinPool(run: PromiseRun, supply: number, quantity: Scaled): void {
  const { book, supplies, timelines } = run;
  const pool = book.supplyPool[supply]!;
  supplies.free[supply]! += quantity;
  const shelf = shelfOf(run, pool);
  if (shelf) shelf.join(book.supplyAvailable[supply]!, book.supplyExpires![supply]!, quantity);
  else timelines.change(pool, timelines.segmentOf(pool, book.supplyAvailable[supply]!), quantity);
}
