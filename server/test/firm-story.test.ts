import { firmRoutes, type Firm } from '@nockwright/contract/firm';
import { accessRoutes } from '@nockwright/contract/access';
import { customerRoutes } from '@nockwright/contract/customers';
import { loadPaper } from '../src/documents';
import { TestDesk } from './test-desk';
import { said } from './said';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
});
afterEach(() => desk.close());

const read = () => desk.call('mona', firmRoutes.readFirm);
/** What a firm's form sends. */
const wishOf = ({ series: _series, currencySettled: _settled, ...details }: Firm) => details;

test('the manager edits the firm; papers of before keep what they said, those after say the new', async () => {
  await desk.stockUp('JAR', '20');
  const first = await desk.order([['JAR', '2']]);
  const firm = await read();
  const edited = await desk.call('mona', firmRoutes.setFirm, {
    body: { ...wishOf(firm), name: 'Honey & Sons', street: '2 Hill', town: 'Combe', footer: 'Registered in Combe' },
  });
  expect(edited).toMatchObject({ name: 'Honey & Sons', version: firm.version + 1 });
  const second = await desk.order([['JAR', '2']]);
  const firmOn = async (paper: number) => (await loadPaper(desk.db, paper)).told.firm;
  expect(await firmOn(first.papers[0]!.id)).toMatchObject({ name: 'Marrowby Apiary Supply', street: '' });
  expect(await firmOn(second.papers[0]!.id)).toMatchObject({ name: 'Honey & Sons', street: '2 Hill', footer: 'Registered in Combe' });
  // A paper of before the firm was kept with it says the firm as it is now.
  await desk.db
    .updateTable('document')
    .set({ content: JSON.stringify({ order: first, day: '2027-03-09' }) })
    .where('id', '=', first.papers[0]!.id)
    .execute();
  expect(await firmOn(first.papers[0]!.id)).toMatchObject({ name: 'Honey & Sons' });
  expect((await desk.call('ida', accessRoutes.whoAmI)).firm).toEqual({ name: 'Honey & Sons', currency: 'EUR' });
  const [latest] = await desk.call('mona', firmRoutes.firmHistory);
  expect([latest!.who, said(latest!), latest!.before]).toEqual([
    'mona',
    'edited the firm: name, street, town, foot of papers',
    { name: 'Marrowby Apiary Supply', street: '', town: '', footer: '' },
  ]);
});

test('two managers: the second is told, and nothing of the first is lost', async () => {
  const firm = await read();
  await desk.call('mona', firmRoutes.setFirm, { body: { ...wishOf(firm), phone: '01632 960111' } });
  const { status, problem } = await desk.send('mona', firmRoutes.setFirm, { body: { ...wishOf(firm), phone: '01632 960222' } });
  expect([status, problem.detail]).toEqual([409, expect.stringContaining('The firm was changed by someone else')]);
  expect((await read()).phone).toBe('01632 960111');
});

test('only the manager sees or changes it', async () => {
  for (const login of ['ida', 'wil', 'fay'] as const) expect((await desk.send(login, firmRoutes.readFirm)).status).toBe(403);
});

test.each([
  ['name', ' ', 'body.name'],
  ['email', 'no address', 'body.email'],
  ['country', 'Britain', 'body.country'],
  ['country', 'g1', 'body.country'],
  ['code', 'small letters', 'body.code'],
  ['currency', 'EURO', 'body.currency'],
  ['currency', 'XQZ', 'body.currency'],
  ['currency', 'JPY', 'body.currency'],
])('%s cannot be %s', async (field, value, at) => {
  const { status, problem } = await desk.send('mona', firmRoutes.setFirm, { body: { ...wishOf(await read()), [field]: value } });
  expect([status, problem.errors?.[0]?.field]).toEqual([422, at]);
});

test('the currency is chosen before the first order, and stands from then on', async () => {
  const before = await read();
  expect(before.currencySettled).toBe(false);
  await desk.call('mona', firmRoutes.setFirm, { body: { ...wishOf(before), currency: 'GBP' } });
  await desk.stockUp('JAR', '5');
  const order = await desk.order([['JAR', '2']]);
  expect(order.currency).toBe('GBP');
  const customer = await desk.call('ida', customerRoutes.readCustomer, { params: { customer: order.customer.id } });
  expect(customer.credit!.openOrders).toBe(order.amount);
  const after = await read();
  expect(after.currencySettled).toBe(true);
  const refused = await desk.send('mona', firmRoutes.setFirm, { body: { ...wishOf(after), currency: 'EUR' } });
  expect(refused.problem.detail).toContain('amounts of orders, purchases or invoices are in GBP');
});

test('a series goes on where it is told to, and never gives a number twice', async () => {
  await desk.stockUp('JAR', '20');
  const first = await desk.order([['JAR', '2']]);
  expect(first.number).toBe('20001');
  const set = async (prefix: string, next: number) =>
    desk.send('mona', firmRoutes.setSeries, { body: { version: (await read()).version, name: 'order', prefix, next } });
  expect((await set('', 20001)).problem.detail).toContain('20001 is given already: expected 20002 or more, got 20001');
  expect((await set('B2', 1)).problem.errors).toMatchObject([{ field: 'body.prefix' }]);
  // Quotes are kept with orders.
  expect((await set('Q', 1)).problem.detail).toContain('Q is that of the series quote already');
  expect((await set('B-', 1)).status).toBe(200);
  expect((await desk.order([['JAR', '2']])).number).toBe('B-1');
  expect((await set('', 20001)).status).toBe(422);
  expect((await set('', 30000)).status).toBe(200);
  expect((await desk.order([['JAR', '2']])).number).toBe('30000');
  const unknown = await desk.send('mona', firmRoutes.setSeries, { body: { version: (await read()).version, name: 'pages', prefix: '', next: 1 } });
  expect(unknown.problem.errors).toMatchObject([{ field: 'body.name' }]);
});

test('a series moved while orders are released: every number is given once', async () => {
  await desk.stockUp('JAR', '200');
  const drafts = await Promise.all(Array.from({ length: 8 }, () => desk.draft([['JAR', '1']])));
  const { version } = await read();
  const [moved, ...orders] = await Promise.all([
    desk.send('mona', firmRoutes.setSeries, { body: { version, name: 'order', prefix: '', next: 20100 } }),
    ...drafts.map((draft) => desk.release(draft)),
  ]);
  expect(moved.status).toBe(200);
  expect(new Set(orders.map((order) => order.number)).size).toBe(8);
});
