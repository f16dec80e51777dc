import { spawn, type ChildProcess } from 'node:child_process';
import { createServer, type AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { orderRoutes } from '@nockwright/contract/orders';
import { sql } from 'kysely';
import { PASSWORD } from './standing';
import { TestDesk } from './test-desk';

const MAIN = fileURLToPath(new URL('../src/main.ts', import.meta.url));

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterAll(() => desk.close());

async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

const waitsForLock = async () => (await sql`select from pg_locks where not granted`.execute(desk.db)).rows.length > 0;
const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** The server as a process of its own, once it answers. */
async function start(): Promise<{ url: string; child: ChildProcess; ended: Promise<number | string> }> {
  const port = await freePort();
  const env = { ...process.env, NODE_OPTIONS: '', NOCK_DATABASE: desk.url, NOCK_PORT: String(port), NOCK_TODAY: '2027-03-09', NOCK_LOG: 'warn' };
  const child = spawn('node', ['--import', 'tsx', MAIN], { env, stdio: ['ignore', 'ignore', 'inherit'] });
  const ended = new Promise<number | string>((resolve) => child.once('exit', (status, signal) => resolve(status ?? signal ?? '')));
  const url = `http://127.0.0.1:${port}`;
  while (
    !(await fetch(`${url}/api/ready`).then(
      (reply) => reply.ok,
      () => false,
    ))
  ) {
    if (child.exitCode !== null) throw new Error(`the server ended with ${child.exitCode}`);
    await pause(100);
  }
  return { url, child, ended };
}

test('told to stop, it takes nothing new, ends live events, finishes what is under way, and ends without a fault', async () => {
  const { url, child, ended } = await start();
  const login = await fetch(`${url}/api/login`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ login: 'ida', password: PASSWORD }),
  });
  const Cookie = login.headers.get('Set-Cookie')!.split(';')[0]!;
  const draft = await desk.draft([]);
  const live = await fetch(`${url}/api/live`, { headers: { Cookie } });
  const heard = live.text();

  let answer: Promise<Response> | undefined;
  await desk.db.transaction().execute(async (trx) => {
    await trx.selectFrom('sales_order').select('id').where('id', '=', draft.id).forUpdate().execute();
    const path = orderRoutes.addLine.path.replace('{order}', String(draft.id));
    answer = fetch(`${url}/api${path}`, {
      method: 'POST',
      headers: { Cookie, 'Content-Type': 'application/json', 'Idempotency-Key': crypto.randomUUID() },
      body: JSON.stringify({ item: 'JAR', quantity: '3' }),
    });
    while (!(await waitsForLock())) await pause(20);
    child.kill('SIGTERM');
    await heard;
    await expect(fetch(`${url}/api/health`)).rejects.toThrow('fetch failed');
    expect(child.exitCode).toBeNull();
  });
  // The lock is free: what was under way is done, and answered.
  const done = await answer!;
  expect([done.status, (await desk.read(draft)).lines.map((line) => line.quantity)]).toEqual([200, ['3']]);
  expect(await ended).toBe(0);
});

test('whoever keeps it alive starts it again, until it ends too often', async () => {
  const steps = (await import(new URL('../../scripts/lib/steps.mjs', import.meta.url).href)) as {
    keepAlive: (first: { ended: Promise<unknown> }, start: () => Promise<{ ended: Promise<unknown> }>, more: object) => Promise<void>;
  };
  let starts = 0;
  const said: string[] = [];
  const server = () => ({ ended: Promise.resolve('SIGKILL') });
  const next = () => {
    starts++;
    return Promise.resolve(server());
  };
  const more = { stopping: () => false, again: () => undefined, most: 3, say: (text: string) => said.push(text) };
  await expect(steps.keepAlive(server(), next, more)).rejects.toThrow('the server ended 3 times in a minute, the last time with SIGKILL');
  expect([starts, said[0]]).toEqual([3, 'The server has ended (SIGKILL) and is started again ...']);
  // Who wants it to stop has it stopped.
  await steps.keepAlive(server(), next, { ...more, stopping: () => true });
  expect(starts).toBe(3);
});
