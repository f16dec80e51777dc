import { mkdir, mkdtemp, readdir, readFile, rm, symlink, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { supplyRoutes, type Habit, type PurchaseView } from '@nockwright/contract/supply';
import { divide, times } from '@nockwright/core/money';
import { kindOfAnswer, misplacedElements, readOrder, writeDespatchAdvice, writeOrderResponse, type OrderResponseMessage } from '@nockwright/core/exchange';
import { mailRoutes } from '@nockwright/contract/mail';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { ExchangeFolder, SupplierStandIn } from '../src/supply/exchange';
import { brokenInvariants } from './invariants';
import { TestDesk, TODAY } from './test-desk';
import { said, saysOf } from './said';

let desk: TestDesk;
let root: string;
let folder: ExchangeFolder;
beforeEach(async () => {
  desk = await TestDesk.open();
  root = await mkdtemp(join(tmpdir(), 'exchange-'));
  folder = new ExchangeFolder(desk.services, root);
  await desk.db.updateTable('supplier').set({ exchanges: true, email: 'orders@sup.example' }).where('code', '=', 'SUP').execute();
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
  await rm(root, { recursive: true, force: true });
});

/** The stand-in's answers up to `steps` whiles after it got its orders. */
async function answers(habit: Habit, steps: number) {
  let now = 0;
  const standIn = new SupplierStandIn(
    root,
    () => TODAY,
    () => now,
  );
  const settings = { seconds: 10, habits: { SUP: habit } };
  await folder.round();
  await standIn.round(settings);
  now = steps * 10_000;
  await standIn.round(settings);
  await folder.round();
}

const files = (name: string) => readdir(join(root, 'SUP', name));
/** The messages of suppliers, each with what it comes to in words. */
async function messages(which: 'look' | 'all' = 'look') {
  const { rows, ...rest } = await desk.call('ida', supplyRoutes.listMessages, { query: { which } });
  return { ...rest, rows: rows.map((row) => ({ ...row, says: saysOf(row) })) };
}

/** An answer of the supplier, put into the folder by hand as a partner would. */
async function put(purchase: PurchaseView, number: string, lines: readonly Partial<OrderResponseMessage['lines'][number]>[], name = `${number}.xml`) {
  const message: OrderResponseMessage = {
    number,
    issueDay: TODAY,
    order: purchase.number,
    note: '',
    lines: lines.map((line) => ({ id: '1', answer: 'changed', quantity: null, day: null, price: null, note: '', instead: null, ...line })),
  };
  await putText(
    name,
    writeOrderResponse(message, { name: 'Supplier' }, { name: 'Us' }, () => 'EA', 'EUR'),
  );
}

async function putText(name: string, text: string) {
  await folder.round();
  const path = join(root, 'SUP', 'in', name);
  await writeFile(path, text);
  // It has been left alone for long enough to be whole.
  await utimes(path, new Date(0), new Date(0));
}

test('an order goes out by mail with its paper and as a UBL file, and is told only when it is sent', async () => {
  const draft = await desk.call('ida', supplyRoutes.createPurchase, {
    body: { supplier: 'SUP', warehouse: 'MAR', note: 'Ring before you come', lines: [{ item: 'LID', quantity: '40', expectedDay: '2027-03-16' }] },
  });
  await folder.round();
  expect(await files('out')).toEqual([]);
  const sent = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: draft.id }, body: { version: draft.version } });
  expect(sent).toMatchObject({
    papers: [{ id: expect.any(Number) }],
    mails: [{ recipients: ['orders@sup.example'], state: 'waiting', subject: `Purchase order ${sent.number}, Marrowby Apiary Supply` }],
    messages: [{ direction: 'out', kind: 'order', number: sent.number, state: 'waiting' }],
  });
  const paper = await desk.request('ida', 'GET', `/api/papers/${sent.papers[0]!.id}`);
  expect(
    Buffer.from(await paper.arrayBuffer())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  const mail = await desk.call('ida', mailRoutes.listMail, { query: { search: sent.number } });
  expect(mail.rows).toMatchObject([{ about: { kind: 'purchase', id: sent.id, label: sent.number } }]);

  await folder.round();
  expect(await files('out')).toEqual([`order-${sent.number}.xml`]);
  const xml = await readFile(join(root, 'SUP', 'out', `order-${sent.number}.xml`), 'utf8');
  expect(misplacedElements(xml)).toEqual([]);
  expect(readOrder(xml)).toMatchObject({
    ok: true,
    document: { number: sent.number, note: 'Ring before you come', lines: [{ id: '1', quantity: '40', day: '2027-03-16', item: { buyersCode: 'LID' } }] },
  });
  expect((await desk.readPurchase(sent.id)).messages).toMatchObject([{ state: 'written' }]);
  const [first] = await desk.call('ida', supplyRoutes.purchaseHistory, { params: { purchase: sent.id } });
  expect(said(first!)).toBe(`sent purchase ${sent.number} by mail and as a file`);
});

