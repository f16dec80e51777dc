import { stockRoutes } from '@nockwright/contract/items';
import type { OrderView } from '@nockwright/contract/orders';
import { supplyRoutes, type Arrival } from '@nockwright/contract/supply';
import { decided } from './decided';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
let first: OrderView;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.db
    .insertInto('supplier_item')
    .values({ supplier: 'SUP', item: 'TUB', their_code: 'X', cost: '1', lead_days: null, minimum: '1', multiple: '1' })
    .execute();
  await desk.db.updateTable('item').set({ tracks_lots: true, tracks_expiry: true, gtin: '09501101530003' }).where('code', '=', 'BOX').execute();
  for (const bin of ['A-01', 'B-07']) await desk.call('wil', stockRoutes.addBin, { params: { warehouse: 'MAR' }, body: { bin } });
  await desk.call('wil', stockRoutes.setHome, { params: { item: 'BOX' }, body: { warehouse: 'MAR', bin: 'A-01' } });
});
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

const receive = async (purchase: number, arrivals: readonly Omit<Arrival, 'line'>[], closeRest = false) => {
  const view = await desk.readPurchase(purchase);
  const lines = arrivals.map((row) => ({ line: view.lines[0]!.id, ...row }));
  return desk.send(closeRest ? 'ida' : 'wil', supplyRoutes.receive, { params: { purchase }, body: { version: view.version, lines, closeRest } });
};
const places = async (item: string) =>
  (await desk.call('ida', stockRoutes.listPlaces, { query: { item } })).map((row) => [row.bin, row.lot, row.expires, row.status, row.quantity]);

test('goods come in of several lots into their bins, damaged ones into quarantine, and those are still awaited', async () => {
  const purchase = await desk.purchase('BOX', '20', '2027-03-12');
  const order = await desk.release(await desk.draft([['BOX', '15']]));
  first = order;
  expect(order.lines[0]!.schedule).not.toEqual([]);
  const { reply } = await receive(purchase.id, [
    { quantity: '8', lot: 'L-2', expires: '2027-12-31' },
    { quantity: '4', damaged: '3', lot: 'L-1', expires: '2027-06-30', bin: 'B-07' },
  ]);
  expect(await places('BOX')).toEqual([
    ['B-07', 'L-1', '2027-06-30', 'available', '4'],
    ['B-07', 'L-1', '2027-06-30', 'quarantine', '3'],
    ['A-01', 'L-2', '2027-12-31', 'available', '8'],
  ]);
  expect(reply.purchase.lines[0]).toMatchObject({ received: '12', damaged: '3', open: '8' });
  expect(reply.goesTo).toMatchObject([{ number: order.number, quantity: '12' }]);
  expect(await desk.stock('BOX')).toMatchObject({ on_hand: '12', inbound: '8', committed: '15' });
});

test('first expiry, first out: a shipment takes the lot that expires first, whichever bin it is in', async () => {
  await desk.shipLine(first, 1, '6');
  expect(await places('BOX')).toEqual([
    ['B-07', 'L-1', '2027-06-30', 'quarantine', '3'],
    ['A-01', 'L-2', '2027-12-31', 'available', '6'],
  ]);
});

test('goods are released from quarantine, or lost; promises are seen to move before they go in', async () => {
  const [damaged] = await desk.call('ida', stockRoutes.listPlaces, { query: { only: 'quarantine' } });
  const release = { quantity: '2', status: 'available' } as const;
  const refused = await desk.send('wil', stockRoutes.moveGoods, { params: { place: damaged!.id }, body: release });
  expect([refused.status, refused.problem.detail]).toEqual([403, 'Whether goods are fit to be sold again is the desk’s to decide.']);
  const preview = await desk.call('ida', stockRoutes.previewMove, { params: { place: damaged!.id }, query: release });
  await desk.call('ida', stockRoutes.moveGoods, { params: { place: damaged!.id }, body: { ...release, cause: 'found', decision: decided(preview) } });
  await desk.call('ida', stockRoutes.countStock, {
    params: { item: 'BOX' },
    body: { warehouse: 'MAR', place: damaged!.id, counted: '0', cause: 'damaged', reason: 'thrown away', decision: { accept: [], seen: [] } },
  });
  expect(await places('BOX')).toEqual([
    ['B-07', 'L-1', '2027-06-30', 'available', '2'],
    ['A-01', 'L-2', '2027-12-31', 'available', '6'],
  ]);
  await desk.release(await desk.draft([['BOX', '6']]));
  const [, sound] = await desk.call('ida', stockRoutes.listPlaces, { query: { item: 'BOX' } });
  const into = { quantity: '6', status: 'quarantine' } as const;
  const ripple = await desk.call('wil', stockRoutes.previewMove, { params: { place: sound!.id }, query: into });
  // As much of each as its own day has; what is left over has no goods.
  expect(ripple.later.map((row) => [row.number, row.quantity])).toEqual([
    ['20002', '4'],
    ['20001', '1'],
  ]);
  const unseen = await desk.send('wil', stockRoutes.moveGoods, { params: { place: sound!.id }, body: { ...into, cause: 'damaged' } });
  expect(unseen.status).toBe(409);
  await desk.call('wil', stockRoutes.moveGoods, { params: { place: sound!.id }, body: { ...into, cause: 'damaged', decision: decided(ripple) } });
  expect(await desk.stock('BOX')).toMatchObject({ on_hand: '2' });
});

