import { customerRoutes } from '@nockwright/contract/customers';
import { orderRoutes } from '@nockwright/contract/orders';
import { quoteRoutes } from '@nockwright/contract/quotes';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { seenOf, TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '5000');
  await desk.stockUp('LID', '5000');
});
afterAll(() => desk.close());

const NEW = {
  name: 'Brackenthwaite Honey',
  contact: 'Ruth',
  phone: '01632 960990',
  street: '3 Fell Road',
  postcode: 'BT1 1AA',
  town: 'Bracken',
  country: 'GB',
};
const make = (more: object = {}) => desk.call('ida', customerRoutes.createCustomer, { body: { ...NEW, prospect: false, ...more } });

test('a new customer has a number, an address and no credit: their first order is held for finance', async () => {
  const made = await make();
  expect(made).toMatchObject({ number: 'C5001', warehouse: 'MAR', credit: { limit: '0.00' }, shipTos: [{ street: '3 Fell Road' }] });
  const order = await desk.draft([['JAR', '10']], 'ida', made.id);
  expect((await desk.release(order)).progress).toBe('held');
  await desk.call('fay', customerRoutes.setCreditLimit, { params: { customer: made.id }, body: { limit: '500', reason: 'references are good', was: '0.00' } });
  expect((await desk.release(await desk.read(order))).state).toBe('released');
});

test.each([
  ['the name nearly', { name: 'Weather Hill' }, ['name']],
  ['the phone, written otherwise', { name: 'Somebody', phone: '01632-960-114' }, ['phone']],
  ['the mail', { name: 'Somebody', email: 'A@B.example' }, ['mail']],
])('one who has %s is told as a double', async (_, query, alike) => {
  const [first] = await desk.call('ida', customerRoutes.findDoubles, { query });
  expect(first).toMatchObject({ customer: { number: 'C1' }, alike });
});

test('one who is like nobody has no double', async () => {
  expect(await desk.call('ida', customerRoutes.findDoubles, { query: { name: 'Zyx Quarry', phone: '0113 496 0999' } })).toEqual([]);
});

test('a prospect is quoted and not sold to, until made a customer', async () => {
  const made = await make({ name: 'Prospect Bees', prospect: true });
  const refused = await desk.send('ida', orderRoutes.createOrder, { body: { customer: made.id } });
  expect(refused.problem.errors?.[0]?.field).toBe('body.kind');
  let quote = await desk.call('ida', orderRoutes.createOrder, { body: { customer: made.id, kind: 'quote' } });
  quote = await desk.call('ida', orderRoutes.addLine, { params: { order: quote.id }, body: { item: 'JAR', quantity: '10' } });
  quote = await desk.call('ida', quoteRoutes.sendQuote, { params: { quote: quote.id }, body: seenOf(quote) });
  const order = await desk.call('ida', quoteRoutes.acceptQuote, {
    params: { quote: quote.id },
    body: { version: quote.version, lines: [{ line: quote.lines[0]!.id }], prices: 'quoted', rest: 'open' },
  });
  const early = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: order.id }, body: seenOf(order) });
  expect(early).toMatchObject({ status: 409, problem: { detail: expect.stringContaining('prospect') } });
  await desk.call('ida', customerRoutes.makeCustomer, { params: { customer: made.id } });
  await desk.call('fay', customerRoutes.setCreditLimit, { params: { customer: made.id }, body: { limit: null, reason: 'pays before', was: '0.00' } });
  // Who has not seen that decides again.
  const stale = await desk.send('mona', customerRoutes.setCreditLimit, {
    params: { customer: made.id },
    body: { limit: '900', reason: 'grows', was: '500.00' },
  });
  expect([stale.status, stale.problem.detail]).toEqual([409, expect.stringContaining('is none by now; you saw 500.00')]);
  expect((await desk.release(await desk.read(order))).state).toBe('released');
});

test('a note shows on the customer and on their orders until it is taken away, once', async () => {
  const { reminders } = await desk.call('fay', customerRoutes.addReminder, { params: { customer: 1 }, body: { text: 'ask for the pallets back' } });
  expect(reminders).toMatchObject([{ text: 'ask for the pallets back', by: 'fay' }]);
  expect((await desk.draft([])).customer.reminders).toHaveLength(1);
  const close = () => desk.send('ida', customerRoutes.closeReminder, { params: { customer: 1, reminder: reminders[0]!.id } });
  expect((await Promise.all([close(), close()])).map((reply) => reply.status).sort()).toEqual([200, 404]);
});

test('an address given twice stands once', async () => {
  const add = () =>
    desk.call('ida', customerRoutes.addShipTo, {
      params: { customer: 1 },
      body: { name: 'Barn', street: '9 Mill Lane', postcode: 'AB9 9ZZ', town: 'Nether Combe', country: 'GB' },
    });
  const [one, other] = await Promise.all([add(), add()]);
  expect(one.id).toBe(other.id);
});

