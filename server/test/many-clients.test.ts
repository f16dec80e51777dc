import { orderRoutes } from '@nockwright/contract/orders';
import { promiseBook } from '@nockwright/core/promise';
import { createClock } from '../src/clock';
import { loadBook } from '../src/promise';
import { brokenInvariants } from './invariants';
import { seenOf, TestDesk, TODAY } from './test-desk';

const CLIENTS = 16;
const ROUNDS = 104;
const ITEMS = ['JAR', 'LID', 'BOX'] as const;
const STOCK = 40;

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  for (const item of ITEMS) await desk.stockUp(item, String(STOCK));
});
afterAll(() => desk.close());

/**
 * Sixteen clients commit and cancel the same few items, each sending some requests twice with the same key. Nothing may
 * be promised beyond supply, no order lost or doubled, and no deadlock may reach a user.
 */
test('sixteen clients and more than a hundred rounds leave the books in order', async () => {
  const released: string[] = [];
  const statuses = new Map<number, number>();
  const note = (status: number) => statuses.set(status, (statuses.get(status) ?? 0) + 1);
  let round = 0;

  const client = async (me: number) => {
    const login = me % 2 === 0 ? ('ida' as const) : ('sam' as const);
    while (round++ < ROUNDS) {
      // Items in different orders, so that locks taken as they come would meet in a circle.
      const [first, second] = me % 3 === 0 ? [ITEMS[0], ITEMS[1]] : me % 3 === 1 ? [ITEMS[1], ITEMS[2]] : [ITEMS[2], ITEMS[0]];
      const draft = await desk.draft(
        [
          [first, String(3 + (me % 5))],
          [second, String(2 + (me % 4))],
        ],
        login,
      );
      const key = crypto.randomUUID();
      const send = () => desk.send(login, orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(draft), key });
      const answers = me % 4 === 0 ? await Promise.all([send(), send()]) : [await send()];
      for (const { status } of answers) note(status);
      const done = answers.find((answer) => answer.status === 200);
      if (!done) continue;
      // Sent twice it is done once: one refused may be followed by one done, two done are one and the same.
      expect(new Set(answers.filter((answer) => answer.status === 200).map((answer) => answer.reply.number)).size).toBe(1);
      released.push(done.reply.number!);
      const cancelled = await desk.send(login, orderRoutes.cancelOrder, {
        params: { order: draft.id },
        body: { version: done.reply.version, reason: 'other', purchases: 'keep' },
      });
      note(cancelled.status);
      expect(cancelled.status).toBe(200);
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, (_, me) => client(me)));

  // A refusal because someone else was first is an answer (409, 422); an error of ours is not.
  expect([...statuses.keys()].filter((status) => ![200, 409, 422].includes(status))).toEqual([]);
  expect(released.length).toBeGreaterThan(CLIENTS);
  expect(new Set(released).size).toBe(released.length);
  const numbers = await desk.db.selectFrom('sales_order').select('number').where('state', '=', 'released').execute();
  expect(numbers.map((row) => row.number).sort()).toEqual(released.sort());
  expect(await brokenInvariants(desk.db)).toEqual([]);
  for (const item of ITEMS) expect(await desk.stock(item)).toEqual({ on_hand: String(STOCK), allocated: '0', inbound: '0', committed: '0' });
});

test('of sixteen who want the last ten, just one gets them', async () => {
  await desk.stockUp('TUB', '10');
  const drafts = await Promise.all(Array.from({ length: CLIENTS }, () => desk.draft([['TUB', '10']])));
  const answers = await Promise.all(drafts.map((draft) => desk.send('ida', orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(draft) })));
  expect(answers.filter((answer) => answer.status === 200)).toHaveLength(1);
  expect(answers.filter((answer) => answer.status === 409)).toHaveLength(CLIENTS - 1);
  const { book } = await loadBook(desk.db, createClock(TODAY)());
  expect(promiseBook(book).atRisk).toEqual([]);
  expect(await desk.stock('TUB')).toMatchObject({ on_hand: '10', committed: '10' });
});
