import { customerRoutes } from '@nockwright/contract/customers';
import { itemRoutes } from '@nockwright/contract/items';
import { mailRoutes } from '@nockwright/contract/mail';
import { orderRoutes } from '@nockwright/contract/orders';
import { pricingRoutes } from '@nockwright/contract/pricing';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { remarksOf } from '../src/documents/order-paper';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '5000');
  await desk.stockUp('LID', '5000');
});
afterAll(() => desk.close());

const params = { customer: 1 };
const read = () => desk.call('ida', customerRoutes.readCustomer, { params });
const setNumber = (item: string, code: string | null, customer = 1) =>
  desk.send('ida', customerRoutes.setItemNumber, { params: { customer, item }, body: { code } });
const found = async (search: string, customer: number) =>
  (await desk.call('ida', itemRoutes.findItems, { query: { search, customer } })).map((row) => [row.code, row.theirCode]);

/** The record as it stands, as a change of it names its fields. */
async function record() {
  const customer = await read();
  const { version, name, contact, phone, email, street, postcode, town, country, deliveryRule, mostShipments, warehouse, carrierService, termsDays } = customer;
  const { priority, notes } = customer;
  return {
    ...{ version, name, contact, phone, email, street, postcode, town, country, deliveryRule, mostShipments },
    ...{ warehouse, carrierService, termsDays, priority, notes },
  };
}

describe('the customer’s own item numbers', () => {
  test('an item is found by their number, by nobody else’s, and their number stands beside ours', async () => {
    await setNumber('JAR', 'WH-J12');
    await setNumber('LID', 'WH-L9');
    expect(await found('wh-j12', 1)).toEqual([['JAR', 'WH-J12']]);
    expect((await found('wh', 1)).map(([code]) => code)).toEqual(expect.arrayContaining(['JAR', 'LID']));
    expect(await found('wh-j12', 2)).toEqual([]);
    expect((await found('jar', 2))[0]).toEqual(['JAR', null]);
  });

  test('their number goes before what merely has it in its words', async () => {
    // BOX is "BOX of glass": what the customer calls so is meant all the same.
    await setNumber('LID', 'BOX1');
    expect((await found('box1', 1))[0]).toEqual(['LID', 'BOX1']);
  });

  test('one number means one item, also where two set it at once', async () => {
    const both = await Promise.all([setNumber('TUB', 'SAME'), setNumber('KIT', 'same')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 409)!.problem.errors).toEqual([
      { field: 'body.code', message: expect.stringMatching(/they call (TUB|KIT) so/) },
    ]);
  });

  test('a mail that names an item by their number is sure of it, and the line and its paper say their number', async () => {
    await setNumber('JAR', 'WH-J12');
    let order = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 } });
    const text = await desk.call('ida', orderRoutes.readText, { params: { order: order.id }, body: { text: 'Please send 40 WH-J12' } });
    expect(text.lines.map(({ certainty, readings }) => [certainty, readings[0]!.item, readings[0]!.quantity])).toEqual([['sure', 'JAR', '40']]);
    order = await desk.call('ida', orderRoutes.addLine, { params: { order: order.id }, body: { item: 'JAR', quantity: '40' } });
    expect(order.lines[0]!.theirCode).toBe('WH-J12');
    const released = await desk.release(order);
    expect(remarksOf(released.lines[0]!, [])).toEqual(['your number WH-J12']);
  });

  test('their number may be several words', async () => {
    await setNumber('LID', 'WH 44 L');
    const order = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 } });
    const text = await desk.call('ida', orderRoutes.readText, { params: { order: order.id }, body: { text: '12 x wh 44  L, and 3 TUB' } });
    expect(text.lines.map(({ words, certainty, readings }) => [words, certainty, readings[0]!.item, readings[0]!.quantity])).toEqual([
      ['12 x wh 44 L', 'sure', 'LID', '12'],
      ['3 TUB', 'sure', 'TUB', '3'],
    ]);
  });

  test('it is taken away, and the history says who set which', async () => {
    await setNumber('BOX', 'ONCE');
    await setNumber('BOX', null);
    expect((await read()).itemNumbers.some((row) => row.item === 'BOX')).toBe(false);
    const [last, before] = await desk.call('ida', customerRoutes.customerHistory, { params });
    expect([last!.facts, before!.facts]).toEqual([
      { item: 'BOX', code: null },
      { item: 'BOX', code: 'ONCE' },
    ]);
  });
});

test('an item is found by what it is also called, and by its size, before what has the words in its group', async () => {
  const find = async (search: string) => (await desk.call('ida', itemRoutes.findItems, { query: { search } })).map((row) => row.code);
  expect(await find('suit large')).toEqual([]);
  await desk.call('ida', itemRoutes.setAlso, { params: { item: 'TUB' }, body: { also: 'bee suit, large' } });
  expect(await find('suit large')).toEqual(['TUB']);
  const [tub] = await desk.call('ida', itemRoutes.findItems, { query: { search: 'suit' } });
  expect(tub!.byGroup).toBe(false);
  expect(await find('lagre')).toEqual(['TUB']);
});

