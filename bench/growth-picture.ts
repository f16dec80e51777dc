import { scaleLog } from 'd3-scale';
import { line } from 'd3-shape';
import type { SizeFigures } from './one-size';

const WIDTH = 640;
const HEIGHT = 340;
const MARGIN = { left: 64, right: 150, top: 24, bottom: 44 };
const INK = '#1F2A2E';
const PETROL = '#12525E';
const MOSS = '#48683A';
const OCHRE = '#9A6A12';

/** Time and memory of a book against the smallest one's, both axes logarithmic: what grows as the book lies on the dashed line. */
export function growthPicture(sizes: readonly SizeFigures[]): string {
  const [first] = sizes;
  const last = sizes[sizes.length - 1]!;
  const most = (3 * last.demands) / first!.demands;
  const x = scaleLog([first!.demands, last.demands], [MARGIN.left, WIDTH - MARGIN.right]);
  const y = scaleLog([1, most], [HEIGHT - MARGIN.bottom, MARGIN.top]);
  const series = [
    { name: 'time, mode keep', colour: PETROL, value: (row: SizeFigures) => row.keep / first!.keep },
    { name: 'time of the sort', colour: OCHRE, value: (row: SizeFigures) => row.sort / first!.sort },
    { name: 'memory', colour: MOSS, value: (row: SizeFigures) => row.peakMegabytes / first!.peakMegabytes },
  ];
  const text = (at: { x: number; y: number }, words: string, more = '') => `<text x="${at.x.toFixed(1)}" y="${at.y.toFixed(1)}" ${more}>${words}</text>`;
  const parts = [
    ...y
      .ticks(3)
      .filter((value) => Number.isInteger(Math.log10(value)))
      .flatMap((value) => [
        `<path d="M${MARGIN.left} ${y(value).toFixed(1)}H${WIDTH - MARGIN.right}" stroke="#d8d5ca"/>`,
        text({ x: MARGIN.left - 8, y: y(value) + 4 }, `× ${value.toLocaleString('en')}`, 'text-anchor="end"'),
      ]),
    ...sizes.map((row) => text({ x: x(row.demands), y: HEIGHT - MARGIN.bottom + 18 }, row.demands.toLocaleString('en'), 'text-anchor="middle"')),
    text({ x: (MARGIN.left + WIDTH - MARGIN.right) / 2, y: HEIGHT - 8 }, 'demands', 'text-anchor="middle"'),
    `<path d="M${x(first!.demands)} ${y(1)}L${x(last.demands)} ${y(last.demands / first!.demands).toFixed(1)}" stroke="${INK}" stroke-dasharray="3 4" fill="none" opacity="0.6"/>`,
    ...series.flatMap(({ colour, value }) => [
      `<path d="${line<SizeFigures>(
        (row) => x(row.demands),
        (row) => y(value(row)),
      )(sizes)}" stroke="${colour}" stroke-width="2" fill="none"/>`,
      ...sizes.map((row) => `<circle cx="${x(row.demands).toFixed(1)}" cy="${y(value(row)).toFixed(1)}" r="3" fill="${colour}"/>`),
    ]),
    ...labels(
      series
        .map(({ name, colour, value }) => ({ name, colour, y: y(value(last)) }))
        .concat([{ name: 'as the book grows', colour: INK, y: y(last.demands / first!.demands) }]),
    ).map((label) => text({ x: WIDTH - MARGIN.right + 10, y: label.y + 4 }, label.name, `fill="${label.colour}"`)),
  ];
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}" font-family="sans-serif" font-size="12" fill="${INK}">
<rect width="${WIDTH}" height="${HEIGHT}" fill="#F4F3EE"/>
${parts.join('\n')}
</svg>
`;
}

const LEAST_APART = 16;

/** Names beside the ends of their lines, moved apart where they would stand on each other. */
function labels<L extends { readonly y: number }>(all: readonly L[]): L[] {
  const sorted = [...all].sort((a, b) => a.y - b.y);
  return sorted.reduce<L[]>((placed, label) => {
    const above = placed[placed.length - 1];
    return [...placed, { ...label, y: above ? Math.max(label.y, above.y + LEAST_APART) : label.y }];
  }, []);
}
