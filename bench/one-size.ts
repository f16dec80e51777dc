// One size of book, in a process of its own: prints its figures as JSON. `node --expose-gc --import tsx bench/one-size.ts DEMANDS`
import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { compileBook, promiseBook, promiseColumns } from '@nockwright/core/promise';
import type { OrderBook } from '@nockwright/core/promise';
import { largeBook } from './large-book';
import { least } from './measure';

/** Milliseconds, and the memory of the promise command in megabytes. */
export interface SizeFigures {
  readonly demands: number;
  /** Sorting as many (pool, day) keys in a typed array with the built-in sort. */
  readonly sort: number;
  readonly keep: number;
  readonly resequence: number;
  /** Reading the objects into columns, and the answer as objects: what the columns save. */
  readonly compile: number;
  readonly objects: number;
  readonly peakMegabytes: number;
}

const RUNS = 9;

async function measure(demands: number): Promise<SizeFigures> {
  const peakMegabytes = await memoryOfCommand(demands);
  // The objects are gone before anything is timed: the collector would walk through them with every array that is made.
  const columns = compileBook(largeBook(demands));
  globalThis.gc?.();
  const keys = Float64Array.from(columns.linePool, (pool, line) => pool * 100_000 + columns.lineTarget[line]! - 700_000);
  const sort = least(() => keys.slice().sort(), RUNS);
  const keep = least(() => promiseColumns(columns, 'keep'), RUNS);
  const resequence = least(() => promiseColumns(columns, 'resequence'), RUNS);
  const book = largeBook(demands);
  return { demands, sort, keep, resequence, compile: least(() => compileBook(book), 2), objects: least(() => promiseBook(book, 'keep'), 2), peakMegabytes };
}

/** The most memory the promise command holds on the book as a file, its answer written away. */
async function memoryOfCommand(demands: number): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'nockwright-bench-'));
  try {
    const file = join(folder, 'book.json');
    await writeBook(largeBook(demands), file);
    const program = fileURLToPath(new URL('../core/bin/promise.ts', import.meta.url));
    const hook = new URL('./tell-peak.mjs', import.meta.url).href;
    const run = spawnSync(process.execPath, ['--import', 'tsx', '--import', hook, program, file], { stdio: ['ignore', 'ignore', 'pipe'], encoding: 'utf8' });
    const peak = /peak (\d+)/.exec(run.stderr)?.[1];
    if (run.status !== 0 || peak === undefined) throw new Error(`the promise command failed on ${demands} demands: ${run.stderr.slice(0, 500)}`);
    return Number(peak) / 1024;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Row by row: a string has room for no more than half a gigabyte. */
async function writeBook(book: OrderBook, file: string): Promise<void> {
  const stream = createWriteStream(file);
  const write = (text: string) => (stream.write(text) ? Promise.resolve() : new Promise<void>((resolve) => stream.once('drain', resolve)));
  await write('{');
  for (const [at, [name, value]] of Object.entries(book).entries()) {
    await write(`${at > 0 ? ',' : ''}${JSON.stringify(name)}:`);
    if (!Array.isArray(value)) await write(JSON.stringify(value));
    else {
      await write('[');
      for (const [row, item] of value.entries()) await write(`${row > 0 ? ',' : ''}${JSON.stringify(item)}`);
      await write(']');
    }
  }
  await write('}');
  await new Promise<void>((resolve) => stream.end(resolve));
}

console.log(JSON.stringify(await measure(Number(process.argv[2]))));
