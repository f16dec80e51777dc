import { arrangeBook } from './arrange';
import type { BookColumns } from './book-columns';
import { pegGroup } from './peg';
import { keepLine, promiseLine, shipTogether, takeKnown } from './promise-line';
import { PromiseRun, type PromiseMode } from './promise-run';
import { Shelf } from './shelf';

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

/** What another answer says of a group: its lines before `line` are the same, and so is all that is kept. */
export interface KnownAnswer {
  readonly answer: PromiseRun;
  readonly line: number;
  /** `keptLoad` of the group in that answer; asked only where the group has neither bound supply nor assemblies. */
  readonly keptLoad: () => Float64Array;
}

/** Promises one group of a book, without saying yet from what; what is known of it is not worked out again. */
export function promiseGroup(run: PromiseRun, group: number, known?: KnownAnswer): void {
  const { book, timelines } = run;
  const { lineFrom, pools, poolFrom } = run.arranged;
  const [from, to] = [lineFrom[group]!, lineFrom[group + 1]!];
  if (from === to) return;
  const [firstPool, endPool] = [poolFrom[group]!, poolFrom[group + 1]!];
  const assembled = openGroup(run, group);
  // Only a batch looks at what is left before all that is kept has been committed.
  if (assembled) for (let at = firstPool; at < endPool; at++) timelines.build(pools[at]!);
  let first = from;
  if (known && !assembled && !run.entries.withBound && !hasShelves(run, group)) {
    timelines.loadAll(known.keptLoad());
    while (first < known.line) takeKnown(run, first++, known.answer);
  } else if (run.mode === 'keep') {
    run.keeping = true;
    for (let line = from; line < to; line++) keepLine(run, line, assembled);
    run.keeping = false;
  }
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

/** What is committed of a group's pools by what is kept, for a run of the same book to load at once. Own-supply groups only. */
export function keptLoad({ arranged, mode }: PromiseRun, group: number): Float64Array {
  const run = new PromiseRun(arranged, mode);
  openGroup(run, group);
  if (mode === 'keep') for (let line = arranged.lineFrom[group]!; line < arranged.lineFrom[group + 1]!; line++) keepLine(run, line, false);
  return run.timelines.loads();
}

/** Opens the timelines of a group's pools; they still collect. True where an item of it is assembled. */
export function openGroup({ arranged, book, supplies, timelines, shelves }: PromiseRun, group: number): boolean {
  const { pools, poolFrom } = arranged;
  let assembled = false;
  timelines.clear();
  for (let at = poolFrom[group]!; at < poolFrom[group + 1]!; at++) {
    const pool = pools[at]!;
    timelines.open(pool, supplies.sorted, supplies.from[pool]!, supplies.from[pool + 1]!, book.supplyAvailable, supplies.free);
    assembled ||= book.poolAssemblyDays[pool]! >= 0;
  }
  openShelves({ arranged, book, supplies, shelves }, group);
  return assembled;
}

/** Whether goods of the group expire. */
export function hasShelves({ arranged, book }: PromiseRun, group: number): boolean {
  const { pools, poolFrom } = arranged;
  for (let at = poolFrom[group]!; at < poolFrom[group + 1]!; at++) if (book.poolExpires?.[pools[at]!]) return true;
  return false;
}

/** Opens the shelves of a group's pools whose goods expire, in place of their timelines. */
function openShelves({ arranged, book, supplies, shelves }: Pick<PromiseRun, 'arranged' | 'book' | 'supplies' | 'shelves'>, group: number) {
  if (!shelves) return;
  const { pools, poolFrom } = arranged;
  shelves.clear();
  for (let at = poolFrom[group]!; at < poolFrom[group + 1]!; at++) {
    const pool = pools[at]!;
    if (!book.poolExpires![pool]) continue;
    const rows = [...supplies.sorted.subarray(supplies.from[pool]!, supplies.from[pool + 1]!)].map((supply) => ({
      available: book.supplyAvailable[supply]!,
      expires: book.supplyExpires![supply]!,
      quantity: supplies.free[supply]!,
    }));
    const shelf = new Shelf(rows);
    for (const { available, expires, quantity } of rows) if (quantity > 0) shelf.join(available, expires, quantity);
    shelves.set(pool, shelf);
  }
}