test('lines go where they say: each address has its own pick', async () => {
  const barn = await desk.call('ida', customerRoutes.addShipTo, {
    params: { customer: 1 },
    body: { name: 'Barn', street: '11 Mill Lane', postcode: 'AB9 9ZZ', town: 'Over Combe', country: 'GB' },
  });
  const draft = await desk.draft([
    ['JAR', '10'],
    ['LID', '10'],
  ]);
  const moved = await desk.call('ida', orderRoutes.changeLine, {
    params: { order: draft.id, line: draft.lines[1]!.id },
    body: { version: draft.version, shipTo: barn.id, note: 'round the back' },
  });
  expect(moved.lines[1]).toMatchObject({ shipTo: { street: '11 Mill Lane' }, note: 'round the back' });
  const order = await desk.release(moved);
  const wish = (lines: readonly number[]) => ({
    body: { order: order.id, warehouse: 'MAR', lines: lines.map((at) => ({ line: order.lines[at]!.id, quantity: '10' })) },
  });
  const both = await desk.send('wil', shippingRoutes.startPick, wish([0, 1]));
  expect([both.status, both.problem.errors?.[0]?.field]).toEqual([422, 'body.lines[1].line']);
  const board = await desk.call('wil', shippingRoutes.readBoard, {});
  expect(board.ready.filter((row) => row.order === order.id)).toHaveLength(2);
  expect(await desk.call('wil', shippingRoutes.startPick, wish([1]))).toMatchObject({ address: 'Barn, 11 Mill Lane, AB9 9ZZ Over Combe, GB' });
  expect(await desk.call('wil', shippingRoutes.startPick, wish([0]))).toMatchObject({ address: expect.stringContaining('Shed') });
});

test('what they usually buy comes first, as they took it last; an earlier order is there line by line', async () => {
  await desk.order([['JAR', '24']]);
  await desk.order([
    ['LID', '5'],
    ['JAR', '2', 'DZN'],
  ]);
  const usual = await desk.call('ida', customerRoutes.readBought, { params: { customer: 1 } });
  expect(usual[0]).toMatchObject({ item: 'JAR', quantity: '2', unit: 'DZN', units: expect.arrayContaining(['EA', 'DZN', 'XTY']) });
  const [last] = await desk.call('ida', customerRoutes.listPastOrders, { params: { customer: 1 } });
  const lines = await desk.call('ida', customerRoutes.readBought, { params: { customer: 1 }, query: { order: last!.id } });
  expect(lines.map(({ item, quantity }) => [item, quantity])).toEqual([
    ['LID', '5'],
    ['JAR', '2'],
  ]);
  const others = await desk.call('ida', customerRoutes.readBought, { params: { customer: 2 }, query: { order: last!.id } });
  expect(others).toEqual([]);
});

test('orders of a source with a series of its own are numbered by it, the others go on without a gap', async () => {
  await desk.db.insertInto('number_series').values({ name: 'order/portal', next: 3001, prefix: 'W' }).execute();
  const drafts = await Promise.all(
    Array.from({ length: 8 }, async (_, at) => {
      const draft = await desk.draft([['JAR', '1']]);
      const source = at % 2 === 0 ? ('portal' as const) : ('mail' as const);
      return desk.call('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, source } });
    }),
  );
  const answers = await Promise.all(drafts.map((draft) => desk.send('ida', orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(draft) })));
  // Whoever was overtaken releases what is true now.
  const released = await Promise.all(answers.map(async (answer, at) => (answer.status === 200 ? answer.reply : desk.release(await desk.read(drafts[at]!)))));
  const numbers = released.map((order) => order.number!);
  expect(numbers.filter((number) => number.startsWith('W')).sort()).toEqual(['W3001', 'W3002', 'W3003', 'W3004']);
  const others = numbers.filter((number) => !number.startsWith('W')).map(Number);
  expect(Math.max(...others) - Math.min(...others)).toBe(3);
});

test('a customer is found by their mail address, their street, and the street goods go to', async () => {
  const find = async (search: string) => (await desk.call('ida', customerRoutes.findCustomers, { query: { search } })).map((row) => row.id);
  await desk.db.updateTable('customer').set({ email: 'orders@quillmoor.example', street: '7 Ropewalk' }).where('id', '=', 1).execute();
  await desk.db
    .insertInto('ship_to')
    .values({ customer_id: 1, name: 'Barn', street: '41 Hartsease Drove', postcode: 'ZZ9 9ZZ', town: 'Farholt', country: 'GB' })
    .execute();
  expect(await find('orders@quillmoor')).toEqual([1]);
  expect(await find('ropewalk')).toEqual([1]);
  expect(await find('hartsease 41')).toEqual([1]);
  expect(await find('farholt ropewalk')).toEqual([1]);
  expect(await find('hartsease quillbarn')).toEqual([]);
});
