import type pg from 'pg';
import { WORDS } from './fill-catalogue';
import { percentile, times, type Figure } from './measure';

const ROUNDS = 400;
const WARM = 40;
const LIMIT_MS = 50;

/** What somebody types who looks for an item or a customer: each search as it grows, right or misspelt. */
function* searches(kind: 'items' | 'customers'): Generator<string> {
  const { things, kinds, colours, places, endings, trades } = WORDS;
  for (let at = 0; ; at++) {
    const words =
      kind === 'items'
        ? `${kinds[at % kinds.length]!} ${things[(at * 7) % things.length]!} ${colours[(at * 3) % colours.length]!}`
        : `${places[at % places.length]!}${endings[(at * 3) % endings.length]!} ${trades[(at * 7) % trades.length]!}`.toLowerCase();
    // Every fifth is misspelt: two letters have changed places.
    const typed = at % 5 === 4 ? words.replace(/^(..)(.)(.)/, '$1$3$2') : words;
    for (const length of [2, 4, 7, 11]) yield typed.slice(0, length);
  }
}

/**
 * Finding as somebody types, over HTTP on loopback, against the 50 ms in which it must stand on the screen; and what an
 * index in the browser would have to fetch and build before the first key.
 */
export async function measureFinding(url: string, cookie: string, pool: pg.Pool): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const kind of ['items', 'customers'] as const) {
    const taken: number[] = [];
    const words = searches(kind);
    for (let round = 0; round < WARM + ROUNDS; round++) {
      const search = encodeURIComponent(words.next().value as string);
      const started = performance.now();
      const response = await fetch(`${url}/api/${kind}?search=${search}${kind === 'items' ? '&customer=3&warehouse=MAR' : ''}`, { headers: { cookie } });
      const found = (await response.json()) as readonly unknown[];
      if (!Array.isArray(found)) throw new Error(`a search answered ${response.status}`);
      if (round >= WARM) taken.push(performance.now() - started);
    }
    taken.sort((a, b) => a - b);
    const name = kind === 'items' ? 'finding one of 50,000 items while typing, over HTTP' : 'finding one of 20,000 customers while typing, over HTTP';
    figures.push({ name: `${name}, p95`, ratio: percentile(taken, 0.95) / LIMIT_MS, against: `${LIMIT_MS} ms`, target: 1 });
    if (kind === 'items') figures.push(await browserIndex(pool, percentile(taken, 0.5)));
  }
  return figures;
}

/** The other way: all items sent to the browser once and searched there. Reading, sending as text, parsing and lower-casing them. */
async function browserIndex(pool: pg.Pool, search: number): Promise<Figure> {
  const { rows } = await pool.query<Record<string, unknown>>('select code, description, item_group, unit from item');
  const [built] = times(
    () => (JSON.parse(JSON.stringify(rows)) as Record<string, string>[]).map((row) => `${row['code']} ${row['description']}`.toLowerCase()),
    5,
  );
  const megabytes = JSON.stringify(rows).length / 1e6;
  return {
    name: `an index of the items in the browser instead: building it from ${megabytes.toFixed(1)} MB`,
    ratio: built! / search,
    against: 'one search on the server, p50',
  };
}
