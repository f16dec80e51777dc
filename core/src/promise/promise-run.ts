import type { BookColumns } from './book-columns';
import { Entries, Pegs, Takings } from './entries';
import { groupPools } from './linked-pools';
import { Commitments, pegGroup } from './peg';
import { keepLine, promiseLine, shipTogether } from './promise-line';
import { countingSort, linesInSequence, orderTurns } from './sequence';
import { listSupplies, type SupplyLists } from './supply-lists';
import { Timelines } from './timelines';

/** `keep`: what was promised stands and only the rest is promised. `resequence`: all is promised anew. */
export type PromiseMode = 'keep' | 'resequence';

/** A book being promised, and when done its answer, in columns. */
export class PromiseRun {
  readonly supplies: SupplyLists;
  readonly timelines: Timelines;
  readonly entries: Entries;
  readonly takings = new Takings();
  readonly commitments = new Commitments();
  readonly pegs: Pegs;
  /** The entries newly promised to each line: from and count. */
  readonly freshFrom: Int32Array;
  readonly freshCount: Int32Array;
  /** The runs of `pegs` that serve each entry from its pool, each entry from what is bound to its line, and each taking. */
  readonly pool: PegRuns;
  readonly bound: PegRuns;
  readonly taken: PegRuns;
  /** Days on which an assembled pool's answer can change; made when first asked for. */
  readonly turningDays = new Map<number, Int32Array>();

  constructor(
    readonly book: BookColumns,
    readonly mode: PromiseMode,
  ) {
    const lines = book.lineOrder.length;
    const kept = mode === 'keep' ? book.promisedDay.length : 0;
    this.supplies = listSupplies(book);
    this.timelines = new Timelines(book.poolSite.length);
    this.entries = new Entries(kept, lines);
    if (mode === 'keep') {
      this.entries.day.set(book.promisedDay);
      this.entries.quantity.set(book.promisedQuantity);
      this.entries.assembled.set(book.promisedAssembled);
    }
    this.pegs = new Pegs(kept + lines);
    this.freshFrom = new Int32Array(lines);
    this.freshCount = new Int32Array(lines);
    this.pool = new PegRuns();
    this.bound = new PegRuns();
    this.taken = new PegRuns();
  }

  /** The kept entries of a line are `keptFrom(line)` to `keptTo(line) - 1`. */
  keptFrom(line: number): number {
    return this.mode === 'keep' ? this.book.promisedFrom[line]! : 0;
  }

  keptTo(line: number): number {
    return this.mode === 'keep' ? this.book.promisedFrom[line + 1]! : 0;
  }
}

/** For each entry or taking the run of pegs that serves it. */
export class PegRuns {
  from = new Int32Array(16);
  count = new Int32Array(16);

  set(row: number, from: number, count: number): void {
    if (row >= this.from.length) {
      const size = 2 * row + 16;
      const [wider, counts] = [new Int32Array(size), new Int32Array(size)];
      wider.set(this.from);
      counts.set(this.count);
      this.from = wider;
      this.count = counts;
    }
    this.from[row] = from;
    this.count[row] = count;
  }

  countOf(row: number): number {
    return row < this.count.length ? this.count[row]! : 0;
  }
}

/**
 * Promises a book. Linked pools form a group and are promised together in the sequence of orders; what one group does
 * no other can see, so going group by group gives what going order by order would.
 */
export function promiseColumns(book: BookColumns, mode: PromiseMode): PromiseRun {
  const run = new PromiseRun(book, mode);
  const groups = groupPools(book);
  const lineStarts = new Int32Array(groups.count + 1);
  const poolStarts = new Int32Array(groups.count + 1);
  const sequence = linesInSequence(book, orderTurns(book));
  const lines = countingSort(sequence.length, groups.count, (line) => groups.groupOf[book.linePool[line]!]!, sequence, lineStarts);
  const pools = countingSort(book.poolSite.length, groups.count, (pool) => groups.groupOf[pool]!, undefined, poolStarts);
  for (let group = 0; group < groups.count; group++) {
    const [from, to] = [lineStarts[group]!, lineStarts[group + 1]!];
    if (from < to) promiseGroup(run, lines, from, to, pools, poolStarts[group]!, poolStarts[group + 1]!);
  }
  return run;
}

function promiseGroup(run: PromiseRun, lines: Int32Array, from: number, to: number, pools: Int32Array, firstPool: number, endPool: number) {
  const { book, timelines, supplies } = run;
  let assembled = false;
  timelines.clear();
  for (let at = firstPool; at < endPool; at++) {
    const pool = pools[at]!;
    timelines.open(pool, supplies.sorted, supplies.from[pool]!, supplies.from[pool + 1]!, book.supplyAvailable, supplies.free);
    assembled ||= book.poolAssemblyDays[pool]! >= 0;
  }
  // Only a batch looks at what is left before all that is kept has been committed.
  if (assembled) for (let at = firstPool; at < endPool; at++) timelines.build(pools[at]!);
  if (run.mode === 'keep') for (let at = from; at < to; at++) keepLine(run, lines[at]!, assembled);
  if (!assembled) for (let at = firstPool; at < endPool; at++) timelines.build(pools[at]!);

  for (let at = from; at < to;) {
    const order = book.lineOrder[lines[at]!]!;
    if (!book.orderComplete[order]) {
      promiseLine(run, lines[at++]!, false);
      continue;
    }
    const first = at;
    let whole = true;
    for (; at < to && book.lineOrder[lines[at]!] === order; at++) whole = promiseLine(run, lines[at]!, true) && whole;
    if (whole) shipTogether(run, lines, first, at);
  }
  pegGroup(run, lines, from, to, endPool - firstPool > 1);
}
