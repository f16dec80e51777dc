import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { supplyRoutes, type PurchaseView } from '@nockwright/contract/supply';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { decided } from './decided';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';
import { whyOf } from './said';

/** Eight boxes that the supplier ships to the customer on Tue 16 Mar, as was told. */
let desk: TestDesk;
let order: OrderView;
let purchase: PurchaseView;
beforeEach(async () => {
  desk = await TestDesk.open();
  order = await desk.release(await desk.take(await desk.draft([['BOX', '8']]), 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '8' }));
  const made = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  purchase = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: made.id }, body: { version: made.version } });
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const TOLD = '2027-03-16';
const SLIPPED = '2027-03-30';
const at = () => ({ purchase: purchase.id, line: purchase.lines[0]!.id });
const calls = async () => (await desk.call('ida', worklistRoutes.listCalls)).calls.map(({ number, told, holds, say }) => ({ number, told, holds, say }));
const board = () => desk.shortages();
const look = (query: { day?: string; open?: string }) => desk.call('ida', supplyRoutes.previewReschedule, { params: at(), query });
const slip = (more: object = {}) =>
  desk.call('ida', supplyRoutes.reschedule, { params: at(), body: { version: purchase.version, expectedDay: SLIPPED, note: 'kiln broke', ...more } });

test('a slip of a drop shipment is seen before it is done: whom it hurts, how far, and what to say', async () => {
  const { ripple } = await look({ day: SLIPPED });
  expect(ripple).toMatchObject({
    later: [
      {
        line: order.lines[0]!.id,
        number: order.number,
        moves: [{ quantity: '8', from: TOLD, to: SLIPPED }],
        days: 14,
        told: true,
        say: 'The 8 BOX we promised for Tuesday the 16th will leave on Tuesday the 30th of March instead.',
      },
    ],
    earlier: [],
    offers: [],
  });
  expect((await look({ day: '2027-03-15' })).ripple).toMatchObject({ later: [], earlier: [{ days: -1 }] });
  expect((await look({ open: '5' })).ripple.later).toMatchObject([{ quantity: '3', from: TOLD, to: null }]);
});

test('moved as it was seen, the customer has a later day and is to be called', async () => {
  const { ripple } = await look({ day: SLIPPED });
  await slip({ decision: decided(ripple) });
  expect(await calls()).toEqual([
    {
      number: order.number,
      told: [{ day: TOLD, quantity: '8' }],
      holds: [{ day: SLIPPED, quantity: '8' }],
      say: 'The 8 BOX we promised for Tuesday the 16th will leave on Tuesday the 30th of March instead.',
    },
  ]);
  const after = await desk.read(order);
  expect(after.lines[0]!.schedule).toMatchObject([{ day: SLIPPED, quantity: '8', dropShip: true, arrives: null }]);
  expect(after.version).toBeGreaterThan(order.version);
  expect(await board()).toEqual([]);
  const [event] = await desk.call('ida', orderRoutes.orderHistory, { params: { order: order.id } });
  expect(whyOf(event!)).toContain('kiln broke');
});

test('what was seen and is so no more is refused, and nothing is done', async () => {
  const { ripple } = await look({ day: '2027-03-29' });
  const { status, problem } = await desk.send('ida', supplyRoutes.reschedule, {
    params: at(),
    body: { version: purchase.version, expectedDay: SLIPPED, decision: decided(ripple) },
  });
  expect(status).toBe(409);
  expect(problem.detail).toContain('you saw 8 on Mon 29 Mar, it is now 8 on Tue 30 Mar');
  expect((await desk.readPurchase(purchase.id)).lines[0]!.expectedDay).toBe(TOLD);
  expect(await calls()).toEqual([]);
});

