// All figures of a run as a table; with --write also into docs/performance.md, with a picture of how time and memory grow.
// Reads the JSON that the benches printed, one file each: node --import tsx bench/report.ts [--write] PROMISE.json HTTP.json
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { growthPicture } from './growth-picture';
import { figureTable, format, markdownTable, type Figure } from './measure';
import type { SizeFigures } from './one-size';

const BEGIN = '<!-- written by npm run bench -- --write -->';
const END = '<!-- end -->';
const docs = (name: string) => fileURLToPath(new URL(`../docs/${name}`, import.meta.url));

const words = process.argv.slice(2).filter((word) => word !== '--write');
const [promise, ...others] = words.map((file) => JSON.parse(readFileSync(file, 'utf8')) as unknown) as [
  { figures: Figure[]; sizes: SizeFigures[] },
  ...Figure[][],
];
const { sizes } = promise;
const figures = figureTable([...promise.figures, ...others.flat()]);
const [first] = sizes;
const growth = markdownTable(
  ['Demands', 'Mode keep ÷ sort', 'Mode resequence ÷ sort', 'Time a demand, against the smallest book', 'Memory a demand, against the smallest book'],
  sizes.map((row) => [
    row.demands.toLocaleString('en'),
    format(row.keep / row.sort),
    format(row.resequence / row.sort),
    format(row.keep / row.demands / (first!.keep / first!.demands)),
    format(row.peakMegabytes / row.demands / (first!.peakMegabytes / first!.demands)),
  ]),
);
console.log(`${figures}\n\n${growth}`);

if (process.argv.includes('--write')) {
  const page = readFileSync(docs('performance.md'), 'utf8');
  const [before, rest] = page.split(BEGIN);
  const after = rest?.split(END)[1];
  if (before === undefined || after === undefined) throw new Error('docs/performance.md has lost its marks');
  const text = `${BEGIN}\n\n${figures}\n\n### How it grows\n\n${growth}\n\n![Time and memory against the number of demands](performance.svg)\n\n${END}`;
  writeFileSync(docs('performance.md'), before + text + after);
  writeFileSync(docs('performance.svg'), growthPicture(sizes));
}