test('as asked: acknowledged without work for anybody, announced when it leaves, and taken in by the notice', async () => {
  const { id, number } = await desk.purchase('LID', '40', '2027-03-16');
  await answers('as_asked', 1);
  expect(await desk.readPurchase(id)).toMatchObject({ state: 'acknowledged', notices: [], lines: [{ open: '40', expectedDay: '2027-03-16' }] });
  await answers('as_asked', 9);
  const announced = await desk.readPurchase(id);
  expect(announced.notices).toMatchObject([{ number: `${number}-D1`, lines: [{ line: announced.lines[0]!.id, quantity: '40', lot: `${number}-1` }] }]);
  expect((await messages()).rows).toEqual([]);
  expect(await files('in')).toEqual([]);
  const receipt = await desk.call('wil', supplyRoutes.receive, {
    params: { purchase: id },
    body: { version: announced.version, notice: announced.notices[0]!.id, lines: [{ line: announced.lines[0]!.id, quantity: '40' }] },
  });
  expect(receipt.purchase).toMatchObject({ state: 'closed', notices: [] });
});

test('it slips after it was agreed: the day holds at once, whom it hurts is named, and it comes up until somebody has looked', async () => {
  const draft = await desk.draft([['LID', '25']]);
  const order = await desk.release(await desk.take(draft, 1, { kind: 'special_order', supplier: 'SUP', quantity: '25' }));
  const purchase = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: purchase.id }, body: { version: purchase.version } });
  const before = (await desk.readPurchase(purchase.id)).lines[0]!.expectedDay;
  await answers('slips', 2);
  const after = await desk.readPurchase(purchase.id);
  expect(after.lines[0]!.expectedDay > before).toBe(true);
  expect((await desk.read(order)).lines[0]!.schedule.map((entry) => entry.day)).toEqual(order.lines[0]!.schedule.map((entry) => entry.day));
  const { rows, toLook } = await messages();
  expect([rows.length, toLook]).toEqual([1, 1]);
  expect(rows[0]!.hurts).toEqual([order.lines[0]!.id]);
  expect(rows[0]!.says).toEqual([
    'They write: “our line stands still for a fortnight”',
    expect.stringMatching(/^Line 1, LID: now expected .*, was .*$/),
    expect.stringMatching(new RegExp(`^25 LID promised to order ${order.number} for .* are at risk$`)),
  ]);
  expect(await desk.call('ida', supplyRoutes.listPurchases, { query: { state: 'look' } })).toMatchObject([{ id: purchase.id, toLook: true }]);
  const fay = await desk.send('fay', supplyRoutes.lookedAt, { params: { message: rows[0]!.id } });
  expect(fay.status).toBe(403);
  expect(await desk.call('ida', supplyRoutes.lookedAt, { params: { message: rows[0]!.id } })).toMatchObject({ needsLook: false });
  expect((await desk.send('ida', supplyRoutes.lookedAt, { params: { message: rows[0]!.id } })).status).toBe(409);
  expect((await messages()).toLook).toBe(0);
});

test.each<[Habit, object, string]>([
  ['later', { open: '40', expectedDay: '2027-03-21' }, 'now expected'],
  ['fewer', { open: '20', quantity: '40', closed: '20' }, '20 still expected, was 40'],
  ['dearer', { cost: expect.not.stringMatching(/^0.1$/) }, 'each, was'],
  ['refuses', { open: '0', closed: '40' }, 'they do not take the 40'],
])('an answer of the kind “%s” changes the purchase and comes up', async (habit, line, says) => {
  const { id } = await desk.purchase('LID', '40', '2027-03-16');
  await answers(habit, 1);
  expect((await desk.readPurchase(id)).lines[0]).toMatchObject(line);
  expect((await messages()).rows[0]!.says.join('\n')).toContain(says);
});

