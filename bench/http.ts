// Over HTTP: what a promise check costs on a desk of 100,000 open lines, against the one statement that reads its rows; finding
// items and customers while somebody types; and the list of 100,000 orders.
// Prints its figures as JSON. NOCK_URL: a server on a database of its own; NOCK_DATABASE, NOCK_OWNER_DATABASE: that database.
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { DEMO_PASSWORD } from '../demo/scenario/partners';
import { loadStanding } from '../demo/load-standing';
import { connect } from '../server/src/database';
import { bookStatement } from '../server/src/promise/book-rows';
import { fillCatalogue } from './fill-catalogue';
import { fillDesk } from './fill-desk';
import { measureFinding } from './find';
import { fillHistory, measureList } from './list';
import { percentile, type Figure } from './measure';
import { fillWays, measureRoutes } from './routes';
import { setting } from './setting';
import { measureRun } from './whole-book';

const LINES = 100_000;
const ROUNDS = 500;
const WARM = 60;
const ITEMS_A_CHECK = 5;

const url = setting('NOCK_URL');
const today = setting('NOCK_TODAY');

async function logIn(): Promise<string> {
  const response = await fetch(`${url}/api/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: url, 'idempotency-key': randomUUID() },
    body: JSON.stringify({ login: 'ida', password: DEMO_PASSWORD }),
  });
  const cookie = response.headers.get('set-cookie')?.split(';')[0];
  if (!cookie) throw new Error(`log-in failed: ${response.status}`);
  return cookie;
}

/** Only after the promise checks: a catalogue and a history of that size would be in their way. */
async function measureCatalogue(cookie: string, pool: pg.Pool): Promise<Figure[]> {
  const owner = new pg.Client({ connectionString: setting('NOCK_OWNER_DATABASE') });
  await owner.connect();
  await fillCatalogue(owner);
  const finding = await measureFinding(url, cookie, pool);
  await fillHistory(owner, today);
  await owner.end();
  return [...finding, ...(await measureList(url, cookie))];
}

async function main() {
  const { db, pool } = connect(setting('NOCK_DATABASE'), 1);
  await loadStanding(db, today);
  const owner = new pg.Client({ connectionString: setting('NOCK_OWNER_DATABASE') });
  await owner.connect();
  const { items } = await fillDesk(owner, LINES, today);

  const cookie = await logIn();
  const check: number[] = [];
  const query: number[] = [];
  for (let round = 0; round < WARM + ROUNDS; round++) {
    const codes = Array.from({ length: ITEMS_A_CHECK }, (_, at) => `B${1 + ((round * 7919 + at * 104_729) % items)}`);
    const asked = codes.map((code) => `${code}:5`).join(',');
    const beforeCheck = performance.now();
    const response = await fetch(`${url}/api/promise?warehouse=MAR&day=${today}&lines=${asked}`, { headers: { cookie } });
    const { lines } = (await response.json()) as { lines?: readonly unknown[] };
    const afterCheck = performance.now();
    if (lines?.length !== ITEMS_A_CHECK) throw new Error(`a check answered ${response.status}`);
    const statement = bookStatement({ items: codes }).compile(db);
    const beforeQuery = performance.now();
    const { rows } = await pool.query(statement.sql, [...statement.parameters]);
    const afterQuery = performance.now();
    if (rows.length !== 1) throw new Error('the statement gave no book');
    if (round < WARM) continue;
    check.push(afterCheck - beforeCheck);
    query.push(afterQuery - beforeQuery);
  }
  await fillWays(owner);
  await owner.end();
  const routing = await measureRoutes(url, cookie, pool);
  const run = await measureRun(url, cookie);
  const finding = await measureCatalogue(cookie, pool);
  await pool.end();
  check.sort((a, b) => a - b);
  query.sort((a, b) => a - b);
  const figures = [0.5, 0.99].map((share): Figure => {
    const name = `a promise check of 5 lines over HTTP, 100,000 open lines, p${share * 100}`;
    return { name, ratio: percentile(check, share) / percentile(query, share), against: `the one statement that reads its rows, p${share * 100}`, target: 3 };
  });
  console.log(JSON.stringify([...figures, ...routing, ...run, ...finding]));
}

await main();
