import type { ArrangedBook } from './arrange';
import type { BookColumns } from './book-columns';
import { Commitments } from './commitments';
import { Entries, PegRuns, Pegs, Takings } from './entries';
import { listSupplies, type SupplyLists } from './supply-lists';
import type { Shelf } from './shelf';
import { Timelines } from './timelines';

/** `keep`: what was promised stands and only the rest is promised. `resequence`: all is promised anew. */
export type PromiseMode = 'keep' | 'resequence';

/** A book being promised, and when done its answer, in columns. Lines are those of the arranged book. */
export class PromiseRun {
  readonly book: BookColumns;
  readonly supplies: SupplyLists;
  readonly timelines: Timelines;
  /** The pools of the group at hand whose goods expire; null in a book without any. */
  readonly shelves: Map<number, Shelf> | null;
  /** Of each entry of a line whose goods expire: what it took of the supply bound to it. */
  readonly boundTakes = new Map<number, { supply: number; quantity: number }[]>();
  /** Of each new entry of such a line: the days of life that must be left. */
  readonly entryLife = new Map<number, number>();
  /** Orders that leave complete and whose lines can be covered only one by one. */
  readonly withoutDay = new Set<number>();
  /** Whether what is committed now was promised before. */
  keeping = false;
  /** The line at hand while promises are kept. */
  line = -1;
  readonly entries: Entries;
  readonly takings = new Takings();
  readonly commitments = new Commitments();
  readonly pegs: Pegs;
  /** The entries newly promised to each line: from and count. */
  readonly freshFrom: Int32Array;
  readonly freshCount: Int32Array;
  /** What serves each entry from its pool, each entry from what is bound to its line, and each taking. */
  readonly pool: PegRuns;
  readonly bound: PegRuns;
  readonly taken: PegRuns;
  private readonly keeps: boolean;
  /** Days on which an assembled pool's answer can change; made when first asked for. */
  readonly turningDays = new Map<number, Int32Array>();

  constructor(
    readonly arranged: ArrangedBook,
    readonly mode: PromiseMode,
  ) {
    const book = (this.book = arranged.book);
    const lines = book.lineOrder.length;
    this.keeps = mode === 'keep';
    const kept = this.keeps ? book.promisedDay.length : 0;
    this.supplies = listSupplies(book);
    this.timelines = new Timelines(book.poolSite.length);
    this.shelves = book.poolExpires && new Map();
    this.entries = new Entries(book, kept, lines);
    this.pegs = new Pegs(kept + lines);
    this.freshFrom = new Int32Array(lines);
    this.freshCount = new Int32Array(lines);
    this.pool = new PegRuns(kept + lines);
    this.bound = new PegRuns(0);
    this.taken = new PegRuns(0);
  }

  /** The kept entries of a line are `keptFrom(line)` to `keptTo(line) - 1`. */
  keptFrom(line: number): number {
    return this.keeps ? this.book.promisedFrom[line]! : 0;
  }

  keptTo(line: number): number {
    return this.keeps ? this.book.promisedFrom[line + 1]! : 0;
  }
}