describe('recorded only, it stands as told and at risk', () => {
  beforeEach(async () => void (await slip()));

  test('on the sheet of the order, in the list, on the board, and on the purchase', async () => {
    const line = (await desk.read(order)).lines[0]!;
    expect(line.schedule).toMatchObject([{ day: TOLD, quantity: '8', dropShip: true, arrives: SLIPPED, broken: false }]);
    expect(line.state).toBe('late');
    expect(await desk.call('ida', orderRoutes.readRisks, { query: { orders: String(order.id) } })).toEqual([{ order: order.id, day: SLIPPED }]);
    expect(await board()).toMatchObject([{ line: order.lines[0]!.id, kind: 'late', dropShip: true, quantity: '8', promisedDay: TOLD, possibleDay: SLIPPED }]);
    expect((await desk.readPurchase(purchase.id)).lines[0]).toMatchObject({ expectedDay: SLIPPED, toldDay: TOLD });
    expect(await calls()).toEqual([]);
  });

  test('every way that saves it is shown, and that it may be waited for', async () => {
    await desk.stockUp('BOX', '8', 'QUI');
    const { short, routes, takesBack } = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id }, query: {} });
    expect(short).toBe('8');
    expect(takesBack).toEqual([`8 of ${purchase.number} taken back from Tarnbeck`]);
    const kinds = routes.filter((route) => route.parts.length === 1).map((route) => [route.parts[0]!.kind, route.shipDay]);
    expect(kinds).toContainEqual(['transfer', '2027-03-11']);
    expect(kinds).toContainEqual(['backorder', SLIPPED]);
    expect(kinds.map(([kind]) => kind)).toEqual(expect.arrayContaining(['special_order', 'drop_ship', 'cut']));
  });

  test('another way takes it back from the supplier, who is told; a day as good as told needs no call', async () => {
    await desk.stockUp('BOX', '8', 'QUI');
    const after = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '8' });
    expect(after.lines[0]).toMatchObject({ dropShip: '0', promised: '8', schedule: [{ day: '2027-03-11', quantity: '8', dropShip: false }] });
    expect(after.lines[0]!.routes.map((route) => route.kind)).toEqual(['transfer']);
    const closed = await desk.readPurchase(purchase.id);
    expect(closed).toMatchObject({ state: 'cancelled', lines: [{ open: '0', closed: '8' }] });
    expect(closed.mails[0]!.subject).toMatch(/cancel/i);
    expect(await calls()).toEqual([]);
    expect(await board()).toEqual([]);
  });

  test('a part goes another way, the rest is waited for: one act, one call with all its days', async () => {
    await desk.stockUp('BOX', '3', 'QUI');
    const after = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '3' }, { kind: 'backorder', quantity: '5' });
    expect(after.lines[0]!.schedule).toMatchObject([
      { day: '2027-03-11', quantity: '3', dropShip: false },
      { day: SLIPPED, quantity: '5', dropShip: true, arrives: null },
    ]);
    expect(await calls()).toMatchObject([
      {
        told: [{ day: TOLD, quantity: '8' }],
        holds: [
          { day: '2027-03-11', quantity: '3' },
          { day: SLIPPED, quantity: '5' },
        ],
      },
    ]);
    expect((await desk.readPurchase(purchase.id)).lines[0]).toMatchObject({ open: '5', closed: '3', toldDay: SLIPPED });
    expect(await board()).toEqual([]);
  });

  test('what the warehouse has by now is the way with the soonest day: the drop shipment is taken back for so much', async () => {
    await desk.stockUp('BOX', '3');
    await desk.purchase('BOX', '2', '2027-03-22');
    const at = { order: order.id, line: order.lines[0]!.id };
    const { routes } = await desk.call('ida', orderRoutes.readRoutes, { params: at, query: {} });
    const wait = routes.find((route) => route.parts.length === 1 && route.parts[0]!.kind === 'backorder')!;
    expect(wait.parts[0]!.leaves).toEqual([
      { day: '2027-03-11', quantity: '3' },
      { day: '2027-03-23', quantity: '2' },
      { day: SLIPPED, quantity: '3' },
    ]);
    const after = await desk.take(order, 1, { kind: 'backorder', quantity: '8' });
    expect(after.lines[0]!.schedule.map((entry) => [entry.day, entry.quantity, entry.dropShip, entry.arrives])).toEqual([
      ['2027-03-11', '3', false, null],
      ['2027-03-23', '2', false, null],
      [SLIPPED, '3', true, null],
    ]);
    expect((await desk.readPurchase(purchase.id)).lines[0]).toMatchObject({ open: '3', closed: '5', toldDay: SLIPPED });
    expect(await calls()).toMatchObject([{ told: [{ day: TOLD, quantity: '8' }], holds: [{ quantity: '3' }, { quantity: '2' }, { quantity: '3' }] }]);
    expect(await board()).toEqual([]);
  });

  test('planned with many, it is waited for where no other way is sooner, and the customer is to be called', async () => {
    await desk.db.updateTable('supplier').set({ lead_days: 30 }).execute();
    // The fee of so small a drop shipment is more than the goods bring.
    await desk.db.updateTable('line_route').set({ unit_cost: '0.33' }).execute();
    await desk.db.deleteFrom('item_substitute').execute();
    const lines = String(order.lines[0]!.id);
    const plan = await desk.call('ida', shortageRoutes.planRoutes, { query: { lines } });
    expect(plan.rows).toMatchObject([{ quantity: '8', route: { shipDay: SLIPPED, parts: [{ kind: 'backorder' }] } }]);
    expect(plan.rows[0]!.takesBack).toEqual([]);
    expect(plan.gathered).toEqual([]);
    const routed = await desk.call('ida', shortageRoutes.routeMany, {
      body: { run: crypto.randomUUID(), choices: [{ line: order.lines[0]!.id, parts: [{ kind: 'backorder', quantity: '8' }] }], accept: [] },
    });
    expect(routed).toMatchObject({ lines: 1, documents: [], left: [] });
    expect(await calls()).toMatchObject([{ told: [{ day: TOLD, quantity: '8' }], holds: [{ day: SLIPPED, quantity: '8' }] }]);
    expect(await board()).toEqual([]);
  });

  test('the day that was recorded is settled later on the purchase, with the call', async () => {
    const { ripple } = await look({ day: SLIPPED });
    expect(ripple.later).toMatchObject([{ from: TOLD, to: SLIPPED }]);
    const { version } = await desk.readPurchase(purchase.id);
    await slip({ version, decision: decided(ripple) });
    expect(await calls()).toHaveLength(1);
    expect(await board()).toEqual([]);
  });

  test('back in time, nobody was disturbed', async () => {
    const { version } = await desk.readPurchase(purchase.id);
    await slip({ version, expectedDay: TOLD });
    expect(await board()).toEqual([]);
    expect(await calls()).toEqual([]);
  });

  test('what left meanwhile is routed no more', async () => {
    const { version } = await desk.readPurchase(purchase.id);
    await desk.call('wil', supplyRoutes.confirmDespatch, {
      params: { purchase: purchase.id },
      body: { version, tracking: 'T', lines: [{ line: at().line, quantity: '8' }] },
    });
    const { status } = await desk.send('ida', orderRoutes.chooseRoute, {
      params: { order: order.id, line: order.lines[0]!.id },
      body: { parts: [{ kind: 'special_order', supplier: 'SUP', quantity: '8' }] },
    });
    expect(status).toBe(422);
    expect(await board()).toEqual([]);
  });
});