/** A drop shipment of 100 boxes that is sent. */
async function dropShipment() {
  const draft = await desk.draft([['BOX', '100']]);
  const order = await desk.release(await desk.take(draft, 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '100' }));
  const made = await desk.readPurchase(order.lines[0]!.routes[0]!.document!.id);
  const purchase = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: made.id }, body: { version: made.version } });
  return { order, purchase };
}

const calls = async () => (await desk.call('ida', worklistRoutes.listCalls)).calls;

test('an answer with another cost says what it makes of the margin of whoever is promised the goods', async () => {
  const { order, purchase } = await dropShipment();
  const cost = purchase.lines[0]!.cost!;
  const dearer = divide(times(cost, '105'), '100', 4);
  await put(purchase, 'C1', [{ price: dearer }]);
  await folder.round();
  const [message] = (await messages()).rows;
  expect(message!.hurts).toEqual([]);
  expect(message!.says).toEqual([
    `Line 1, BOX: ${dearer} each, was ${cost}`,
    expect.stringMatching(`^margin on 100 of order ${order.number}/1: \\S+ %, was \\S+ %$`),
  ]);
  const after = (await desk.read(order)).lines[0]!;
  expect(message!.says[1]).toContain(`: ${after.marginPercent} %, was ${order.lines[0]!.marginPercent} %`);
});

test('an answer that moves a drop shipment names whose it is; they stand as told until somebody decides', async () => {
  const { order, purchase } = await dropShipment();
  await put(purchase, 'D1', [{ day: '2027-03-30' }]);
  await folder.round();
  const [message] = (await messages()).rows;
  expect(message).toMatchObject({
    hurts: [order.lines[0]!.id],
    says: [expect.any(String), `100 BOX promised to order ${order.number} for Tue 16 Mar are at risk`],
  });
  expect((await desk.read(order)).lines[0]!.schedule).toMatchObject([{ day: '2027-03-16', arrives: '2027-03-30' }]);
  expect(await calls()).toEqual([]);
  await put(purchase, 'D2', [{ day: '2027-03-31' }]);
  await folder.round();
  // At risk it was before.
  expect((await messages()).rows[0]).toMatchObject({ hurts: [], says: [expect.stringContaining('now expected Wed 31 Mar')] });
});

test.each([
  ['fewer', { quantity: '60' }, '40'],
  ['refused', { answer: 'refused' as const }, '100'],
])('an answer of %s names whose goods are lost, and they are to be called', async (_, answer, lost) => {
  const { order, purchase } = await dropShipment();
  const stocked = await desk.purchase('LID', '40', '2027-03-12');
  const waits = await desk.order([['LID', '40']]);
  await put(purchase, 'D1', [answer]);
  await put(await desk.readPurchase(stocked.id), 'D2', [{ answer: 'refused' }]);
  await folder.round();
  const rows = (await messages()).rows.toReversed();
  expect(rows.map((row) => [row.hurts, row.says.at(-1)])).toEqual([
    [[order.lines[0]!.id], `${lost} BOX promised to order ${order.number} have lost their supply and wait again`],
    [[waits.lines[0]!.id], `40 LID promised to order ${waits.number} have lost their supply and wait again`],
  ]);
  expect((await calls()).map((call) => call.number)).toEqual([order.number, waits.number]);
  expect((await desk.read(order)).lines[0]).toMatchObject({ waiting: lost });
});

test('a drop shipment is confirmed by the notice: shipped to the customer with its tracking, and our stock never moved', async () => {
  const before = await desk.stock('BOX');
  const { order, purchase } = await dropShipment();
  await answers('as_asked', 2);
  expect((await desk.read(order)).lines[0]).toMatchObject({ shipped: '100' });
  expect(await desk.readPurchase(purchase.id)).toMatchObject({ state: 'closed', lines: [{ received: '100' }] });
  const shipment = await desk.db.selectFrom('shipment').selectAll().where('order_id', '=', order.id).executeTakeFirstOrThrow();
  expect(shipment).toMatchObject({ warehouse: null, tracking: `TRK${purchase.number}` });
  expect(await desk.stock('BOX')).toEqual(before);
  const moves = await desk.db.selectFrom('stock_movement').select('id').where('item', '=', 'BOX').where('reference', '=', purchase.number).execute();
  expect(moves).toEqual([]);
});

