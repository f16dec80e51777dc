// How long the event loop of a server is kept from its next turn, at worst, while somebody sends what is made to keep it busy; and
// while somebody does ordinary work. Prints its figures as JSON. NOCK_URL: a server with the demo, with the loop meter loaded;
// NOCK_PID: its process; NOCK_LOOP_FILE: where the meter writes.
import { randomUUID } from 'node:crypto';
import { DEMO_PASSWORD } from '../demo/scenario/partners';
import { delays, worstDelay } from './loop-delay';
import type { Figure } from './measure';
import { setting } from './setting';

const ROUNDS = 6;
const AT_ONCE = 4;

const url = setting('NOCK_URL');

async function send(cookie: string, method: string, path: string, body?: string): Promise<void> {
  try {
    const response = await fetch(`${url}/api${path}`, {
      method,
      headers: { cookie, 'content-type': 'application/json', 'idempotency-key': randomUUID() },
      ...(body === undefined ? {} : { body }),
    });
    await response.arrayBuffer();
  } catch {
    // What is far too long is cut off while it is still being sent.
  }
}

async function main() {
  const logIn = await fetch(`${url}/api/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'mona', password: DEMO_PASSWORD }),
  });
  const cookie = logIn.headers.get('set-cookie')!.split(';')[0]!;
  const made = await fetch(`${url}/api/orders`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json', 'idempotency-key': randomUUID() },
    body: JSON.stringify({ customer: 1 }),
  });
  const { id } = (await made.json()) as { id: number };
  const { rows } = (await (await fetch(`${url}/api/orders?state=open`, { headers: { cookie } })).json()) as { rows: { id: number }[] };
  const keys = (count: number) => JSON.stringify(Object.fromEntries(Array.from({ length: count }, (_, at) => [`unknown${at}`, at])));
  const file = Buffer.alloc(5 * 1024 * 1024 - 1, 'a').toString('base64');
  const hostile: readonly (readonly [method: string, path: string, body?: string])[] = [
    ['POST', '/login', keys(40_000)],
    ['POST', `/orders/${id}/lines/many`, `{"version":1,"lines":[${'{},'.repeat(330_000)}{}]}`],
    ['PUT', `/orders/${id}`, `${'{"a":'.repeat(40_000)}1${'}'.repeat(40_000)}`],
    ['POST', `/orders/${id}/lines`, keys(30_000)],
    ['POST', `/orders/${id}/read-text`, JSON.stringify({ text: 'a '.repeat(10_000) })],
    ['POST', `/orders/${id}/read-text`, JSON.stringify({ text: 'please send 12 trays of jars by friday or 1.200 lids\n'.repeat(360) })],
    ['POST', `/orders/${id}/files`, JSON.stringify({ name: 'a.txt', content: file })],
    ['GET', '/order-book'],
    [
      'GET',
      `/order-print?orders=${rows
        .slice(0, 40)
        .map((row) => row.id)
        .join(',')}`,
    ],
    ['GET', '/order-export?state=all'],
    ['GET', `/orders?search=${encodeURIComponent('a b c d e f g '.repeat(7))}`],
  ];
  const ordinary: readonly (readonly [method: string, path: string, body?: string])[] = [
    ['GET', '/orders?state=open'],
    ['GET', `/orders/${id}`],
    ['GET', '/items?search=jar'],
    ['GET', '/shipping'],
  ];
  const work = async (requests: typeof hostile) => {
    for (let round = 0; round < ROUNDS; round++)
      for (let at = 0; at < requests.length; at += AT_ONCE)
        await Promise.all(requests.slice(at, at + AT_ONCE).map(([method, path, body]) => send(cookie, method, path, body)));
  };
  await work(ordinary);
  await work(hostile);
  await delays();
  await work(ordinary);
  const usual = await delays();
  await work(hostile);
  const worst = await delays();
  if (process.env['NOCK_EACH'])
    for (const request of hostile) {
      await work([request]);
      console.error(request[1].slice(0, 50), await delays());
    }
  const figures: Figure[] = [worstDelay('under a hostile client', worst.worst), worstDelay('under ordinary work', usual.worst)];
  console.log(JSON.stringify(figures));
}

await main();