test('fewer come: what is lost waits, and its customer is to be called until another way serves them in time', async () => {
  await desk.call('ida', supplyRoutes.reschedule, { params: at(), body: { version: purchase.version, open: '5' } });
  expect((await desk.read(order)).lines[0]).toMatchObject({ dropShip: '5', waiting: '3' });
  expect(await board()).toMatchObject([{ kind: 'waiting', quantity: '3' }]);
  expect(await calls()).toMatchObject([
    { told: [{ day: TOLD, quantity: '8' }], holds: [{ day: TOLD, quantity: '5' }], say: expect.stringContaining('have lost their supply') },
  ]);
  await desk.stockUp('BOX', '3', 'QUI');
  await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '3' });
  // They leave sooner than was told: good news, and still news.
  expect(await calls()).toMatchObject([
    {
      holds: [
        { day: '2027-03-11', quantity: '3' },
        { day: TOLD, quantity: '5' },
      ],
    },
  ]);
});

test.each(['us', 'supplier'] as const)('cancelled by %s: whom it leaves without goods is seen before it is done, and is to be called', async (by) => {
  const { ripple } = await desk.call('ida', supplyRoutes.previewCancel, { params: { purchase: purchase.id }, query: {} });
  expect(ripple.later).toMatchObject([{ number: order.number, quantity: '8', from: TOLD, to: null, after: [] }]);
  await desk.call('ida', supplyRoutes.cancelPurchase, {
    params: { purchase: purchase.id },
    body: { version: purchase.version, by, reason: 'sold out', ...(by === 'us' ? { decision: decided(ripple) } : {}) },
  });
  expect((await desk.read(order)).lines[0]).toMatchObject({ dropShip: '0', waiting: '8' });
  expect(await calls()).toMatchObject([{ told: [{ day: TOLD, quantity: '8' }], holds: [] }]);
});