test('shipped short: the notice says so, and what did not leave is still awaited', async () => {
  const { id } = await desk.purchase('LID', '40', '2027-03-16');
  await answers('short_ships', 2);
  const announced = await desk.readPurchase(id);
  expect(announced.notices[0]!.lines).toMatchObject([{ quantity: '32' }]);
  expect((await messages()).rows[0]!.says).toEqual(['Line 1, LID: 32 have left, 40 were expected']);
  const receipt = await desk.call('wil', supplyRoutes.receive, {
    params: { purchase: id },
    body: { version: announced.version, notice: announced.notices[0]!.id, lines: [{ line: announced.lines[0]!.id, quantity: '32' }] },
  });
  expect(receipt.purchase).toMatchObject({ state: 'acknowledged', notices: [], lines: [{ open: '8' }] });
});

test('what cannot be acted on is refused whole, with why, and comes up; the same message twice does nothing', async () => {
  const { id, number } = await desk.purchase('LID', '40', '2027-03-16');
  const purchase = await desk.readPurchase(id);
  await put(purchase, 'A1', [{ day: '2027-03-20' }, { id: '7', day: '2027-03-21' }]);
  await put({ ...purchase, number: 'P999' }, 'A2', [{ day: '2027-03-20' }]);
  await putText('broken.xml', '<Order><unfinished>');
  await putText('grows.xml', '<!DOCTYPE x [<!ENTITY a "b">]><OrderResponse/>');
  // Once, not in every round.
  await putText('nested.xml', `${'<a>'.repeat(120_000)}${'</a>'.repeat(120_000)}`);
  await writeFile(join(root, 'secret.txt'), 'not for you');
  await symlink(join(root, 'secret.txt'), join(root, 'SUP', 'in', 'link.xml'));
  await folder.round();
  // Nothing of a refused answer holds, its first line neither.
  expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ expectedDay: '2027-03-16' });
  const { rows } = await messages();
  expect(rows.map((row) => [row.kind, row.state, row.purchase?.number ?? null, row.says[0]])).toEqual([
    ['unreadable', 'refused', null, expect.stringContaining('deeper than any document')],
    ['unreadable', 'refused', null, expect.stringContaining('document type')],
    ['unreadable', 'refused', null, expect.stringMatching(/^line 1: /)],
    ['order_response', 'refused', null, 'SUP has no purchase order P999 of ours.'],
    ['order_response', 'refused', number, `Line 7: purchase ${number} has no such line.`],
  ]);
  expect((await files('refused')).filter((name) => name.endsWith('.txt'))).toHaveLength(5);
  expect(await readFile(join(root, 'SUP', 'refused', 'A1.xml.txt'), 'utf8')).toBe(`Line 7: purchase ${number} has no such line.\n`);
  expect(await files('in')).toEqual(['link.xml']);

  await put(purchase, 'A3', [{ day: '2027-03-22' }]);
  await folder.round();
  await put(purchase, 'A4', [{ day: '2027-03-23' }]);
  await folder.round();
  await put(purchase, 'A3', [{ day: '2027-03-22' }], 'again.xml');
  await folder.round();
  expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ expectedDay: '2027-03-23' });
});

/** A response of the supplier with a header code and raw lines. */
async function putAnswer(purchase: PurchaseView, number: string, code: string, lines: readonly string[] = []) {
  const cac = 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2';
  const cbc = 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2';
  await putText(
    `${number}.xml`,
    `<OrderResponse xmlns="urn:oasis:names:specification:ubl:schema:xsd:OrderResponse-2" xmlns:cac="${cac}" xmlns:cbc="${cbc}">
<cbc:ID>${number}</cbc:ID><cbc:IssueDate>${TODAY}</cbc:IssueDate>${code ? `<cbc:OrderResponseCode>${code}</cbc:OrderResponseCode>` : ''}
<cac:OrderReference><cbc:ID>${purchase.number}</cbc:ID></cac:OrderReference>
<cac:SellerSupplierParty><cac:Party/></cac:SellerSupplierParty><cac:BuyerCustomerParty><cac:Party/></cac:BuyerCustomerParty>
${lines.join('')}</OrderResponse>`,
  );
  await folder.round();
}
const answered = (figures: string) =>
  `<cac:OrderLine><cac:LineItem><cbc:ID>1</cbc:ID>${figures}<cac:Item/></cac:LineItem><cac:OrderLineReference><cbc:LineID>1</cbc:LineID></cac:OrderLineReference></cac:OrderLine>`;

