import { randomUUID } from 'node:crypto';
import { orderRoutes } from '@nockwright/contract/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { writeOrderResponse } from '@nockwright/core/exchange';
import { sql } from 'kysely';
import { drawPaperTask, loadPaper } from '../src/documents';
import { orderBookTask } from '../src/exchange/order-book';
import { ordersCsvTask, readTextTask } from '../src/orders';
import { choiceOfRunTask } from '../src/promise/accept-run';
import { planRoutes } from '../src/shortages/plan-routes';
import { readMessageTask } from '../src/supply';
import { inThreads, type Task, type Work } from '../src/work';
import { TestDesk } from './test-desk';

let desk: TestDesk;
let work: Work;
beforeAll(async () => {
  desk = await TestDesk.open();
  work = inThreads();
});
afterAll(async () => {
  await work.close();
  await desk.close();
});

/** The answer of a thread is that of the task itself. */
async function same<In, Out>(task: Task<In, Out>, input: In): Promise<Out> {
  const there = await work.run(task, input, 1);
  expect(there).toEqual(await task.run(input));
  return there;
}

test('what is computed beside the thread that answers comes back as it is computed here', async () => {
  const { lines } = await same(readTextTask, { text: 'Good morning,\n20 trays of jars by friday\nThanks', today: '2027-03-09', numbers: [] });
  expect(lines).toHaveLength(1);
  const answer = writeOrderResponse(
    { number: 'A1', issueDay: '2027-03-09', order: 'P7001', note: '', lines: [] },
    { name: 'S' },
    { name: 'U' },
    () => 'EA',
    'EUR',
  );
  expect(await same(readMessageTask, answer)).toMatchObject({ ok: true, document: { number: 'A1' } });
  expect(await same(readMessageTask, 'no xml')).toMatchObject({ ok: false });
  const { rows } = await desk.call('ida', orderRoutes.listOrders);
  await same(ordersCsvTask, rows);
});

test('papers and the book are made there, too', async () => {
  await desk.stockUp('JAR', '20');
  const order = await desk.order([['JAR', '10']]);
  const paper = await loadPaper(desk.db, order.papers[0]!.id);
  const pdf = Buffer.from(await work.run(drawPaperTask, paper, 1));
  expect([pdf.subarray(0, 5).toString(), pdf.length > 5_000]).toEqual(['%PDF-', true]);
  const book = JSON.parse(await work.run(orderBookTask, { url: desk.url, now: desk.services.clock() }, 1)) as { demand: { item: string }[] };
  expect(book.demand.map((row) => row.item)).toEqual(['JAR']);
});

/** What the desk asks of threads while `act` is done. */
async function askedOfThreads(act: () => Promise<unknown>): Promise<string[]> {
  const asked: string[] = [];
  const { run } = desk.services.work;
  Object.assign(desk.services.work, {
    run: (task: Task<unknown, unknown>, input: unknown, user: number) => {
      asked.push(task.name);
      return work.run(task, input, user);
    },
  });
  await act();
  Object.assign(desk.services.work, { run });
  return asked;
}

test('ways of many lines are planned beside the thread that answers, those of a few here', async () => {
  const order = await desk.draft(Array(21).fill(['LID', '2']));
  const lines = order.lines.map((line) => line.id);
  const plan = (of: readonly number[]) => desk.call('ida', shortageRoutes.planRoutes, { query: { lines: of.join(',') } });
  expect(
    await askedOfThreads(async () => {
      expect((await plan(lines.slice(0, 20))).rows).toHaveLength(20);
      expect(await plan(lines)).toEqual(await planRoutes(desk.db, desk.services.clock(), lines, {}));
    }),
  ).toEqual(['planOfRoutes']);
});

test('boards are computed beside the thread that answers where much has changed, and here where little has', async () => {
  await desk.stockUp('LID', '5');
  await desk.release(await desk.route(await desk.draft([['LID', '9']]), 1, 'backorder', '4'));
  const boards = async () => ({
    shortages: await desk.shortages(),
    shipping: await desk.call('ida', shippingRoutes.readBoard, { query: { warehouse: 'MAR' } }),
    offers: await desk.call('ida', promiseRoutes.listOffers),
  });
  const here = await boards();
  expect([here.shortages.length, here.shipping.ready.length]).toEqual([1, 2]);
  await sql`insert into board_touched (item) values ('LID'), ('JAR')`.execute(desk.db);
  expect(await askedOfThreads(async () => expect(await boards()).toEqual(here))).toEqual([]);
  // A warehouse keeps other hours: everything may leave on other days.
  await sql`update warehouse set cutoff = cutoff`.execute(desk.db);
  expect(await askedOfThreads(async () => expect(await boards()).toEqual(here))).toEqual(['boards']);
});

