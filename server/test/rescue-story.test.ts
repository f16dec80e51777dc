import { orderRoutes } from '@nockwright/contract/orders';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { supplyRoutes } from '@nockwright/contract/supply';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => (desk = await TestDesk.open()));
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const calls = async () => (await desk.call('ida', worklistRoutes.listCalls)).calls.map(({ number, told, holds, say }) => ({ number, told, holds, say }));

/** Two orders promised from a purchase that slips by two weeks; promises stand as told, at risk. */
async function slipped() {
  const purchase = await desk.purchase('LID', '100', '2027-03-12');
  const first = await desk.order([['LID', '60']]);
  const second = await desk.order([['LID', '40']], 'ida', 2);
  const { version } = await desk.readPurchase(purchase.id);
  await desk.call('ida', supplyRoutes.reschedule, {
    params: { purchase: purchase.id, line: purchase.line },
    body: { version, expectedDay: '2027-03-26', note: 'furnace repair' },
  });
  expect(await calls()).toEqual([]);
  await desk.db.updateTable('supplier').set({ lead_days: 5 }).where('code', '=', 'SLOW').execute();
  return { purchase, first, second };
}

test('a supplier slips two weeks: who is routed later than they were told is to be called, with the days they have and will have', async () => {
  const { first, second } = await slipped();
  // Bought anew elsewhere it comes a day after it was told; the second is served from another warehouse, in time.
  await desk.take(first, 1, { kind: 'special_order', supplier: 'SLOW', quantity: '60' });
  expect(await calls()).toEqual([
    {
      number: first.number,
      told: [{ day: '2027-03-15', quantity: '60' }],
      holds: [{ day: '2027-03-17', quantity: '60' }],
      say: 'The 60 LID we promised for Monday the 15th will leave on Wednesday the 17th instead.',
    },
  ]);
  await desk.stockUp('LID', '40', 'QUI');
  await desk.take(second, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '40' });
  expect((await calls()).map((call) => call.number)).toEqual([first.number]);
  expect(await desk.shortages()).toEqual([]);
});

test('what the customer gives up is missed by nobody; what is only later of the rest is told', async () => {
  const { first } = await slipped();
  const cut = { kind: 'cut', quantity: '20' } as const;
  await desk.take(first, 1, cut, { kind: 'special_order', supplier: 'SLOW', quantity: '40' });
  expect((await calls()).map((call) => call.holds)).toEqual([[{ day: '2027-03-17', quantity: '40' }]]);
});

test('a drop shipment that leaves as soon as was told needs no call', async () => {
  const { first } = await slipped();
  await desk.db.updateTable('supplier').set({ lead_days: 1, drop_ships: true }).where('code', '=', 'SLOW').execute();
  await desk.take(first, 1, { kind: 'drop_ship', supplier: 'SLOW', quantity: '60' });
  expect(await calls()).toEqual([]);
});

test('a call that is still to be made is made with the newest days', async () => {
  const { first } = await slipped();
  await desk.take(first, 1, { kind: 'special_order', supplier: 'SLOW', quantity: '60' });
  expect(await calls()).toHaveLength(1);
  // Nobody has called yet: another slip is told from the day they know, not from the one they never heard of.
  const bought = await desk.readPurchase((await desk.read(first)).lines[0]!.routes[0]!.document!.id);
  const { ripple } = await desk.call('ida', supplyRoutes.previewReschedule, {
    params: { purchase: bought.id, line: bought.lines[0]!.id },
    query: { day: '2027-03-22' },
  });
  expect(ripple.later[0]!.say).toBe('The 60 LID we promised for Monday the 15th will leave on Tuesday the 23rd of March instead.');
  await desk.stockUp('LID', '60', 'QUI');
  const routed = await desk.read(first);
  const back = await desk.undo(routed, 1, 0, 'cancel');
  await desk.take(back, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '60' });
  expect(await calls()).toMatchObject([
    {
      told: [{ day: '2027-03-15', quantity: '60' }],
      holds: [{ day: '2027-03-11', quantity: '60' }],
      say: 'The 60 LID we promised for Monday the 15th can leave on Thursday the 11th already.',
    },
  ]);
  expect((await desk.read(first)).lines[0]!.schedule.map((entry) => entry.day)).toEqual(['2027-03-11']);
});