describe('what an answer says of the order as a whole', () => {
  test('refused without a line: nothing of it comes, and whose goods are lost is named', async () => {
    const { id } = await desk.purchase('LID', '40', '2027-03-12');
    const waits = await desk.order([['LID', '40']]);
    await putAnswer(await desk.readPurchase(id), 'W1', 'RE');
    expect(await desk.readPurchase(id)).toMatchObject({ lines: [{ open: '0', closed: '40' }] });
    const [message] = (await messages()).rows;
    expect(message!.says).toEqual(['Line 1, LID: they do not take the 40', `40 LID promised to order ${waits.number} have lost their supply and wait again`]);
  });

  test('only received: nothing is agreed, and nobody has work', async () => {
    const { id } = await desk.purchase('LID', '40', '2027-03-12');
    await putAnswer(await desk.readPurchase(id), 'W2', 'AB');
    expect(await desk.readPurchase(id)).toMatchObject({ state: 'sent' });
    expect((await messages()).rows).toEqual([]);
  });

  test('on conditions that it does not name: somebody asks', async () => {
    const { id } = await desk.purchase('LID', '40', '2027-03-12');
    await putAnswer(await desk.readPurchase(id), 'W3', 'CA');
    expect(await desk.readPurchase(id)).toMatchObject({ state: 'sent' });
    expect((await messages()).rows[0]!.says).toEqual(['They agree on conditions that the file does not name: ask them']);
  });

  test.each([
    ['an unknown code', 'ZZ', [], 'OrderResponse: OrderResponseCode ZZ, expected one of AB, AC, AD, AP, CA, RE'],
    ['neither yes nor no', '', [], 'OrderResponse: it says neither yes nor no: it has no OrderResponseCode and no line'],
    [
      'a refused order with a taken line',
      'RE',
      [answered('<cbc:LineStatusCode>5</cbc:LineStatusCode>')],
      'OrderLine 1: LineStatusCode 5 takes the line, OrderResponseCode RE refuses the order',
    ],
  ])('%s is refused', async (_, code, lines, fault) => {
    const { id } = await desk.purchase('LID', '40', '2027-03-12');
    await putAnswer(await desk.readPurchase(id), 'W4', code, lines);
    expect((await messages()).rows[0]).toMatchObject({ state: 'refused', says: [fault] });
    expect(await desk.readPurchase(id)).toMatchObject({ state: 'sent', lines: [{ open: '40' }] });
  });
});

describe('the units of an answer', () => {
  const twoBoxes = answered(
    '<cbc:LineStatusCode>3</cbc:LineStatusCode><cbc:Quantity unitCode="XBX">2</cbc:Quantity><cac:Price><cbc:PriceAmount currencyID="EUR">6.6</cbc:PriceAmount><cbc:BaseQuantity unitCode="XBX">1</cbc:BaseQuantity></cac:Price>',
  );

  test('that we know no ratio of are refused, not read as each', async () => {
    const { id } = await desk.purchase('LID', '40', '2027-03-12');
    await putAnswer(await desk.readPurchase(id), 'U1', 'CA', [twoBoxes]);
    expect((await messages()).rows[0]).toMatchObject({
      state: 'refused',
      says: ['Line 1, LID: the quantity is in XBX, and we do not know how many EA that is of theirs.'],
    });
    expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ open: '40' });
  });

  test('are converted by what the supplier’s own hold, quantity and price', async () => {
    const page = await desk.call('ida', supplyRoutes.readSupplier, { params: { supplier: 'SUP' } });
    const { item, cost, minimum, multiple } = page.items.find((row) => row.item === 'LID')!;
    await desk.call('ida', supplyRoutes.setSupplierItem, {
      params: { supplier: 'SUP', item },
      body: { version: page.version, cost, minimum, multiple, units: [{ unit: 'XBX', quantity: '20' }] },
    });
    const { id } = await desk.purchase('LID', '50', '2027-03-12');
    await putAnswer(await desk.readPurchase(id), 'U2', 'CA', [twoBoxes]);
    expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ open: '40', closed: '10', cost: '0.33' });
  });
});

