import { orderRoutes } from '@nockwright/contract/orders';
import { supplyRoutes, type PurchaseView } from '@nockwright/contract/supply';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';
import { said } from './said';

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

/** An order whose one line is bought from the supplier, and the purchase, sent. */
async function bought(item: string, quantity: string, kind: 'special_order' | 'drop_ship' = 'special_order') {
  const draft = await desk.draft([[item, quantity]]);
  const order = await desk.release(await desk.take(draft, 1, { kind, supplier: 'SUP', quantity }));
  const purchase = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  const sent = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: purchase.id }, body: { version: purchase.version } });
  return { order, purchase: sent };
}

const at = (purchase: PurchaseView) => ({ params: { purchase: purchase.id, line: purchase.lines[0]!.id } });

test('an acknowledgement with another cost is what the line costs from then on, and nobody moves', async () => {
  const { order, purchase } = await bought('BOX', '100');
  expect(order.lines[0]!.marginPercent).toBe('36.5'); // (0.52 - 0.33) / 0.52
  const nothing = await desk.send('ida', supplyRoutes.reschedule, { ...at(purchase), body: { version: purchase.version } });
  expect([nothing.status, nothing.problem.detail]).toEqual([422, expect.stringContaining('or cost')]);
  const wrong = await desk.send('ida', supplyRoutes.reschedule, { ...at(purchase), body: { version: purchase.version, cost: '-1' } });
  expect(wrong.problem.errors?.[0]?.field).toBe('body.cost');
  const past = await desk.send('ida', supplyRoutes.previewReschedule, { ...at(purchase), query: { day: '2027-03-08' } });
  expect(past.problem.errors).toEqual([{ field: 'query.day', message: '2027-03-08 has passed; expected 2027-03-09 or later' }]);
  const seen = await desk.call('ida', supplyRoutes.previewReschedule, { ...at(purchase), query: { cost: '0.39' } });
  expect(seen.ripple.later).toEqual([]);
  expect(seen.margins).toMatchObject([{ order: order.id, quantity: '100', before: '36.5', after: '25.0', lost: '6.00', currency: 'EUR' }]);
  const dearer = await desk.call('mona', supplyRoutes.reschedule, { ...at(purchase), body: { version: purchase.version, cost: '0.39' } });
  expect(dearer).toMatchObject({ state: 'acknowledged', lines: [{ cost: '0.39' }] });
  const after = (await desk.read(order)).lines[0]!;
  expect(after.marginPercent).toBe('25.0');
  expect(after.schedule).toEqual(order.lines[0]!.schedule);
  const [first] = await desk.call('ida', supplyRoutes.purchaseHistory, { params: { purchase: purchase.id } });
  expect(said(first!)).toContain('0.39 each, was 0.33');
});

test('another cost of what is bought to stock changes the margin of whoever is promised it, worst first', async () => {
  await desk.db.insertInto('supplier_item').values({ supplier: 'SUP', item: 'TUB', their_code: 'X', cost: '0.33', minimum: '1', multiple: '1' }).execute();
  const purchase = await desk.purchase('TUB', '100', '2027-03-12');
  const few = await desk.order([['TUB', '10']]);
  const many = await desk.order([['TUB', '50']], 'ida', 2);
  const at = { params: { purchase: purchase.id, line: purchase.line } };
  const { margins } = await desk.call('ida', supplyRoutes.previewReschedule, { ...at, query: { cost: '0.21' } });
  // Bought at 0.33, sold at 0.52: twelve cents more of each are kept.
  expect(margins).toMatchObject([
    { order: few.id, quantity: '10', before: '36.5', after: '59.6', lost: '-1.20' },
    { order: many.id, quantity: '50', before: '36.5', after: '59.6', lost: '-6.00' },
  ]);
  expect((await desk.call('ida', supplyRoutes.previewReschedule, { ...at, query: { cost: '0.33' } })).margins).toEqual([]);
  expect((await desk.call('ida', supplyRoutes.previewReschedule, { ...at, query: { day: '2027-03-15' } })).margins).toBeUndefined();
});

