// The promise computation, against sorting in the same run. Prints its figures as JSON.
import { measureAllocation } from './allocate';
import { measureMatching } from './matching';
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { OpenBook, promiseBook, type BookDemand, type OrderBook } from '@nockwright/core/promise';
import { format, least, type Figure } from './measure';
import type { SizeFigures } from './one-size';
import { hotItemBook } from './large-book';

export const SIZES = [10_000, 30_000, 100_000, 300_000, 1_000_000] as const;
const HOT = 50_000;
const FRAME_MS = 16;

/** A figure of a size, in a process of its own: no size is measured on what another has left in memory. */
function sizeFigures(demands: number): SizeFigures {
  const program = fileURLToPath(new URL('./one-size.ts', import.meta.url));
  const run = spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', program, String(demands)], { encoding: 'utf8' });
  if (run.status !== 0) throw new Error(`the bench of ${demands} demands failed: ${run.stderr.slice(-800)}`);
  return JSON.parse(run.stdout) as SizeFigures;
}

/** Trying one more line on an item that has 50,000, others' changes included. */
function addedDemand(): Figure[] {
  const book: OrderBook = hotItemBook(HOT);
  const open = new OpenBook(book);
  const orders = book.orders.filter((_, at) => at % Math.ceil(book.orders.length / 9) === 0);
  const demand = (order: string): BookDemand => ({ id: 'TRY', order, item: 'HOT', warehouse: 'N', quantity: 7, requested: '2027-03-05' });
  const tried = orders.map(({ id }) => least(() => open.try(demand(id)), 7)).sort((a, b) => a - b);
  const whole = least(() => promiseBook(book), 3);
  const usual = tried[tried.length >> 1]!;
  const name = `one added demand on an item with ${HOT.toLocaleString('en')}, with the diff`;
  return [
    { name: `${name}, at its usual turn`, ratio: usual / FRAME_MS, against: `${FRAME_MS} ms, a frame of the screen`, target: 1 },
    { name: `${name}, at its worst turn`, ratio: tried[tried.length - 1]! / FRAME_MS, against: `${FRAME_MS} ms, a frame of the screen`, target: 1 },
    { name: `${name}, at its usual turn`, ratio: usual / whole, against: 'promising that whole book from its objects' },
  ];
}

const sizes = SIZES.map(sizeFigures);
const largest = sizes[sizes.length - 1]!;
const figures: Figure[] = [
  ...(['keep', 'resequence'] as const).map((mode) => ({
    name: `a whole book of ${largest.demands.toLocaleString('en')} demands, mode ${mode}`,
    ratio: largest[mode] / largest.sort,
    against: 'sorting as many (pool, day) keys in a typed array',
    target: 6,
  })),
  { name: 'reading the objects of that book into columns', ratio: largest.compile / largest.keep, against: 'promising it, mode keep' },
  { name: 'the same book from objects to objects', ratio: largest.objects / largest.keep, against: 'promising it in columns, mode keep' },
  {
    name: 'memory of the promise command on that book',
    ratio: largest.peakMegabytes / 1536,
    against: `1.5 GB (it held ${format(largest.peakMegabytes)} MB)`,
    target: 1,
  },
  ...addedDemand(),
  ...measureAllocation(),
  ...measureMatching(),
];
console.log(JSON.stringify({ figures, sizes }));