describe('an answer beyond what may hold by itself', () => {
  const decide = (login: 'ida' | 'wil' | 'mona', message: number, take: boolean) =>
    desk.send(login, supplyRoutes.decideAnswer, { params: { message }, body: { take } });

  test.each<[string, Partial<OrderResponseMessage['lines'][number]>, RegExp]>([
    ['more', { quantity: '55' }, /^Line 1, LID: they would send 55, 15 more than was ordered$/],
    ['much dearer', { price: '0.38' }, /^Line 1, LID: they ask 0.38 each instead of 0.33, more than 10 % apart$/],
    ['much later', { day: '2027-04-01' }, /^Line 1, LID: they name Thu 1 Apr instead of Tue 16 Mar, more than 14 days apart$/],
  ])('%s waits for a person, who takes it or leaves it', async (_, answer, says) => {
    const { id } = await desk.purchase('LID', '40', '2027-03-16');
    const before = await desk.readPurchase(id);
    await put(before, 'T1', [answer]);
    await folder.round();
    const [held] = (await messages()).rows;
    expect(held).toMatchObject({ state: 'held', needsLook: true, says: [expect.stringMatching(says)] });
    expect(await desk.readPurchase(id)).toMatchObject({ state: 'sent', lines: before.lines });
    expect((await desk.send('ida', supplyRoutes.lookedAt, { params: { message: held!.id } })).status).toBe(409);
    expect((await decide('wil', held!.id, true)).status).toBe(403);
    // The same message again changes nothing.
    await put(before, 'T1', [answer], 'again.xml');
    await folder.round();
    expect((await messages()).rows).toHaveLength(1);
    // Another cost by much is the manager's, here as everywhere.
    expect((await decide(answer.price ? 'mona' : 'ida', held!.id, true)).reply).toMatchObject({ state: 'taken', needsLook: false });
    const { quantity, price, day } = answer;
    expect((await desk.readPurchase(id)).lines[0]).toMatchObject({
      ...(quantity ? { open: quantity } : {}),
      ...(price ? { cost: price } : {}),
      ...(day ? { expectedDay: day } : {}),
    });
    expect((await decide('ida', held!.id, false)).status).toBe(409);
  });

  test('that is left changes nothing', async () => {
    const { id } = await desk.purchase('LID', '40', '2027-03-16');
    await put(await desk.readPurchase(id), 'T2', [{ price: '0.2' }]);
    await folder.round();
    const [held] = (await messages()).rows;
    expect((await decide('ida', held!.id, false)).reply).toMatchObject({ state: 'refused', needsLook: false });
    expect(await desk.readPurchase(id)).toMatchObject({ state: 'sent', lines: [{ cost: '0.33', open: '40' }] });
  });
});

test('what leaves although it was cancelled is told, and is work', async () => {
  const { id } = await desk.purchase('LID', '40', '2027-03-16');
  const { version } = await desk.readPurchase(id);
  const cancelled = await desk.call('ida', supplyRoutes.cancelPurchase, { params: { purchase: id }, body: { version, by: 'us', reason: 'ordered twice' } });
  const { purchase } = await dropShipment();
  const gone = await desk.call('ida', supplyRoutes.cancelPurchase, {
    params: { purchase: purchase.id },
    body: { version: purchase.version, by: 'us', reason: 'ordered twice' },
  });
  const advice = (order: string, number: string, quantity: string) =>
    writeDespatchAdvice(
      { number, issueDay: TODAY, order, tracking: 'T9', lines: [{ orderLine: '1', quantity, lot: '', expires: null }] },
      { name: 'Supplier' },
      { name: 'Us' },
      () => 'EA',
    );
  await putText('x1.xml', advice(cancelled.number, 'X1', '40'));
  await putText('x2.xml', advice(gone.number, 'X2', '100'));
  await folder.round();
  const rows = (await messages()).rows.filter((row) => row.kind === 'despatch_advice');
  expect(rows.map((row) => [row.state, row.says.at(-1)])).toEqual([
    ['taken', expect.stringContaining('who do not expect it: call them, and agree with the supplier who takes it back')],
    ['taken', 'Nothing more was expected: receive what comes, or have it sent back'],
  ]);
});