test('what is missing on a label, a bin that is not there and a lot with two days are refused, each by its field', async () => {
  const purchase = await desk.purchase('BOX', '10', '2027-03-12');
  const { status, problem } = await receive(purchase.id, [
    { quantity: '1' },
    { quantity: '1', lot: 'L-9' },
    { quantity: '1', lot: 'L-2', expires: '2028-01-01' },
    { quantity: '1', lot: 'L-2', bin: 'Z-99' },
    { quantity: '0', lot: 'L-2' },
  ]);
  expect([status, problem.errors?.map((row) => `${row.field} ${row.message}`)]).toEqual([
    422,
    [
      'body.lines[0].lot BOX is kept by lot: expected the lot on the label',
      'body.lines[1].expires BOX expires: expected the day on the label',
      'body.lines[2].expires lot L-2 of BOX expires 2027-12-31, got 2028-01-01',
      'body.lines[3].bin there is no bin Z-99 at MAR',
      'body.lines[4].quantity expected a good or a damaged quantity',
    ],
  ]);
  expect((await desk.readPurchase(purchase.id)).lines[0]!.received).toBe('0');
});

test('all that came is damaged and no more will come: what was promised from it waits again', async () => {
  const purchase = await desk.purchase('TUB', '5', '2027-03-12');
  const order = await desk.release(await desk.draft([['TUB', '5']]));
  expect(order.lines[0]!.waiting).toBe('0');
  const { status } = await receive(purchase.id, [{ quantity: '0', damaged: '5' }], true);
  expect(status).toBe(200);
  expect((await desk.read(order)).lines[0]!.waiting).toBe('5');
  expect((await desk.readPurchase(purchase.id)).state).toBe('cancelled');
});

test('a scan finds what it is expected from, by label, code or number; what means nothing says so', async () => {
  const purchase = await desk.purchase('BOX', '7', '2027-03-15');
  const scan = (text: string) => desk.send('wil', supplyRoutes.readScan, { query: { text, warehouse: 'MAR' } });
  const label = await scan('(01)09501101530003(17)271231(10)L-2(37)7');
  expect(label.reply).toMatchObject({ item: 'BOX', lot: 'L-2', expires: '2027-12-31', count: '7' });
  expect(label.reply.awaited.map((row) => row.number)).toContain(purchase.number);
  expect((await scan(purchase.number.toLowerCase())).reply.awaited).toMatchObject([{ id: purchase.id, line: null, open: '7' }]);
  expect((await scan('box')).reply.item).toBe('BOX');
  expect((await scan('(01)09501101530004')).problem.detail).toContain('its check digit does not fit');
  expect((await scan('nobody knows')).problem.detail).toContain('nothing that is expected is called nobody knows');
});

test('a lot goes with its goods from one warehouse to another', async () => {
  const at = { at: new Date(), item: 'BOX', warehouse: 'QUI', kind: 'opening', reference: 'test' } as const;
  await desk.db.insertInto('item_lot').values({ item: 'BOX', lot: 'Q-1', expires: '2027-09-01' }).execute();
  await desk.db
    .insertInto('stock_movement')
    .values({ ...at, quantity: '4', lot: 'Q-1', bin: '' })
    .execute();
  const made = await desk.call('ida', supplyRoutes.createTransfer, { body: { from: 'QUI', to: 'MAR', lines: [{ item: 'BOX', quantity: '3' }] } });
  await desk.call('wil', supplyRoutes.shipTransfer, { params: { transfer: made.id }, body: { version: made.version } });
  const left = await desk.call('wil', supplyRoutes.readTransfer, { params: { transfer: made.id } });
  await desk.call('wil', supplyRoutes.receiveTransfer, {
    params: { transfer: made.id },
    body: { version: left.version, lines: [{ line: left.lines[0]!.id, quantity: '3' }] },
  });
  expect(await places('BOX')).toContainEqual(['A-01', 'Q-1', '2027-09-01', 'available', '3']);
});

test('what comes damaged from another warehouse goes into quarantine, the sound into the bin that is named; who was promised it waits', async () => {
  await desk.stockUp('TUB', '10', 'QUI');
  const order = await desk.release(await desk.take(await desk.draft([['TUB', '10']]), 1, { kind: 'transfer', warehouse: 'QUI', quantity: '10' }));
  const at = { params: { transfer: order.lines[0]!.routes[0]!.document!.id } };
  const open = await desk.call('ida', supplyRoutes.readTransfer, at);
  const { version } = await desk.call('wil', supplyRoutes.shipTransfer, { ...at, body: { version: open.version } });
  const line = open.lines[0]!.id;
  const wrong = await desk.send('wil', supplyRoutes.receiveTransfer, { ...at, body: { version, lines: [{ line, quantity: '7', bin: 'Z-99' }] } });
  expect(wrong.problem.errors).toEqual([{ field: 'body.lines[0].bin', message: 'there is no bin Z-99 at MAR' }]);
  const over = await desk.send('wil', supplyRoutes.receiveTransfer, { ...at, body: { version, lines: [{ line, quantity: '9', damaged: '2' }] } });
  expect(over.problem.errors?.[0]!.message).toContain('11 is more than the 10 on the way');
  const { ripple } = await desk.call('ida', supplyRoutes.previewTransferReceipt, { ...at, query: { lines: `${line}:7:2` } });
  expect(ripple.later).toMatchObject([{ order: order.id, quantity: '2', to: null }]);
  const came = await desk.call('wil', supplyRoutes.receiveTransfer, { ...at, body: { version, lines: [{ line, quantity: '7', damaged: '2', bin: 'A-01' }] } });
  expect(came).toMatchObject({ state: 'shipped', lines: [{ received: '7', damaged: '2', lost: '2', open: '1' }] });
  expect((await places('TUB')).map(([bin, , , status, quantity]) => [bin, status, quantity])).toEqual(
    expect.arrayContaining([
      ['A-01', 'available', '7'],
      [expect.any(String), 'quarantine', '2'],
    ]),
  );
  expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '8', waiting: '2' });
});