test('a dearer cost takes most from whom most is owed, whatever unit they buy in and on however many days it is promised', async () => {
  const pan = { code: 'PAN', description: 'Pan', item_group: 'Jars', unit: 'EA', weight: '0.2', list_price: '0.52', cost: '0.31' };
  await desk.db.insertInto('item').values(pan).execute();
  await desk.db.insertInto('item_unit').values({ item: 'PAN', unit: 'DZN', numerator: 12, denominator: 1 }).execute();
  await desk.db.insertInto('supplier_item').values({ supplier: 'SUP', item: 'PAN', their_code: 'X', cost: '0.33', minimum: '1', multiple: '1' }).execute();
  const purchase = await desk.purchase('PAN', '200', '2027-03-12');
  const dozens = await desk.order([['PAN', '2', 'DZN']], 'ida', 2);
  const each = await desk.order([['PAN', '10']]);
  // The supplier slips, which is only recorded: what is ordered on top is promised later than what was told before.
  const slipped = await desk.call('ida', supplyRoutes.reschedule, {
    params: { purchase: purchase.id, line: purchase.line },
    body: { version: (await desk.readPurchase(purchase.id)).version, expectedDay: '2027-03-19' },
  });
  const raise = { quantity: '40', claim: false, decision: { seen: [], accept: [] } };
  const line = each.lines[0]!.id;
  await desk.call('ida', orderRoutes.raiseLine, { params: { order: each.id, line }, body: { version: each.version, ...raise } });
  expect((await desk.read(each)).lines[0]!.schedule.map(({ day, quantity }) => [day, quantity])).toEqual([
    ['2027-03-15', '10'],
    ['2027-03-22', '30'],
  ]);
  const { margins } = await desk.call('ida', supplyRoutes.previewReschedule, {
    params: { purchase: slipped.id, line: purchase.line },
    query: { cost: '0.39' },
  });
  // Sold at 0.52: (0.52 - 0.33) / 0.52, then (0.52 - 0.39) / 0.52; six cents more of each.
  expect(margins).toMatchObject([
    { order: each.id, quantity: '40', before: '36.5', after: '25.0', lost: '2.40' },
    { order: dozens.id, quantity: '24', before: '36.5', after: '25.0', lost: '1.44' },
  ]);
});

test('goods that are bought for a line cost what its route does, freight and all', async () => {
  await desk.db.updateTable('supplier').set({ freight: '5' }).where('code', '=', 'SUP').execute();
  const { order, purchase } = await bought('BOX', '100');
  await desk.db.updateTable('supplier').set({ freight: '0' }).where('code', '=', 'SUP').execute();
  // Five for the freight of a hundred: each costs 0.38, (0.52 - 0.38) / 0.52.
  expect(order.lines[0]!.marginPercent).toBe('26.9');
  const { margins } = await desk.call('ida', supplyRoutes.previewReschedule, { ...at(purchase), query: { cost: '0.39' } });
  expect(margins).toMatchObject([{ order: order.id, before: '26.9', after: '15.4', lost: '6.00' }]);
});

test('a line keeps the margin that its option said, and says what the margin is judged by', async () => {
  await desk.db.updateTable('supplier').set({ freight: '7' }).where('code', 'in', ['SUP', 'SLOW']).execute();
  const kinds: string[] = [];
  for (let at = 0; ; at++) {
    const order = await desk.draft([['BOX', '100']]);
    const { routes } = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id } });
    const options = routes.filter(({ possible, parts }) => possible && parts.length === 1 && parts[0]!.kind !== 'cut' && parts[0]!.kind !== 'substitute');
    const option = options[at];
    if (!option) break;
    const [part] = option.parts;
    kinds.push(part!.kind);
    const { kind, quantity, supplier } = part!;
    const line = (await desk.take(order, 1, { kind, quantity, ...(supplier ? { supplier } : {}) })).lines[0]!;
    expect([kind, line.marginPercent]).toEqual([kind, option.marginPercent]);
    expect(line.cost).toEqual([{ quantity: '100', each: part!.unitCost, basis: 'landed' }]);
  }
  expect(kinds).toEqual(expect.arrayContaining(['backorder', 'special_order', 'drop_ship']));
  await desk.db.updateTable('supplier').set({ freight: '0' }).where('code', 'in', ['SUP', 'SLOW']).execute();
  // Nothing chosen and nothing there: the item's own cost.
  expect((await desk.draft([['BOX', '100']])).lines[0]!.cost).toEqual([{ quantity: '100', each: '0.31', basis: 'standard' }]);
});