test('nothing more will come: seen, closed, called', async () => {
  const { ripple } = await desk.call('ida', supplyRoutes.previewClose, { params: at(), query: {} });
  expect(ripple.later).toMatchObject([{ number: order.number, to: null }]);
  await desk.call('ida', supplyRoutes.closeLine, { params: at(), body: { version: purchase.version, reason: 'bankrupt', decision: decided(ripple) } });
  expect(await calls()).toHaveLength(1);
});

test('the customer who cancels is not called about it, nor is one whose drop shipment is taken back for a better way', async () => {
  await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: order.id },
    body: { version: (await desk.read(order)).version, reason: 'customer_changed_mind', purchases: 'cancel', line: order.lines[0]!.id, quantity: '2' },
  });
  expect(await calls()).toEqual([]);
  await desk.stockUp('BOX', '10');
  await desk.undo(await desk.read(order), 1);
  expect((await desk.read(order)).lines[0]!.schedule).toMatchObject([{ day: '2027-03-11', quantity: '6', dropShip: false }]);
  expect(await calls()).toEqual([]);
});

test('a drop shipment that is taken back and leaves its customer waiting is a call to make', async () => {
  await desk.undo(order, 1);
  expect(await calls()).toMatchObject([{ told: [{ day: TOLD, quantity: '8' }], holds: [] }]);
});

test('the day a drop shipment was due has passed without notice: it comes up', async () => {
  await desk.db.updateTable('purchase_line').set({ expected_day: '2027-03-05', told_day: '2027-03-05' }).where('id', '=', at().line).execute();
  expect(await board()).toMatchObject([{ kind: 'late', promisedDay: '2027-03-05', possibleDay: '2027-03-09' }]);
});

/** An order of 100 of each of these, which wait. */
async function waiting(...items: readonly string[]): Promise<OrderView> {
  let draft = await desk.draft(items.map((item) => [item, '100']));
  for (const at of items.keys()) draft = await desk.take(draft, at + 1, { kind: 'backorder', quantity: '100' });
  return desk.release(draft);
}

test('lines of an order that one supplier ships go on one purchase, whose fee is paid once', async () => {
  const order = await waiting('BOX', 'JAR', 'LID');
  const ways = async (lineNo: number) => {
    const { routes } = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[lineNo - 1]!.id }, query: {} });
    return routes.find((route) => route.parts.length === 1 && route.parts[0]!.kind === 'drop_ship')!.unitCost;
  };
  // 10 for a drop shipment of 100.
  expect(await ways(2)).toBe('0.43');
  const one = await desk.take(order, 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '100' });
  expect(await ways(2)).toBe('0.33');
  const two = await desk.take(order, 2, { kind: 'drop_ship', supplier: 'SUP', quantity: '100' });
  const purchase = one.lines[0]!.routes.find((route) => route.document)!.document!;
  expect(two.lines[1]!.routes.find((route) => route.document)).toMatchObject({ unitCost: '0.33', document: { id: purchase.id } });
  const draft = await desk.readPurchase(purchase.id);
  expect(draft.lines.map((line) => line.item)).toEqual(['BOX', 'JAR']);
  // What is sent is closed to more: the next is a drop shipment of its own.
  await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: purchase.id }, body: { version: draft.version } });
  expect(await ways(3)).toBe('0.43');
  const three = await desk.take(order, 3, { kind: 'drop_ship', supplier: 'SUP', quantity: '100' });
  expect(three.lines[2]!.routes.find((route) => route.document)!.document!.id).not.toBe(purchase.id);
});