test('a cost that margins are judged by is changed by much only by the manager', async () => {
  const set = async (login: 'ida' | 'mona', cost: string, breaks?: { from: string; cost: string }[]) => {
    const page = await desk.call('ida', supplyRoutes.readSupplier, { params: { supplier: 'SUP' } });
    const { item, minimum, multiple } = page.items.find((row) => row.item === 'LID')!;
    const body = { version: page.version, cost, minimum, multiple, ...(breaks ? { breaks } : {}) };
    return desk.send(login, supplyRoutes.setSupplierItem, { params: { supplier: 'SUP', item }, body });
  };
  const refused = await set('ida', '0.05');
  expect([refused.status, refused.problem.detail]).toEqual([
    403,
    '0.05 is more than 10 % from the 0.33 that was cleared, and margins are judged by it: the manager enters it.',
  ]);
  expect((await set('ida', '0.33', [{ from: '10', cost: '0.02' }])).status).toBe(403);
  expect((await set('ida', '0.35')).status).toBe(200);
  // Many small steps come no further than one.
  expect((await set('ida', '0.38')).status).toBe(403);
  expect((await set('ida', '0.30')).status).toBe(200);
  expect((await set('ida', '0.28')).status).toBe(403);
  expect((await set('mona', '0.05')).status).toBe(200);
  // Neither is it when the item is dropped and added anew.
  await desk.call('ida', supplyRoutes.dropSupplierItem, { params: { supplier: 'SUP', item: 'LID' } });
  const { version } = await desk.call('ida', supplyRoutes.readSupplier, { params: { supplier: 'SUP' } });
  const add = (login: 'ida' | 'mona', cost: string) =>
    desk.send(login, supplyRoutes.setSupplierItem, { params: { supplier: 'SUP', item: 'LID' }, body: { version, cost, minimum: '1', multiple: '1' } });
  expect((await add('ida', '0.01')).status).toBe(403);
  expect((await add('mona', '0.01')).status).toBe(200);
});

test('nor on the lines of a purchase, nor by taking an answer', async () => {
  const create = (login: 'ida' | 'mona', cost: string) =>
    desk.send(login, supplyRoutes.createPurchase, { body: { supplier: 'SUP', warehouse: 'MAR', lines: [{ item: 'LID', quantity: '40', cost }] } });
  const refused = await create('ida', '0.2');
  expect([refused.status, refused.problem.errors?.[0]?.field]).toEqual([403, 'body.lines[0].cost']);
  const draft = (await create('ida', '0.31')).reply;
  const change = (login: 'ida' | 'mona', cost: string) =>
    desk.send(login, supplyRoutes.changeDraft, {
      params: { purchase: draft.id },
      body: { version: draft.version, lines: [{ id: draft.lines[0]!.id, item: 'LID', quantity: '40', cost }] },
    });
  expect((await change('ida', '0.2')).status).toBe(403);
  expect((await change('ida', '0.30')).status).toBe(200);
  const { id, line } = await desk.purchase('LID', '40', '2027-03-16');
  const reschedule = async (login: 'ida' | 'mona', cost: string) =>
    desk.send(login, supplyRoutes.reschedule, { params: { purchase: id, line }, body: { version: (await desk.readPurchase(id)).version, cost } });
  expect((await reschedule('ida', '0.50')).status).toBe(403);
  await put(await desk.readPurchase(id), 'S1', [{ price: '0.36' }]);
  await folder.round();
  expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ cost: '0.36' });
  await put(await desk.readPurchase(id), 'S2', [{ price: '0.39' }]);
  await folder.round();
  const [held] = (await messages()).rows;
  expect(held).toMatchObject({ state: 'held', says: ['Line 1, LID: they ask 0.39 each instead of 0.36, more than 10 % from the 0.33 that was cleared'] });
  const decide = (login: 'ida' | 'mona') => desk.send(login, supplyRoutes.decideAnswer, { params: { message: held!.id }, body: { take: true } });
  expect((await decide('ida')).status).toBe(403);
  expect((await messages()).rows[0]).toMatchObject({ state: 'held' });
  expect((await decide('mona')).status).toBe(200);
  expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ cost: '0.39' });
});