test('who has no better way than to wait is told the later day, in the same act as those who have', async () => {
  const { purchase, first, second } = await slipped();
  const { version } = await desk.readPurchase(purchase.id);
  await desk.call('ida', supplyRoutes.reschedule, { params: { purchase: purchase.id, line: purchase.line }, body: { version, expectedDay: '2027-03-16' } });
  await desk.stockUp('LID', '60', 'QUI');
  const [a, b] = [first.lines[0]!.id, second.lines[0]!.id];
  const plan = await desk.call('ida', shortageRoutes.planRoutes, { query: { lines: `${a},${b}` } });
  // Bought anew it would come as late and cost no less: it is waited for.
  expect(plan.rows.map(({ line, route }) => [line, route!.shipDay, route!.parts.map((part) => part.kind)])).toEqual([
    [a, '2027-03-11', ['transfer']],
    [b, '2027-03-17', ['backorder']],
  ]);
  await desk.call('ida', shortageRoutes.routeMany, {
    body: {
      run: crypto.randomUUID(),
      choices: [
        { line: a, parts: [{ kind: 'transfer', warehouse: 'QUI', quantity: '60' }] },
        { line: b, parts: [{ kind: 'backorder', quantity: '40' }] },
      ],
      accept: [],
    },
  });
  expect(await calls()).toMatchObject([
    { number: second.number, told: [{ day: '2027-03-15', quantity: '40' }], holds: [{ day: '2027-03-17', quantity: '40' }] },
  ]);
  expect(await desk.shortages()).toEqual([]);
});

test('what is bought for the rest of a line leaves the part that a purchase to stock serves its day, and slips for itself alone', async () => {
  const stock = await desk.purchase('LID', '10', '2027-03-12');
  const draft = await desk.draft([['LID', '15']]);
  const order = await desk.release(await desk.take(draft, 1, { kind: 'special_order', supplier: 'SUP', quantity: '5' }));
  expect(order.lines[0]!.schedule).toMatchObject([
    { day: '2027-03-15', quantity: '10', arrives: null, from: [{ purchase: stock.id }] },
    { day: '2027-03-17', quantity: '5', arrives: null, from: [{ quantity: '5' }] },
  ]);
  expect(await desk.shortages()).toEqual([]);
  const bought = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  const at = { params: { purchase: bought.id, line: bought.lines[0]!.id } };
  const { version } = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: bought.id }, body: { version: bought.version } });
  const { ripple } = await desk.call('ida', supplyRoutes.previewReschedule, { ...at, query: { day: '2027-03-30' } });
  expect(ripple.later).toMatchObject([{ order: order.id, quantity: '5', from: '2027-03-17', to: '2027-03-31' }]);
  await desk.call('ida', supplyRoutes.reschedule, { ...at, body: { version, expectedDay: '2027-03-30' } });
  const stands = async () => (await desk.read(order)).lines[0]!.schedule.map(({ day, quantity, arrives }) => [day, quantity, arrives]);
  expect(await stands()).toEqual([
    ['2027-03-15', '10', null],
    ['2027-03-17', '5', '2027-03-31'],
  ]);
  // The purchase to stock slips as well: its part is late by that, not by what was bought.
  const { version: now } = await desk.readPurchase(stock.id);
  await desk.call('ida', supplyRoutes.reschedule, { params: { purchase: stock.id, line: stock.line }, body: { version: now, expectedDay: '2027-03-18' } });
  expect(await stands()).toEqual([
    ['2027-03-15', '10', '2027-03-19'],
    ['2027-03-17', '5', '2027-03-31'],
  ]);
});

test('less of a line that is served from stock and by what was bought for it makes nothing else of it later', async () => {
  await desk.purchase('LID', '10', '2027-03-12');
  const order = await desk.release(await desk.take(await desk.draft([['LID', '15']]), 1, { kind: 'special_order', supplier: 'SUP', quantity: '5' }));
  const at = { params: { order: order.id } };
  for (const [quantity, left] of [
    ['2', [['2027-03-15', '10'], ['2027-03-17', '3']]], // prettier-ignore
    ['8', [['2027-03-15', '5']]], // prettier-ignore
  ] as const) {
    const seen = await desk.read(order);
    const line = seen.lines[0]!.id;
    const { ripple } = await desk.call('ida', orderRoutes.previewCancellation, { ...at, query: { line, quantity, purchases: 'keep' } });
    expect(ripple.later).toEqual([]);
    await desk.call('ida', orderRoutes.cancelOrder, { ...at, body: { version: seen.version, line, quantity, reason: 'too_late', purchases: 'keep' } });
    expect((await desk.read(order)).lines[0]!.schedule.map((entry) => [entry.day, entry.quantity])).toEqual(left);
    expect(await desk.shortages()).toEqual([]);
  }
});

