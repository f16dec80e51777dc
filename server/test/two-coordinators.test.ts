import { exchangeRoutes } from '@nockwright/contract/exchange';
import { orderRoutes } from '@nockwright/contract/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { supplyRoutes } from '@nockwright/contract/supply';
import { promiseBook, readOrderBook } from '@nockwright/core/promise';
import { brokenInvariants } from './invariants';
import { seenOf, TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
});
afterAll(() => desk.close());

const ROUNDS = 6;
const ANSWERS = [200, 409];

async function finishedRun() {
  for (;;) {
    const run = await desk.call('ida', promiseRoutes.readResequence);
    if (run && run.state !== 'running') return run;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** The book as it stands, written in the exchange format, read back as the promise command reads it, and computed. */
async function bookAsFile() {
  const text = JSON.stringify(await desk.call('ida', exchangeRoutes.orderBook));
  const read = readOrderBook(text);
  if (!read.ok) throw new Error(read.faults.map((fault) => `${fault.path}: ${fault.message}`).join('\n'));
  return promiseBook(read.book);
}

/**
 * Two coordinators resequence and release at once, each on what they saw before the other acted, while the warehouse
 * books a receipt. Whoever is first is done; the others are told. What is left is a consistent book.
 */
test('two who resequence and release at once, and a receipt in between, leave a consistent book', async () => {
  const statuses: Record<string, number[]> = {};
  const note = (who: string, status: number) => (statuses[who] ??= []).push(status);
  await desk.stockUp('JAR', '20');
  await desk.stockUp('LID', '60');
  for (let round = 0; round < ROUNDS; round++) {
    const purchase = await desk.purchase('JAR', '25', '2027-03-19');
    const standing = await desk.order([
      ['JAR', '9'],
      ['LID', '2'],
    ]);
    const waiting = await desk.draft([['JAR', String(8 + round)]]);
    const released = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: waiting.id }, body: seenOf(waiting) });
    note('ready', released.status);
    // The later order goes to the front: the book is no longer in its sequence, and there is something to resequence.
    if (released.status === 200) await desk.db.updateTable('sales_order').set({ priority: 1 }).where('id', '=', waiting.id).execute();
    const drafts = [
      await desk.draft(
        [
          ['JAR', '6'],
          ['LID', '1'],
        ],
        'ida',
      ),
      await desk.draft([['JAR', '5']], 'sam'),
    ];
    await desk.call('ida', promiseRoutes.startResequence, { body: {} });
    const run = await finishedRun();
    expect(run.state).toBe('done');
    const gainers = run.ripple.earlier.map((row) => row.line);
    const choice = await desk.call('sam', promiseRoutes.previewChoice, { params: { run: run.id }, query: { lines: gainers.join(',') } });
    const seen = [...choice.later, ...choice.earlier].map(({ line, after }) => ({ line, after }));
    const view = await desk.readPurchase(purchase.id);
    const came = String(round % 3 === 0 ? 27 : 10 + round);

    const answers = await Promise.all([
      desk.send('ida', promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: true, lines: [] } }),
      desk.send('sam', promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: false, lines: gainers, decision: { seen, accept: [] } } }),
      desk.send('ida', orderRoutes.releaseOrder, { params: { order: drafts[0]!.id }, body: seenOf(drafts[0]!) }),
      desk.send('sam', orderRoutes.releaseOrder, { params: { order: drafts[1]!.id }, body: seenOf(drafts[1]!) }),
      desk.send('wil', supplyRoutes.receive, {
        params: { purchase: purchase.id },
        body: { version: view.version, lines: [{ line: view.lines[0]!.id, quantity: came }] },
      }),
    ]);
    ['all', 'some', 'release', 'release', 'receipt'].forEach((who, at) => note(who, answers[at]!.status));
    for (const { status, problem } of answers) expect([status, ANSWERS.includes(status) ? '' : problem.detail]).toEqual([status, '']);
    // A run is accepted once at most.
    expect(answers.slice(0, 2).filter(({ status }) => status === 200).length).toBeLessThan(2);

    expect(await brokenInvariants(desk.db)).toEqual([]);
    expect((await bookAsFile()).atRisk).toEqual([]);
    expect((await desk.read(standing)).state).toBe('released');
  }
  // Each of them got through at least once: the test has seen every one of them act.
  const through = Object.entries(statuses).filter(([, list]) => list.includes(200));
  expect(through.map(([who]) => who).sort()).toEqual(expect.arrayContaining(['ready', 'receipt', 'release']));
  expect([...statuses['all']!, ...statuses['some']!]).toContain(200);
});
