import { supplyRoutes } from '@nockwright/contract/supply';
import { TestDesk } from './test-desk';

/** Days that are shown are days on which something can happen. */
let desk: TestDesk;
afterEach(() => desk.close());

test('a drop shipment that is overdue is not told for a Sunday, when nobody collects', async () => {
  desk = await TestDesk.open('2027-03-14'); // a Sunday
  const order = await desk.release(await desk.take(await desk.draft([['BOX', '8']]), 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '8' }));
  const made = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: made.id }, body: { version: made.version } });
  await desk.db.updateTable('purchase_line').set({ expected_day: '2027-03-12', told_day: '2027-03-12' }).where('purchase_id', '=', made.id).execute();
  expect((await desk.read(order)).lines[0]!.schedule).toMatchObject([{ day: '2027-03-12', arrives: '2027-03-15', dropShip: true }]);
});

test('the days a supplier is closed count in a plan as they do in the purchase it makes', async () => {
  desk = await TestDesk.open();
  await desk.db.insertInto('supplier_closed_day').values({ supplier: 'SUP', day: '2027-03-11' }).execute();
  const planned = await desk.take(await desk.draft([['BOX', '8']]), 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '8' });
  const { day } = planned.lines[0]!.routes[0]!;
  // Five of their working days from Tuesday the 9th, Thursday the 11th left out.
  expect(day).toBe('2027-03-17');
  const order = await desk.release(planned);
  expect(order.lines[0]!.routes[0]!.day).toBe(day);
});