test('what a cancelled part rested on is free, what the rest rests on is not: others are offered no more than that', async () => {
  await desk.purchase('LID', '10', '2027-03-16');
  const order = await desk.release(await desk.take(await desk.draft([['LID', '15']]), 1, { kind: 'special_order', supplier: 'SUP', quantity: '5' }));
  expect(order.lines[0]!.schedule).toMatchObject([{ day: '2027-03-17', quantity: '15' }]);
  const waits = await desk.release(await desk.route(await desk.draft([['LID', '20']], 'sam'), 1, 'backorder', '20'));
  const { ripple } = await desk.call('ida', orderRoutes.previewCancellation, {
    params: { order: order.id },
    query: { line: order.lines[0]!.id, quantity: '8', purchases: 'keep' },
  });
  expect(ripple).toMatchObject({ later: [], earlier: [], offers: [{ order: waits.id, quantity: '8', to: '2027-03-17' }] });
});

test.each([
  ['on the shelf', async () => desk.stockUp('LID', '10'), '2027-03-11'],
  ['due', async () => void (await desk.purchase('LID', '10', '2027-03-12')), '2027-03-15'],
])('what is bought later for the rest leaves the part that is %s as it was told', async (_, bring, day) => {
  await bring();
  const draft = await desk.draft([['LID', '15']]);
  const order = await desk.release(await desk.route(draft, 1, 'backorder', '5'));
  expect(order.lines[0]).toMatchObject({ promised: '10', waiting: '5' });
  const routed = await desk.take(order, 1, { kind: 'special_order', supplier: 'SUP', quantity: '5' });
  expect(routed.lines[0]!.schedule.map((entry) => [entry.day, entry.quantity, entry.arrives])).toEqual([
    [day, '10', null],
    ['2027-03-17', '5', null],
  ]);
  expect(await desk.shortages()).toEqual([]);
  expect(await calls()).toEqual([]);
});

test('what was bound for the part that goes another way is bound to it no more, though the line is served from stock as well', async () => {
  await desk.stockUp('LID', '8');
  await desk.stockUp('LID', '20', 'QUI');
  const way = { kind: 'transfer', warehouse: 'QUI', quantity: '7' } as const;
  const order = await desk.release(await desk.take(await desk.draft([['LID', '15']]), 1, way));
  const late = await desk.call('ida', supplyRoutes.readTransfer, { params: { transfer: order.lines[0]!.routes[0]!.document!.id } });
  await desk.call('ida', supplyRoutes.changeTransfer, { params: { transfer: late.id }, body: { version: late.version, expectedDay: '2027-03-29' } });
  expect((await desk.shortages()).map((row) => row.quantity)).toEqual(['7']);
  // The plan for it moves nobody, the line itself neither.
  const plan = await desk.call('ida', shortageRoutes.planRoutes, { query: { lines: String(order.lines[0]!.id) } });
  expect(plan.rows[0]!.route).toMatchObject({ shipDay: '2027-03-11', parts: [{ kind: 'transfer', quantity: '7' }] });
  expect(plan.ripple).toEqual({ later: [], earlier: [], offers: [] });
  const ways = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id } });
  expect([ways.short, ways.frees]).toEqual(['7', []]);
  const saved = await desk.take(order, 1, way);
  expect(saved.lines[0]).toMatchObject({ promised: '15', waiting: '0', state: 'covered' });
  expect(saved.lines[0]!.routes.map((route) => [route.kind, route.quantity])).toEqual([['transfer', '7']]);
  expect(await desk.shortages()).toEqual([]);
  const transfer = await desk.call('ida', supplyRoutes.readTransfer, { params: { transfer: late.id } });
  expect(transfer).toMatchObject({ state: 'cancelled', lines: [{ cancelled: '7' }] });
});

