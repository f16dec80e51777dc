import { promiseBook } from '@nockwright/core/promise';
import { rollDice } from '../demo/dice';
import { largeBook } from './large-book';

const SIZES = [10_000, 30_000, 100_000];
const RUNS = 3;

/** The least of several runs, in milliseconds: what is left when the machine was least disturbed. */
function time(run: () => unknown): number {
  let best = Infinity;
  for (let at = 0; at < RUNS; at++) {
    const start = performance.now();
    run();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

/** Sorting as many (pool, day) keys in a typed array with the built-in sort: what the promise is measured against. */
function sortKeys(count: number): number {
  const dice = rollDice(count);
  const keys = Float64Array.from({ length: count }, () => dice.whole(0, count / 20) * 100_000 + dice.whole(0, 60));
  return time(() => keys.slice().sort());
}

console.log('Promising a whole book, against sorting as many keys in the same run\n');
console.log('demands    mode          promise ÷ sort    time a demand, against the smallest book');
const base = new Map<string, number>();
for (const size of SIZES) {
  const book = largeBook(size);
  const sort = sortKeys(size);
  for (const mode of ['keep', 'resequence'] as const) {
    const promise = time(() => promiseBook(book, mode));
    const each = promise / size;
    base.set(mode, base.get(mode) ?? each);
    console.log(
      `${String(size).padStart(7)}    ${mode.padEnd(10)}    ${(promise / sort).toFixed(1).padStart(14)}    ${(each / base.get(mode)!).toFixed(2).padStart(8)}`,
    );
  }
}