test('a little more is bought where the whole comes to less so: the rest is a free line of the draft', async () => {
  await desk.db.updateTable('supplier').set({ freight: '3.70', freight_free_from: '69' }).where('code', '=', 'SUP').execute();
  // 207 at 0.33 are 68.31, and 3.70 for the freight; 210 are 69.30 and travel free.
  const order = await desk.draft([['BOX', '207']]);
  const { routes } = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id } });
  const option = routes.find(({ parts }) => parts.length === 1 && parts[0]!.more !== '0')!;
  expect(option).toMatchObject({
    label: 'Special order from Tarnbeck, 3 more for stock',
    remarks: [expect.stringContaining('69.30 so, 72.01 without the 3'), expect.anything()],
  });
  const planned = await desk.take(order, 1, { kind: 'special_order', supplier: 'SUP', quantity: '207', more: '3' });
  expect(planned.lines[0]!.marginPercent).toBe(option.marginPercent);
  const released = await desk.release(planned);
  const purchase = await desk.readPurchase(released.lines[0]!.routes[0]!.document!.id);
  expect(purchase).toMatchObject({ value: '69.30' });
  expect(purchase.lines.map(({ quantity, bound }) => [quantity, bound])).toEqual([
    ['207', true],
    ['3', false],
  ]);
  await desk.db.updateTable('supplier').set({ freight: '0', freight_free_from: null }).where('code', '=', 'SUP').execute();
});

test('what is overdue may come in another quantity without another day; what is awaited no more is not changed', async () => {
  const { purchase } = await bought('BOX', '10');
  const line = purchase.lines[0]!;
  await desk.db.updateTable('purchase_line').set({ expected_day: '2027-03-05' }).where('id', '=', line.id).execute();
  await desk.call('ida', supplyRoutes.previewReschedule, { ...at(purchase), query: { day: '2027-03-05', open: '8' } });
  const closed = await desk.call('ida', supplyRoutes.closeLine, { ...at(purchase), body: { version: purchase.version, reason: 'no longer made' } });
  const more = await desk.send('ida', supplyRoutes.previewReschedule, { ...at(purchase), query: { open: '8' } });
  expect([more.status, more.problem.detail]).toEqual([409, 'Nothing more is expected on line 1.']);
  expect((await desk.send('ida', supplyRoutes.reschedule, { ...at(purchase), body: { version: closed.version, open: '8' } })).status).toBe(409);
});

test('the supplier confirms an order as it was sent: once, and nothing moves', async () => {
  const { order, purchase } = await bought('BOX', '100');
  const at = { params: { purchase: purchase.id } };
  const confirmed = await desk.call('ida', supplyRoutes.acknowledge, { ...at, body: { version: purchase.version, note: 'by phone' } });
  expect(confirmed).toMatchObject({ state: 'acknowledged', lines: [{ open: '100', cost: purchase.lines[0]!.cost }] });
  expect((await desk.read(order)).lines[0]!.schedule).toEqual(order.lines[0]!.schedule);
  const again = await desk.send('ida', supplyRoutes.acknowledge, { ...at, body: { version: confirmed.version } });
  expect([again.status, again.problem.detail]).toEqual([409, `Purchase ${purchase.number} is acknowledged already.`]);
});

