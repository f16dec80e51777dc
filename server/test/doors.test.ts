import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { orderRoutes } from '@nockwright/contract/orders';
import { sql } from 'kysely';
import { hashNew } from '../src/access/passwords';
import { createLog, describeError } from '../src/log';
import { TestDesk } from './test-desk';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterAll(() => desk.close());

test('every answer of the API is kept by nobody, read as what it is, and for a year asked for over TLS alone', async () => {
  for (const path of ['/api/health', '/api/orders', '/api/nothing-there']) {
    const { headers } = await desk.request('ida', 'GET', path);
    expect([path, headers.get('Cache-Control')]).toEqual([path, 'no-store']);
    expect(headers.get('X-Content-Type-Options')).toBe('nosniff');
    expect(headers.get('Referrer-Policy')).toBe('no-referrer');
    expect(Number(/max-age=(\d+)/.exec(headers.get('Strict-Transport-Security')!)?.[1])).toBe(365 * 86_400);
  }
});

test('a password is kept by Argon2id, with the memory and time that are asked for', async () => {
  const kept = await hashNew('a long own password', { login: 'ida', name: 'Ida' }, 'body.password');
  const [, memory, time, lanes] = /^\$argon2id\$v=19\$m=(\d+),t=(\d+),p=(\d+)\$/.exec(kept)!.map(Number);
  // Source: OWASP Password Storage Cheat Sheet, from memory: 19 MiB, two passes, one lane at least.
  expect(memory).toBeGreaterThanOrEqual(19 * 1024);
  expect(time).toBeGreaterThanOrEqual(2);
  expect(lanes).toBeGreaterThanOrEqual(1);
});

describe('the log', () => {
  const lines: Record<string, unknown>[] = [];
  const log = createLog('info', { write: (line) => void lines.push(JSON.parse(line) as Record<string, unknown>) });

  test('of an error has its stack and what it broke, and no value of a row', async () => {
    const failed = await sql`insert into customer (number, name) values ('C1', 'Nora Wether')`.execute(desk.db).catch((error: unknown) => error);
    const odd = await sql`select ${'Nora Wether'}::int`.execute(desk.db).catch((error: unknown) => error);
    for (const error of [failed, odd]) log.error({ error: new Error('while it was stored', { cause: error }) }, 'unexpected error');
    expect(JSON.stringify(failed)).toContain('Nora'); // by `detail`, which is not logged
    expect(JSON.stringify(lines)).not.toContain('Nora');
    expect(lines[0]).toMatchObject({ error: { type: 'Error', stack: expect.stringContaining('doors.test'), cause: { code: '23502', table: 'customer' } } });
    expect(describeError('a text')).toEqual({ type: 'string', message: 'not an error' });
  });

  test('tells of who may not, with the number of the request and without their name; a link to a customer is in no line', async () => {
    const told = desk.services.log.info.bind(desk.services.log);
    const seen: unknown[] = [];
    Object.assign(desk.services.log, { info: (fields: object, words: string) => seen.push({ ...fields, words }) });
    const refused = await desk.request('wil', 'POST', '/api/orders', { customer: 1 });
    await desk.request(null, 'GET', '/api/orders');
    await desk.request(null, 'POST', '/answer/abcdefgh', undefined, undefined, { Origin: 'https://elsewhere.example', Host: '127.0.0.1' });
    Object.assign(desk.services.log, { info: told });
    expect(seen).toEqual([
      { words: 'refused', refused: 'not-allowed', method: 'POST', path: '/api/orders', request: expect.any(String) },
      { words: 'refused', refused: 'not-logged-in', method: 'GET', path: '/api/orders', request: expect.any(String) },
      { words: 'refused', refused: 'wrong-origin', method: 'POST', path: '/answer/…', request: expect.any(String) },
    ]);
    expect(((await refused.json()) as { instance: string }).instance).toBe(`/requests/${(seen[0] as { request: string }).request}`);
  });
});

test('a body that is no JSON, or says that it is something else, is refused before anything is done', async () => {
  const orders = () => desk.db.selectFrom('sales_order').select('id').execute();
  const before = await orders();
  const cookie = (await desk.logIn('ida')).headers.get('Set-Cookie')!.split(';')[0]!;
  for (const [type, body] of [
    ['text/plain', '{"customer":1}'],
    ['application/x-www-form-urlencoded', 'customer=1'],
    ['application/json', '{"customer":1'],
  ]) {
    const headers = { 'Content-Type': type!, Cookie: cookie, 'Idempotency-Key': crypto.randomUUID() };
    const { status } = await desk.app.request(`/api${orderRoutes.createOrder.path}`, { method: 'POST', headers, body: body! });
    expect([type, status]).toEqual([type, 400]);
  }
  expect(await orders()).toEqual(before);
});

/** Rows of docs/security.md: what is asked for, and the tests that show it, each as `file: words of its name`. */
const rows = readFileSync(join(ROOT, 'docs/security.md'), 'utf8')
  .split('\n')
  .filter((line) => /^\| \d/.test(line))
  .map((line) => line.split('|').map((cell) => cell.trim()))
  .map(([, requirement, , where, shown]) => ({
    requirement: requirement!,
    where: where!,
    shown: [...shown!.matchAll(/`([\w-]+\.(?:test|story)\.ts)`: ([^;]+)/g)].map(([, file, words]) => [file!, words!.trim()] as const),
    cell: shown!,
  }));

const tests = new Map<string, string>();
for (const folder of ['server/test', 'e2e', 'core/src/exchange', 'scripts/lib'])
  for (const file of readdirSync(join(ROOT, folder))) if (/\.(test|story)\.ts$/.test(file)) tests.set(file, readFileSync(join(ROOT, folder, file), 'utf8'));

test.each(rows.map((row) => [row.requirement, row] as const))('docs/security.md, %s: the tests it names are there', (_, { where, shown, cell }) => {
  // A row without a test says what is not met, or who sees to it.
  if (shown.length === 0) expect([where, cell].join(' ')).toMatch(/not met|not forced|by hand/);
  for (const [file, words] of shown) expect(tests.get(file) ?? `there is no ${file}`).toContain(words);
});