test('what comes last goes another way: the rest is served as told', async () => {
  const quick = await desk.purchase('LID', '20', '2027-03-12');
  await desk.purchase('LID', '20', '2027-03-19');
  const order = await desk.order([['LID', '40']]);
  expect(order.lines[0]!.schedule.map(({ day, quantity }) => [day, quantity])).toEqual([
    ['2027-03-15', '20'],
    ['2027-03-22', '20'],
  ]);
  const { version } = await desk.readPurchase(quick.id);
  await desk.call('ida', supplyRoutes.reschedule, { params: { purchase: quick.id, line: quick.line }, body: { version, expectedDay: '2027-04-09' } });
  await desk.stockUp('LID', '20', 'QUI');
  const after = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '20' });
  expect(after.lines[0]!.schedule.map(({ day, quantity, arrives }) => [day, quantity, arrives])).toEqual([
    ['2027-03-15', '20', null],
    ['2027-03-22', '20', null],
  ]);
});

test('who loses their goods without another day is to be called, until another way serves them as told', async () => {
  const purchase = await desk.purchase('LID', '60', '2027-03-12');
  const order = await desk.order([['LID', '60']]);
  const { version } = await desk.readPurchase(purchase.id);
  await desk.call('ida', supplyRoutes.cancelPurchase, { params: { purchase: purchase.id }, body: { version, by: 'supplier', reason: 'fire' } });
  expect(await calls()).toMatchObject([{ number: order.number, told: [{ day: '2027-03-15', quantity: '60' }], holds: [] }]);
  await desk.db.updateTable('supplier').set({ lead_days: 3 }).where('code', '=', 'SUP').execute();
  const routed = await desk.take(order, 1, { kind: 'special_order', supplier: 'SUP', quantity: '60' });
  expect(routed.lines[0]!.schedule.map((entry) => entry.day)).toEqual(['2027-03-15']);
  expect(await calls()).toEqual([]);
});

test('a supplier who slips is not believed to bring a new order of the same sooner than what they owe', async () => {
  const { first } = await slipped();
  const draft = await desk.draft([['LID', '5']]);
  const ways = async (order: { readonly id: number; readonly lines: readonly { readonly id: number }[] }) =>
    (await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id }, query: {} })).routes
      .filter((route) => route.parts.length === 1 && route.parts[0]!.supplier === 'SUP')
      .map((route) => [route.parts[0]!.kind, route.shipDay]);
  // In on the 26th, put away by Monday; from their house to the customer on the 26th.
  expect((await ways(first)).sort()).toEqual([
    ['drop_ship', '2027-03-26'],
    ['special_order', '2027-03-29'],
  ]);
  const planned = await desk.take(draft, 1, { kind: 'special_order', supplier: 'SUP', quantity: '5' });
  expect(planned.lines[0]!).toMatchObject({ routes: [{ day: '2027-03-26' }], schedule: [{ day: '2027-03-29' }] });
  expect((await desk.release(planned)).lines[0]!).toMatchObject({ routes: [{ day: '2027-03-26' }], schedule: [{ day: '2027-03-29' }] });
});

test('what was bought for a line that another way serves is bound to it no more, and that is said', async () => {
  const order = await desk.release(await desk.take(await desk.draft([['LID', '40']]), 1, { kind: 'special_order', supplier: 'SUP', quantity: '40' }));
  const bought = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  const { version } = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: bought.id }, body: { version: bought.version } });
  await desk.call('ida', supplyRoutes.reschedule, { params: { purchase: bought.id, line: bought.lines[0]!.id }, body: { version, expectedDay: '2027-03-30' } });
  await desk.stockUp('LID', '15', 'QUI');
  const line = order.lines[0]!.id;
  const parts = [{ kind: 'transfer', warehouse: 'QUI', quantity: '15' } as const, { kind: 'backorder', quantity: '25' } as const];
  const routed = await desk.call('ida', shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices: [{ line, parts }], accept: [] } });
  expect(routed.freed).toEqual([{ did: 'kept', quantity: '15', purchase: bought.number }]);
  expect((await desk.readPurchase(bought.id)).lines.map((row) => [row.quantity, row.bound])).toEqual([
    ['25', true],
    ['15', false],
  ]);
  const after = (await desk.read(order)).lines[0]!;
  expect(after.routes.map((route) => [route.kind, route.quantity])).toEqual([
    ['special_order', '25'],
    ['transfer', '15'],
  ]);
  expect(after.schedule.map((entry) => [entry.day, entry.quantity, entry.arrives])).toEqual([
    ['2027-03-11', '15', null],
    ['2027-03-31', '25', null],
  ]);
  expect(await calls()).toMatchObject([{ told: [{ day: '2027-03-17', quantity: '40' }] }]);
});
