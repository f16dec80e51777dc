import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '100');
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const change = (login: 'ida' | 'mona', order: OrderView, head: object) =>
  desk.send(login, orderRoutes.changeOrder, { params: { order: order.id }, body: { version: order.version, ...head } });
const pick = (order: OrderView, ...lines: [number, string][]) =>
  desk.send('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: lines.map(([no, quantity]) => ({ line: order.lines[no - 1]!.id, quantity })) },
  });

test('terms are the customer’s, shorter for the asking; longer ones are the manager’s to give', async () => {
  const draft = await desk.draft([['JAR', '10']]);
  expect(draft).toMatchObject({ termsDays: 30, description: '', mostShipments: null });
  const shorter = await change('ida', draft, { termsDays: 14, description: 'autumn feeding, hall B' });
  expect(shorter.reply).toMatchObject({ termsDays: 14, description: 'autumn feeding, hall B' });
  const longer = await change('ida', shorter.reply, { termsDays: 60 });
  expect([longer.status, longer.problem.errors?.[0]?.field]).toEqual([403, 'body.termsDays']);
  const given = (await change('mona', shorter.reply, { termsDays: 60 })).reply;
  const released = await desk.release(given);
  const paper = await desk.db.selectFrom('document').select('content').where('order_id', '=', released.id).executeTakeFirstOrThrow();
  expect(paper.content).toMatchObject({ order: { termsDays: 60, description: 'autumn feeding, hall B' } });
  // The terms that hold for an order do not change those of the customer.
  expect((await desk.draft([])).termsDays).toBe(30);
});

test('of at most two shipments the second takes all there is to come', async () => {
  const draft = (
    await change(
      'ida',
      await desk.draft([
        ['JAR', '10'],
        ['LID', '5'],
      ]),
      { mostShipments: 2 },
    )
  ).reply;
  const order = await desk.release(await desk.route(draft, 2, 'backorder', '5'));
  expect(order).toMatchObject({ mostShipments: 2, shipmentsPlanned: 1 });
  const first = await pick(order, [1, '4']);
  expect(first.status).toBe(200);
  const second = await pick(order, [1, '6']);
  expect([second.status, second.problem.detail]).toEqual([
    409,
    'It would be the last of the 2 shipments that the customer takes, and leave 5 LID (line 2) behind: wait for them, or agree on another shipment.',
  ]);
  await desk.stockUp('LID', '5');
  await desk.db.insertInto('line_promise').values({ line_id: order.lines[1]!.id, day: '2027-03-09', quantity: '5' }).execute();
  expect((await pick(order, [1, '6'], [2, '5'])).status).toBe(200);
});

test('a customer who takes it in one shipment gets it in one', async () => {
  const order = await desk.release((await change('ida', await desk.draft([['JAR', '10']]), { mostShipments: 1 })).reply);
  expect((await pick(order, [1, '4'])).problem.detail).toContain('leave 6 JAR (line 1) behind');
  expect((await pick(order, [1, '10'])).status).toBe(200);
  expect((await change('ida', await desk.draft([]), { mostShipments: 0 })).status).toBe(422);
});
