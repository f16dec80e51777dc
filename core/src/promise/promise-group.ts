import { arrangeBook } from './arrange';
import type { BookColumns } from './book-columns';
import { pegGroup } from './peg';
import { keepLine, promiseLine, shipTogether, takeKnown } from './promise-line';
import { PromiseRun, type PromiseMode } from './promise-run';

/** Told now and then how many groups of pools are done, of how many. */
export type Progress = (done: number, total: number) => void;

const PROGRESS_EVERY = 64;

/**
 * Promises a book. Linked pools form a group and are promised together in the sequence of orders; what one group does
 * no other can see, so going group by group gives what going order by order would.
 */
export function promiseColumns(book: BookColumns, mode: PromiseMode, progress?: Progress): PromiseRun {
  const run = new PromiseRun(arrangeBook(book), mode);
  const { groups } = run.arranged;
  for (let group = 0; group < groups; group++) {
    promiseGroup(run, group);
    pegGroup(run, group);
    if (progress && group % PROGRESS_EVERY === 0) progress(group, groups);
  }
  return run;
}

/**
 * Promises one group of a book, without saying yet from what. `known`: an answer of the same book whose lines before `line` are the
 * same: what they were promised there they are promised here.
 */
export function promiseGroup(run: PromiseRun, group: number, known?: { readonly answer: PromiseRun; readonly line: number }): void {
  const { book, timelines } = run;
  const { lineFrom, pools, poolFrom } = run.arranged;
  const [from, to] = [lineFrom[group]!, lineFrom[group + 1]!];
  if (from === to) return;
  const [firstPool, endPool] = [poolFrom[group]!, poolFrom[group + 1]!];
  const assembled = openGroup(run, group);
  // Only a batch looks at what is left before all that is kept has been committed.
  if (assembled) for (let at = firstPool; at < endPool; at++) timelines.build(pools[at]!);
  if (run.mode === 'keep') for (let line = from; line < to; line++) keepLine(run, line, assembled);
  let first = from;
  if (known && !assembled && !run.entries.withBound) while (first < known.line) takeKnown(run, first++, known.answer);
  if (!assembled) for (let at = firstPool; at < endPool; at++) timelines.build(pools[at]!);

  for (let line = first; line < to;) {
    const order = book.lineOrder[line]!;
    if (!book.orderComplete[order]) {
      promiseLine(run, line++, false);
      continue;
    }
    const start = line;
    let whole = true;
    for (; line < to && book.lineOrder[line] === order; line++) whole = promiseLine(run, line, true) && whole;
    if (whole) shipTogether(run, start, line);
  }
}

/** Opens the timelines of a group's pools; they still collect. True where an item of it is assembled. */
export function openGroup({ arranged, book, supplies, timelines }: PromiseRun, group: number): boolean {
  const { pools, poolFrom } = arranged;
  let assembled = false;
  timelines.clear();
  for (let at = poolFrom[group]!; at < poolFrom[group + 1]!; at++) {
    const pool = pools[at]!;
    timelines.open(pool, supplies.sorted, supplies.from[pool]!, supplies.from[pool + 1]!, book.supplyAvailable, supplies.free);
    assembled ||= book.poolAssemblyDays[pool]! >= 0;
  }
  return assembled;
}
