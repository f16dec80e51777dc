import { invoiceRoutes, paymentRoutes } from '@nockwright/contract/billing';
import { customerRoutes } from '@nockwright/contract/customers';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { brokenInvariants } from './invariants';
import { seenOf, TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '5000');
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const limit = (credit_limit: string | null) => desk.db.updateTable('customer').set({ credit_limit }).where('id', '=', 1).execute();
const credit = async () => (await desk.call('ida', customerRoutes.readCustomer, { params: { customer: 1 } })).credit;

async function invoice(amount: string, dueDay: string, paid = '0') {
  const number = `F${(await desk.db.selectFrom('invoice').select('id').execute()).length + 1}`;
  await desk.db.insertInto('invoice').values({ number, customer_id: 1, day: '2027-01-04', due_day: dueDay, amount, paid }).execute();
}

function clear(login: 'ida' | 'fay' | 'mona', order: OrderView) {
  const hold = order.holds.find((row) => row.kind === 'credit' && row.cleared === null)!.id;
  return desk.send(login, orderRoutes.clearHold, { params: { order: order.id, hold }, body: { version: order.version, why: 'pays tomorrow' } });
}

test('exposure is what is unpaid, shipped and not billed, and on open orders; what is overdue is told apart', async () => {
  await limit('1000');
  await invoice('100', '2027-03-08');
  await invoice('80', '2027-03-09', '30');
  await invoice('70', '2027-03-01', '70');
  const order = await desk.order([['JAR', '100']]);
  await desk.shipLine(order, 1, '40');
  expect(await credit()).toEqual({
    limit: '1000.00',
    unpaid: '150.00',
    shippedNotBilled: '20.80',
    openOrders: '31.20',
    exposure: '202.00',
    left: '798.00',
    overdue: '100.00',
    overdueSince: '2027-03-08',
  });
  expect((await desk.read(order)).customer.credit!.exposure).toBe('202.00');
});

test('what is billed is owed once', async () => {
  const order = await desk.order([['JAR', '100']]);
  const shipment = await desk.shipLine(order, 1, '100');
  expect((await desk.read(order)).progress).toBe('shipped');
  await desk.call('fay', invoiceRoutes.issueInvoice, { body: { shipments: [shipment.id], total: '52.00' } });
  expect(await desk.read(order)).toMatchObject({ progress: 'billed', shipments: [{ invoice: 'I1' }] });
  expect((await desk.call('ida', orderRoutes.listOrders, { query: { state: 'done' } })).rows[0]).toMatchObject({ progress: 'billed' });
  expect(await credit()).toMatchObject({ unpaid: '52.00', shippedNotBilled: '0.00', openOrders: '0.00', exposure: '52.00' });
});

describe('an order that would take its customer over the limit', () => {
  test('is held; finance lets it go with a reason, and it is released', async () => {
    await limit('100');
    await invoice('60', '2027-03-01');
    const held = await desk.release(await desk.draft([['JAR', '100']]));
    expect(held).toMatchObject({ state: 'draft', progress: 'held' });
    expect(held.holds[0]).toMatchObject({
      kind: 'credit',
      why: 'with this order they would owe 112.00, their limit is 100.00 (unpaid 60.00, shipped and not billed 0.00, open orders 0.00; 60.00 overdue since Mon 1 Mar)',
    });
    expect(await desk.stock('JAR')).toMatchObject({ committed: '0' });
    expect((await clear('ida', held)).problem.detail).toBe('This hold is released by finance or manager; you are logged in as coordinator.');
    const cleared = (await clear('fay', held)).reply;
    expect((await desk.release(cleared)).state).toBe('released');
  });

  test('is held again where it has grown since it was let go', async () => {
    await limit('50');
    const held = await desk.release(await desk.draft([['JAR', '100']]));
    const cleared = (await clear('mona', held)).reply;
    const line = cleared.lines[0]!.id;
    const grown = await desk.call('ida', orderRoutes.changeLine, { params: { order: held.id, line }, body: { version: cleared.version, quantity: '200' } });
    expect((await desk.release(grown)).progress).toBe('held');
    const more = await desk.read(held);
    const less = await desk.call('ida', orderRoutes.changeLine, { params: { order: held.id, line }, body: { version: more.version, quantity: '90' } });
    expect((await desk.release(less)).state).toBe('released');
  });

  test('is not held once the money is in', async () => {
    await limit('100');
    await invoice('60', '2027-03-01');
    const held = await desk.release(await desk.draft([['JAR', '100']]));
    const { invoices } = await desk.call('fay', paymentRoutes.readMoney, { params: { customer: 1 } });
    await desk.call('fay', paymentRoutes.recordPayment, {
      params: { customer: 1 },
      body: { day: '2027-03-09', method: 'bank', amount: '60', reference: '', settled: [{ invoice: invoices[0]!.id, amount: '60', discount: '0' }] },
    });
    const released = await desk.release(held);
    expect(released).toMatchObject({ state: 'released', holds: [] });
  });
});

test('a released line is not raised over the limit', async () => {
  await limit('100');
  const order = await desk.order([['JAR', '100']]);
  const raise = (quantity: string) =>
    desk.send('ida', orderRoutes.raiseLine, {
      params: { order: order.id, line: order.lines[0]!.id },
      body: { version: order.version, quantity, claim: false, decision: { seen: [], accept: [] } },
    });
  const refused = await raise('200');
  expect(refused.status).toBe(409);
  expect(refused.problem.detail).toContain('It would be 52.00 more: ');
  expect(await credit()).toMatchObject({ exposure: '52.00' });
  expect((await raise('192')).status).toBe(200);
});

test('a customer’s order number that stands on another of their orders is told', async () => {
  const first = await desk.draft([['JAR', '1']]);
  const name = (order: OrderView, poNumber: string) =>
    desk.call('ida', orderRoutes.changeOrder, { params: { order: order.id }, body: { version: order.version, poNumber } });
  const released = await desk.release(await name(first, 'WH-1'));
  expect(released.poRepeats).toEqual([]);
  const second = await name(await desk.draft([['JAR', '1']]), 'wh-1');
  expect(second.poRepeats).toEqual([{ id: released.id, number: released.number, day: '2027-03-09' }]);
  const other = await name(await desk.draft([['JAR', '1']], 'ida', 2), 'WH-1');
  expect(other.poRepeats).toEqual([]);
});

test('at the limit, and without one, an order goes its way', async () => {
  await limit('52');
  expect((await desk.release(await desk.draft([['JAR', '100']]))).state).toBe('released');
  await limit(null);
  expect((await desk.release(await desk.draft([['JAR', '1000']]))).state).toBe('released');
});

test('of several orders released at once only as many go as the limit allows', async () => {
  await limit('160');
  const drafts = await Promise.all(Array.from({ length: 8 }, () => desk.draft([['JAR', '100']])));
  const answers = await Promise.all(drafts.map((draft) => desk.send('ida', orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(draft) })));
  expect(answers.map((answer) => answer.status)).toEqual(Array.from({ length: 8 }, () => 200));
  expect(answers.filter((answer) => answer.reply.state === 'released')).toHaveLength(3);
  expect(answers.filter((answer) => answer.reply.progress === 'held')).toHaveLength(5);
});