test('planned on a draft, or chosen in one act, the fee of a drop shipment is counted once as well', async () => {
  const draft = await desk.draft([
    ['BOX', '100'],
    ['JAR', '100'],
  ]);
  const costOf = (order: OrderView) => order.lines.map((line) => line.routes.map((route) => route.unitCost));
  const way = { kind: 'drop_ship', supplier: 'SUP', quantity: '100' } as const;
  expect(costOf(await desk.take(await desk.take(draft, 1, way), 2, way))).toEqual([['0.43'], ['0.33']]);
  const order = await waiting('BOX', 'JAR');
  const choices = order.lines.map((line) => ({ line: line.id, parts: [way] }));
  const { documents } = await desk.call('ida', shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices, accept: [] } });
  expect(documents).toHaveLength(1);
  expect(costOf(await desk.read(order))).toEqual([['0.43'], ['0.33']]);
});

test('a customer who wants to be asked about a later day says yes to it: then it is what was told, without a call', async () => {
  await desk.db.updateTable('customer').set({ asks_when_late: true }).execute();
  await desk.db.updateTable('line_route').set({ unit_cost: '0.33' }).execute();
  await desk.db.updateTable('supplier').set({ lead_days: 30 }).execute();
  await slip();
  const line = order.lines[0]!.id;
  const plan = await desk.call('ida', shortageRoutes.planRoutes, { query: { lines: String(line) } });
  expect(plan).toMatchObject({ asks: 1, rows: [{ route: { parts: [{ kind: 'backorder' }] } }] });
  const asked = await desk.call('ida', shortageRoutes.askCustomer, {
    params: { order: order.id, line },
    body: { parts: [{ kind: 'backorder', quantity: '8' }], recipients: [], question: 'May it be the 30th?', answerBy: '2027-03-12', onNo: 'reroute' },
  });
  await desk.call('ida', shortageRoutes.answerConsent, { params: { consent: asked.id }, body: { answer: 'accept' } });
  expect((await desk.read(order)).lines[0]!.schedule).toMatchObject([{ day: SLIPPED, quantity: '8', dropShip: true, arrives: null }]);
  expect(await calls()).toEqual([]);
  expect(await board()).toEqual([]);
});

test('two at once: one routes the drop shipment another way while the other confirms that it has left; one of them is done, and the other is told', async () => {
  await slip();
  await desk.stockUp('BOX', '8', 'QUI');
  const { version } = await desk.readPurchase(purchase.id);
  const lines = [{ line: at().line, quantity: '8' }];
  const [routed, left] = await Promise.all([
    desk.send('ida', orderRoutes.chooseRoute, {
      params: { order: order.id, line: order.lines[0]!.id },
      body: { parts: [{ kind: 'transfer', warehouse: 'QUI', quantity: '8' }] },
    }),
    desk.send('wil', supplyRoutes.confirmDespatch, { params: { purchase: purchase.id }, body: { version, tracking: 'T', lines } }),
  ]);
  expect([routed.status, left.status].filter((status) => status === 200)).toHaveLength(1);
  const { shipped, promised, dropShip, waiting } = (await desk.read(order)).lines[0]!;
  expect([shipped, promised, dropShip, waiting]).toEqual(left.status === 200 ? ['8', '0', '0', '0'] : ['0', '8', '0', '0']);
});

test('a line of which the supplier ships a part waits no more once the rest is promised: no route says that it does', async () => {
  const draft = await desk.draft([['LID', '10']]);
  const own = await desk.release(await desk.take(draft, 1, { kind: 'drop_ship', quantity: '4', supplier: 'SUP' }, { kind: 'backorder', quantity: '6' }));
  expect(own.lines[0]!.routes.map((route) => route.kind)).toEqual(['drop_ship', 'backorder']);
  await desk.stockUp('LID', '6');
  const line = own.lines[0]!.id;
  const offers = await desk.call('ida', promiseRoutes.listOffers, { query: { accept: String(line) } });
  await desk.call('ida', promiseRoutes.acceptOffers, { body: { decision: decided(offers, [line]) } });
  const after = (await desk.read(own)).lines[0]!;
  expect([after.waiting, after.routes.map((route) => route.kind)]).toEqual(['0', ['drop_ship']]);
});