test('what a choice of a run would do is computed there, too', async () => {
  await desk.stockUp('BOX', '3');
  const order = await desk.order([['BOX', '3']]);
  const line = order.lines[0]!.id;
  expect(await same(choiceOfRunTask, { url: desk.url, now: desk.services.clock(), input: [line] })).toMatchObject({ later: [] });
});

test('accepting a run reads the book and computes what moves there, while it holds all that may move', async () => {
  await desk.stockUp('BOX', '3');
  const [first, second] = [await desk.order([['BOX', '3']]), await desk.draft([['BOX', '3']])];
  await desk.release(await desk.route(second, 1, 'backorder', second.lines[0]!.uncovered));
  await desk.db.updateTable('sales_order').set({ priority: 1 }).where('id', '=', second.id).execute();
  await desk.call('ida', promiseRoutes.startResequence, { body: {} });
  let run = await desk.call('ida', promiseRoutes.readResequence);
  while (run?.state === 'running') run = await desk.call('ida', promiseRoutes.readResequence);
  const params = { run: run!.id };
  expect(await askedOfThreads(() => desk.call('ida', promiseRoutes.acceptResequence, { params, body: { all: true, lines: [] } }))).toEqual([
    'poolsOfRun',
    'movesOfRun',
  ]);
  const promised = async (order: number) => (await desk.read({ id: order })).lines[0]!.schedule.filter((part) => part.kept).map((part) => part.quantity);
  expect([await promised(first.id), await promised(second.id)]).toEqual([[], ['3']]);
});

test('however many look at a board at once, what has changed is computed for all of them together', async () => {
  await sql`insert into board_touched (item) values ('LID')`.execute(desk.db);
  desk.statements.length = 0;
  const looks = await Promise.all(Array.from({ length: 30 }, () => desk.send('ida', shortageRoutes.listShortages)));
  expect(new Set(looks.map((look) => look.status))).toEqual(new Set([200]));
  expect(desk.statements.filter((text) => text.includes('pg_advisory_xact_lock')).length).toBeLessThanOrEqual(3);
});

test('ways of many lines are decided there, too, while the act holds all it may touch; those of a few here', async () => {
  await desk.stockUp('TUB', '48');
  const order = await desk.order(Array.from({ length: 24 }, () => ['TUB', '2']));
  const choices = order.lines.map((line) => ({ line: line.id, parts: [{ kind: 'cut' as const, quantity: '1' }] }));
  const route = (of: typeof choices) => desk.call('ida', shortageRoutes.routeMany, { body: { run: randomUUID(), choices: of, accept: [] } });
  expect(
    await askedOfThreads(async () => {
      expect(await route(choices.slice(0, 3))).toMatchObject({ lines: 3, left: [] });
      expect(await route(choices.slice(3))).toMatchObject({ lines: 21, left: [] });
    }),
  ).toEqual(['reachOfRouting', 'decideRouting']);
  expect((await desk.read(order)).lines.map((line) => line.cancelled)).toEqual(choices.map(() => '1'));
});

test('whoever asks meanwhile is answered: turns of the loop go on while a long text is read', async () => {
  const text = 'a '.repeat(10_000);
  let turns = 0;
  const count = setInterval(() => turns++, 1);
  await work.run(readTextTask, { text, today: '2027-03-09', numbers: [] }, 1);
  clearInterval(count);
  const beside = turns;
  // Read here, nothing else has its turn before it is done.
  turns = 0;
  const here = setInterval(() => turns++, 1);
  void readTextTask.run({ text, today: '2027-03-09', numbers: [] });
  expect(turns).toBe(0);
  clearInterval(here);
  expect(beside).toBeGreaterThan(3);
});

test('a task that fails says so, and the next one is done', async () => {
  await expect(work.run(drawPaperTask, { kind: 'quote' } as never, 1)).rejects.toThrow();
  await expect(work.run({ name: 'unknown', run: () => 1 }, null, 1)).rejects.toThrow('there is no task unknown');
  expect(await work.run(readMessageTask, '', 1)).toMatchObject({ ok: false });
});