test('the supplier cancels: what was promised from it waits again, what is on hand stays, and its routes are gone', async () => {
  const { order, purchase } = await bought('LID', '20');
  const receipt = await desk.receive(purchase.id, '5');
  const preview = await desk.call('ida', supplyRoutes.previewCancel, { params: { purchase: purchase.id } });
  expect(preview.ripple.later).toMatchObject([{ order: order.id, quantity: '15', to: null }]);
  const cancelled = await desk.call('ida', supplyRoutes.cancelPurchase, {
    params: { purchase: purchase.id },
    body: { version: receipt.purchase.version, by: 'supplier', reason: 'no longer made' },
  });
  expect(cancelled).toMatchObject({ state: 'closed', lines: [{ received: '5', closed: '15', open: '0' }] });
  expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '5', waiting: '15', routes: [{ quantity: '5' }] });
  const again = await desk.send('ida', supplyRoutes.cancelPurchase, {
    params: { purchase: purchase.id },
    body: { version: cancelled.version, by: 'us', reason: 'x' },
  });
  expect(again.status).toBe(409);
});

test('with a decision promises move as was seen, and a call is noted', async () => {
  await desk.purchase('JAR', '40', '2027-03-25');
  const { order, purchase } = await bought('JAR', '40');
  const { ripple } = await desk.call('ida', supplyRoutes.previewCancel, { params: { purchase: purchase.id } });
  expect(ripple.later).toMatchObject([{ order: order.id, quantity: '40', to: '2027-03-26' }]);
  await desk.call('ida', supplyRoutes.cancelPurchase, {
    params: { purchase: purchase.id },
    body: {
      version: purchase.version,
      by: 'us',
      reason: 'found cheaper',
      decision: { seen: ripple.later.map(({ line, after }) => ({ line, after })), accept: [] },
    },
  });
  const moved = await desk.read(order);
  expect(moved.lines[0]!.schedule.map(({ day, quantity }) => [day, quantity])).toEqual([['2027-03-26', '40']]);
  expect(moved.calls).toBe(1);
});

test('a drop shipment that is cancelled waits again and has never touched our stock; one that has left is not cancelled', async () => {
  const { order, purchase } = await bought('BOX', '8', 'drop_ship');
  const before = await desk.stock('BOX');
  const part = await desk.call('ida', supplyRoutes.confirmDespatch, {
    params: { purchase: purchase.id },
    body: { version: purchase.version, tracking: 'T1', lines: [{ line: purchase.lines[0]!.id, quantity: '3' }] },
  });
  await desk.call('ida', supplyRoutes.cancelPurchase, {
    params: { purchase: purchase.id },
    body: { version: part.version, by: 'supplier', reason: 'sold out' },
  });
  expect((await desk.read(order)).lines[0]).toMatchObject({ shipped: '3', dropShip: '0', waiting: '5' });
  expect(await desk.stock('BOX')).toEqual(before);
});

test('a special order that the customer cancels after it was sent leaves nothing hanging: closed with the supplier, or kept for others', async () => {
  for (const purchases of ['cancel', 'keep'] as const) {
    const { order, purchase } = await bought('BOX', '9');
    const view = await desk.read(order);
    await desk.call('ida', orderRoutes.cancelOrder, {
      params: { order: order.id },
      body: { version: view.version, reason: 'customer_changed_mind', purchases },
    });
    const line = (await desk.readPurchase(purchase.id)).lines[0]!;
    expect([purchases, line.open, line.owed.filter((row) => row.bound)]).toEqual([purchases, purchases === 'cancel' ? '0' : '9', []]);
    expect((await desk.read(order)).lines[0]!.routes).toEqual([]);
  }
});

test('a list of purchases says which orders they were bought for', async () => {
  const { order, purchase } = await bought('LID', '3');
  const rows = await desk.call('ida', supplyRoutes.listPurchases, { query: { search: order.number!.toLowerCase() } });
  expect(rows.map((row) => [row.id, row.order])).toEqual([[purchase.id, order.number]]);
});