test('one supplier’s trouble does not stop the others: a folder nobody can name, an order file that is none', async () => {
  const { id } = await desk.purchase('LID', '40', '2027-03-16');
  await mkdir(join(root, '%E0%A4'), { recursive: true });
  await mkdir(join(root, 'AAA', 'stand-in'), { recursive: true });
  await writeFile(join(root, 'AAA', 'stand-in', 'P1.json'), 'no json');
  await folder.round();
  const standIn = new SupplierStandIn(root, () => TODAY);
  await expect(standIn.round({ seconds: 0, habits: {} })).rejects.toThrow();
  await expect(standIn.round({ seconds: 0, habits: {} })).rejects.toThrow();
  await folder.round();
  expect(await desk.readPurchase(id)).toMatchObject({ state: 'acknowledged' });
});

test('two servers at one folder act on each file once', async () => {
  const { id } = await desk.purchase('LID', '40', '2027-03-16');
  const purchase = await desk.readPurchase(id);
  await put(purchase, 'B1', [{ quantity: '30' }]);
  await Promise.all([folder.round(), new ExchangeFolder(desk.services, root).round()]);
  await folder.round();
  expect((await desk.readPurchase(id)).lines[0]).toMatchObject({ open: '30', closed: '10' });
  expect((await messages('all')).rows.filter((row) => row.direction === 'in')).toHaveLength(1);
});

test('cancelled by us: the supplier is told by mail and by file, and the stand-in says nothing more', async () => {
  const { id, number } = await desk.purchase('LID', '40', '2027-03-16');
  await folder.round();
  const { version } = await desk.readPurchase(id);
  await desk.call('ida', supplyRoutes.cancelPurchase, { params: { purchase: id }, body: { version, by: 'us', reason: 'ordered twice' } });
  await answers('as_asked', 9);
  const cancelled = await desk.readPurchase(id);
  expect(cancelled).toMatchObject({ state: 'cancelled', notices: [] });
  expect(cancelled.mails[0]!.subject).toBe(`Purchase order ${number} is cancelled, Marrowby Apiary Supply`);
  expect(cancelled.messages.map((row) => [row.direction, row.kind])).toEqual([
    ['out', 'cancellation'],
    ['out', 'order'],
  ]);
});

test('files go back to whoever asks for them as they were', async () => {
  const { id } = await desk.purchase('LID', '40', '2027-03-16');
  const [message] = (await desk.readPurchase(id)).messages;
  const reply = await desk.request('ida', 'GET', `/api/messages/${message!.id}/file`);
  expect(reply.headers.get('Content-Disposition')).toContain('attachment');
  const xml = await reply.text();
  expect(kindOfAnswer(xml).ok).toBe(false);
  expect(readOrder(xml).ok).toBe(true);
  expect((await desk.request(null, 'GET', `/api/messages/${message!.id}/file`)).status).toBe(401);
});

test('how the stand-in answers is set by the manager, who sees what each supplier does', async () => {
  const view = await desk.call('mona', supplyRoutes.readStandIn);
  expect(view.suppliers.find((row) => row.code === 'SUP')).toMatchObject({ exchanges: true, habit: 'as_asked' });
  const body = { seconds: 5, suppliers: [{ code: 'SUP', exchanges: false, habit: 'slips' as const }] };
  expect((await desk.send('ida', supplyRoutes.setStandIn, { body })).status).toBe(403);
  expect(await desk.call('mona', supplyRoutes.setStandIn, { body })).toMatchObject({ seconds: 5 });
  const wrong = await desk.send('mona', supplyRoutes.setStandIn, { body: { ...body, suppliers: [{ code: 'NOPE', exchanges: true, habit: 'slips' }] } });
  expect(wrong.problem.errors?.[0]?.field).toBe('body.suppliers[0].code');
  await desk.purchase('LID', '40', '2027-03-16');
  expect((await messages('all')).rows).toEqual([]);
});
