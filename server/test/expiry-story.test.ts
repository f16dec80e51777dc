import { customerRoutes } from '@nockwright/contract/customers';
import { itemRoutes, stockRoutes } from '@nockwright/contract/items';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import { decided } from './decided';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.db.updateTable('item').set({ tracks_lots: true, tracks_expiry: true }).where('code', '=', 'BOX').execute();
});
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

/** Goods of a lot on the shelf, whatever its last day. */
async function shelve(lot: string, expires: string, quantity: string) {
  await desk.db.insertInto('item_lot').values({ item: 'BOX', lot, expires }).execute();
  await desk.db
    .insertInto('stock_movement')
    .values({ at: new Date('2027-03-01T09:00'), item: 'BOX', warehouse: 'MAR', quantity, kind: 'opening', reference: 'shelf', lot })
    .execute();
}

const lotsOf = async () =>
  (await desk.call('ida', stockRoutes.listPlaces, { query: { item: 'BOX' } })).map(({ lot, quantity, expires }) => [lot, quantity, expires]);

// The desk's day is 9 March 2027; the customer's carrier takes a day, a weekend may lie between.
test('what has expired is promised to nobody, and is no stock to sell', async () => {
  await shelve('OLD', '2027-03-06', '13');
  await shelve('NEW', '2027-12-31', '10');
  const [found] = await desk.call('ida', itemRoutes.findItems, { query: { search: 'BOX' } });
  expect(found).toMatchObject({ available: '10' });
  const draft = await desk.draft([['BOX', '12']]);
  expect(draft.lines[0]).toMatchObject({ uncovered: '2' });
  expect(draft.lines[0]!.schedule.flatMap((entry) => entry.from.map((peg) => peg.label))).toEqual([expect.stringContaining('expires Fri 31 Dec')]);
});

test('a customer who asks for life is promised what has it; so is an item that asks for it', async () => {
  await shelve('SOON', '2027-04-15', '20');
  const promised = async () => (await desk.draft([['BOX', '25']])).lines[0]!.uncovered;
  expect(await promised()).toBe('0');
  await desk.call('ida', itemRoutes.setLeastLife, { params: { item: 'BOX' }, body: { days: 60 } });
  expect(await promised()).toBe('15');
  await desk.call('ida', itemRoutes.setLeastLife, { params: { item: 'BOX' }, body: { days: 0 } });
  const { customer } = await desk.draft([]);
  await desk.call('ida', customerRoutes.setLifeAsked, { params: { customer: customer.id }, body: { days: 60 } });
  expect(await promised()).toBe('15');
  await desk.call('ida', customerRoutes.setLifeAsked, { params: { customer: customer.id }, body: { days: null } });
});

test('a lot that has expired cannot be shipped; it is shipped when its day is corrected, and the correction shows whom it moves', async () => {
  const order = await desk.release(await desk.draft([['BOX', '30']]));
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '30' }] },
  });
  const preview = (expires: string) => desk.call('ida', stockRoutes.previewLot, { params: { item: 'BOX', lot: 'SOON' }, query: { expires } });
  const correct = async (expires: string) =>
    desk.send('ida', stockRoutes.correctLot, {
      params: { item: 'BOX', lot: 'SOON' },
      body: { expires, reason: 'read the label again', decision: decided(await preview(expires)) },
    });
  // Had it run out yesterday, the order would wait for what it was promised.
  expect((await preview('2027-03-08')).later).toMatchObject([{ number: order.number, days: null }]);
  // The label was read wrongly after all.
  await desk.db.updateTable('item_lot').set({ expires: '2027-03-08' }).where('lot', '=', 'SOON').execute();
  const refused = await desk.send('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: '' } });
  expect(refused.status).toBe(409);
  expect(refused.problem.detail).toContain('20 of lot SOON expired Mon 8 Mar');
  expect(await lotsOf()).toContainEqual(['SOON', '20', '2027-03-08']);
  expect((await correct('2027-04-15')).status).toBe(200);
  expect((await desk.send('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: '' } })).status).toBe(200);
  // First expired, first out of what lasts; the old lot stands where it stood.
  expect(await lotsOf()).toEqual([['OLD', '13', '2027-03-06']]);
});

test('what has expired by its label is asked about at the dock: it comes into quarantine, or not at all', async () => {
  const purchase = await desk.purchase('BOX', '10', '2027-03-09');
  const view = await desk.readPurchase(purchase.id);
  const receive = (arrival: object) =>
    desk.send('wil', supplyRoutes.receive, {
      params: { purchase: purchase.id },
      body: { version: view.version, lines: [{ line: view.lines[0]!.id, quantity: '0', lot: 'DEAD', expires: '2027-03-01', ...arrival }] },
    });
  const refused = await receive({ quantity: '10' });
  expect(refused.problem.errors).toEqual([
    { field: 'body.lines[0].expires', message: 'lot DEAD of BOX expired Mon 1 Mar: receive it as damaged, into quarantine, or correct the day' },
  ]);
  expect((await receive({ damaged: '10' })).status).toBe(200);
  expect(await desk.stock('BOX')).toMatchObject({ on_hand: '13', inbound: '10' });
});