describe('the record', () => {
  test('what is changed is what the next order begins with; orders that are there keep theirs', async () => {
    const before = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 } });
    const change = { ...(await record()), deliveryRule: 'complete' as const, termsDays: 14, priority: 2, email: null };
    const changed = await desk.call('ida', customerRoutes.changeCustomer, { params, body: change });
    expect(changed).toMatchObject({ deliveryRule: 'complete', termsDays: 14, priority: 2, email: '', version: change.version + 1 });
    const after = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 } });
    expect([before.termsDays, after.termsDays, before.shipComplete, after.shipComplete]).toEqual([30, 14, false, true]);
    const history = await desk.call('ida', customerRoutes.customerHistory, { params });
    expect(history.find((row) => row.kind === 'customer.changed')!.facts).toEqual({
      customer: 'Wether Hill',
      fields: ['mail address', 'delivery rule', 'payment terms', 'priority'],
    });
  });

  test('longer payment terms are given by the manager alone, as on an order', async () => {
    const longer = { ...(await record()), email: 'a@b.example', termsDays: 90 };
    const refused = await desk.send('ida', customerRoutes.changeCustomer, { params, body: longer });
    expect([refused.status, refused.problem.errors![0]!.field]).toEqual([403, 'body.termsDays']);
    await desk.call('mona', customerRoutes.changeCustomer, { params, body: longer });
    expect((await read()).termsDays).toBe(90);
    const begins = { name: 'New Bees', contact: '', phone: '', street: '1 Quay', postcode: 'A1', town: 'Combe', country: 'GB', prospect: false };
    expect((await desk.send('ida', customerRoutes.createCustomer, { body: { ...begins, termsDays: 60 } })).status).toBe(403);
  });

  test('who changes it for what no longer stands is told who was first; nothing is half done', async () => {
    const seen = await record();
    await desk.call('mona', customerRoutes.changeCustomer, { params, body: { ...seen, email: 'a@b.example', phone: '1' } });
    const late = await desk.send('ida', customerRoutes.changeCustomer, { params, body: { ...seen, email: 'a@b.example', phone: '2' } });
    expect([late.status, late.problem.detail]).toEqual([409, expect.stringContaining('changed phone')]);
    expect((await read()).phone).toBe('1');
  });

  test.each([
    ['warehouse', { warehouse: 'ELSE' }, 'body.warehouse'],
    ['carrier', { carrierService: 'ROCKET' }, 'body.carrierService'],
    ['name', { name: '' }, 'body.name'],
    ['mail address', { email: 'no mail' }, 'body.email'],
    ['priority', { priority: 0 }, 'body.priority'],
  ])('a wrong %s is named by its field', async (_, wrong, field) => {
    const body = { ...(await record()), email: 'a@b.example', ...wrong };
    const { status, problem } = await desk.send('ida', customerRoutes.changeCustomer, { params, body });
    expect([status, problem.errors?.[0]?.field]).toEqual([422, field]);
  });
});

describe('contacts', () => {
  test('are kept, changed, found by their phone, and removed once', async () => {
    const store = (body: object) =>
      desk.send('ida', customerRoutes.storeContact, { params, body: { name: 'Edwin', role: '', phone: '', email: null, ...body } });
    await store({ role: 'Accounts', phone: '01632 960 777' });
    expect((await store({})).status).toBe(409);
    const [edwin] = (await read()).contacts;
    await store({ id: edwin!.id, name: 'Edwin Marsh', phone: '01632 960 777' });
    expect((await read()).contacts).toEqual([{ id: edwin!.id, name: 'Edwin Marsh', role: '', phone: '01632 960 777', email: '' }]);
    const customers = await desk.call('ida', customerRoutes.findCustomers, { query: { search: '01632960777' } });
    expect(customers.map((row) => row.number)).toEqual(['C1']);
    const remove = () => desk.send('ida', customerRoutes.removeContact, { params: { customer: 1, contact: edwin!.id } });
    expect([(await remove()).status, (await remove()).status]).toEqual([200, 404]);
  });

  test('one of another customer is not changed', async () => {
    const kept = await desk.call('ida', customerRoutes.storeContact, { params: { customer: 2 }, body: { name: 'Guy', role: '', phone: '', email: null } });
    const wrong = await desk.send('ida', customerRoutes.storeContact, {
      params,
      body: { id: kept.contacts[0]!.id, name: 'Mine', role: '', phone: '', email: null },
    });
    expect(wrong.status).toBe(404);
  });
});

test('lists show what is of one customer: orders, quotes, contracts, calls, mail', async () => {
  const mine = await desk.order([['JAR', '5']], 'ida', 2);
  const quote = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 2, kind: 'quote' } });
  const query = { customer: 2 };
  const open = await desk.call('ida', orderRoutes.listOrders, { query: { ...query, state: 'all' as const } });
  expect(open.rows.map((row) => [row.id, row.customerId])).toEqual([
    [quote.id, 2],
    [mine.id, 2],
  ]);
  expect(await desk.call('ida', pricingRoutes.listContracts, { query })).toEqual([]);
  expect((await desk.call('ida', worklistRoutes.listCalls, { query })).calls).toEqual([]);
  expect((await desk.call('ida', mailRoutes.listMail, { query })).rows).toEqual([]);
});
