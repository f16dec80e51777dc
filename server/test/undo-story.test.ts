import { exchangeRoutes } from '@nockwright/contract/exchange';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { supplyRoutes } from '@nockwright/contract/supply';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { promiseBook, readOrderBook } from '@nockwright/core/promise';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

/** A released order of one line that waits for what it is not promised. */
async function released(item: string, quantity: string): Promise<OrderView> {
  const draft = await desk.draft([[item, quantity]]);
  const { uncovered } = draft.lines[0]!;
  return desk.release(Number(uncovered) > 0 ? await desk.route(draft, 1, 'backorder', uncovered) : draft);
}

/** Whose kept promises the promise computation finds late or without goods, on the book as it is exported. */
async function atRisk() {
  const read = readOrderBook(JSON.stringify(await desk.call('ida', exchangeRoutes.orderBook)));
  if (!read.ok) throw new Error(read.faults.map((fault) => fault.path).join(', '));
  return promiseBook(read.book).atRisk;
}

const calls = async () => (await desk.call('ida', worklistRoutes.listCalls, { query: {} })).calls;
const transferOf = (order: OrderView, at = 0) => order.lines[0]!.routes.filter((route) => route.kind === 'transfer')[at]!;
const undo = (order: OrderView, route: number) =>
  desk.call('ida', orderRoutes.undoRoute, { params: { order: order.id, line: order.lines[0]!.id, route }, body: {} });

test('a transfer that is undone takes the promise with it that stood on it, also where the rest of the line waits; others lose nothing', async () => {
  await desk.stockUp('LID', '40', 'QUI');
  // Others are promised what is bought.
  await desk.purchase('LID', '20', '2027-03-19');
  const others = [await released('LID', '8'), await released('LID', '7'), await released('LID', '5')];
  const order = await released('LID', '30');
  const routed = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '15' });
  expect(routed.lines[0]).toMatchObject({ promised: '15', waiting: '15' });
  const before = await Promise.all(others.map(async (other) => (await desk.read(other)).lines[0]!.schedule.map(({ day, quantity }) => [day, quantity])));

  const route = transferOf(routed);
  const seen = await desk.call('ida', orderRoutes.previewUndo, { params: { order: order.id, line: order.lines[0]!.id, route: route.id } });
  expect(seen.after).toMatchObject({ uncovered: '30' });
  const back = await undo(routed, route.id);
  expect(back.lines[0]).toMatchObject({ promised: '0', waiting: '30' });
  expect(await atRisk()).toEqual([]);
  const after = await Promise.all(others.map(async (other) => (await desk.read(other)).lines[0]!.schedule.map(({ day, quantity }) => [day, quantity])));
  expect(after).toEqual(before);
});

test('two who take the same way back at once: it is done once, and the other is told in words', async () => {
  await desk.stockUp('TUB', '5', 'QUI');
  const order = await desk.release(await desk.take(await desk.draft([['TUB', '5']]), 1, { kind: 'transfer', quantity: '5', warehouse: 'QUI' }));
  const [line] = order.lines;
  const params = { order: order.id, line: line!.id, route: line!.routes[0]!.id };
  const answers = await Promise.all(['ida', 'sam'].map((login) => desk.send(login as 'ida', orderRoutes.undoRoute, { params, body: {} })));
  expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
  expect(answers.find((answer) => answer.status === 409)!.problem.detail).toBe('This route is no longer on the line: somebody has undone it already.');
});

test('two transfers on one line are undone one by one, each with its own part of the promise', async () => {
  await desk.stockUp('TUB', '12', 'QUI');
  const order = await released('TUB', '20');
  const once = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '4' });
  const twice = await desk.take(once, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '6' });
  const promised = Number(twice.lines[0]!.promised);
  const [first, second] = [transferOf(twice), transferOf(twice, 1)];
  const one = await undo(twice, first.id);
  expect(Number(one.lines[0]!.promised)).toBe(promised - 4);
  expect(await atRisk()).toEqual([]);
  const none = await undo(one, second.id);
  expect(Number(none.lines[0]!.promised)).toBe(promised - 10);
  expect(await atRisk()).toEqual([]);
});

test('an act over many lines that is undone leaves no call that nobody needs, and puts every line back on the board', async () => {
  await desk.stockUp('BOX', '30', 'QUI');
  const orders = [await released('BOX', '9'), await released('BOX', '8'), await released('BOX', '7')];
  const onBoard = async () => (await desk.shortages()).filter((row) => row.item === 'BOX').map((row) => [row.line, row.quantity]);
  const before = await onBoard();
  expect(before).toHaveLength(3);
  const count = (await calls()).length;
  const choices = orders.map((order) => ({
    line: order.lines[0]!.id,
    parts: [{ kind: 'transfer' as const, warehouse: 'QUI', quantity: order.lines[0]!.waiting }],
  }));
  await desk.call('ida', shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices, accept: [] } });
  for (const order of orders) {
    const routed = await desk.read(order);
    await undo(routed, transferOf(routed).id);
  }
  expect(await calls()).toHaveLength(count);
  expect((await onBoard()).sort()).toEqual(before.sort());
});

test('who has been told the day of a route that is undone is to be told that it is not so', async () => {
  await desk.stockUp('BOX', '5', 'QUI');
  const order = await released('BOX', '5');
  const routed = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '5' });
  const paper = routed.papers[0];
  await desk.db
    .insertInto('mail')
    .values({
      order_id: order.id,
      document_id: paper?.id ?? null,
      recipients: ['a@b.example'],
      subject: 'x',
      body: 'y',
      state: 'waiting',
      made_at: new Date('2027-03-09T10:00'),
      made_by: 1,
    })
    .execute();
  const count = (await calls()).length;
  await undo(routed, transferOf(routed).id);
  expect(await calls()).toHaveLength(count + 1);
});

describe('what was bought for stock beside, to have the whole for less,', () => {
  // 10 at 0.33 are 3.30, 12 at 0.20 are 2.40.
  beforeAll(async () => {
    const step = { supplier: 'SUP', from_quantity: '12', cost: '0.20' };
    const items = ['BOX', 'LID'].map((item) => ({ ...step, item }));
    await desk.db.insertInto('supplier_item_break').values(items).execute();
  });

  const bought = async (item: string) => {
    const order = await released(item, '10');
    const routed = await desk.take(order, 1, { kind: 'special_order', supplier: 'SUP', quantity: '10', more: '2' });
    const { id, document } = routed.lines[0]!.routes.find((route) => route.kind === 'special_order')!;
    return { order: routed, route: id, purchase: document!.id };
  };
  const preview = (order: OrderView, route: number) =>
    desk.call('ida', orderRoutes.previewUndo, { params: { order: order.id, line: order.lines[0]!.id, route } });
  const quantities = async (purchase: number, item: string) =>
    (await desk.readPurchase(purchase)).lines.filter((line) => line.item === item).map((line) => line.quantity);

  test('goes off the draft with the route', async () => {
    const { order, route, purchase } = await bought('BOX');
    expect(await quantities(purchase, 'BOX')).toEqual(['10', '2']);
    expect((await preview(order, route)).does).toContain('2 for stock go off the draft with it');
    await undo(order, route);
    expect(await quantities(purchase, 'BOX')).toEqual([]);
  });

  test('stays where a buyer has made it theirs', async () => {
    const { order, route, purchase } = await bought('BOX');
    const draft = await desk.readPurchase(purchase);
    const lines = draft.lines.map(({ id, item, quantity }) => ({ id, item, quantity: quantity === '2' ? '3' : quantity }));
    await desk.call('ida', supplyRoutes.changeDraft, { params: { purchase }, body: { version: draft.version, lines } });
    await undo(order, route);
    expect(await quantities(purchase, 'BOX')).toEqual(['3']);
  });

  test('comes in all the same where the supplier has the order', async () => {
    const { order, route, purchase } = await bought('LID');
    await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase }, body: { version: (await desk.readPurchase(purchase)).version } });
    const seen = await preview(order, route);
    expect([seen.asksSupplier, seen.does]).toEqual([true, expect.arrayContaining(['2 for stock come in all the same'])]);
    await desk.call('ida', orderRoutes.undoRoute, { params: { order: order.id, line: order.lines[0]!.id, route }, body: { supplier: 'cancel' } });
    expect((await desk.readPurchase(purchase)).lines.map((line) => line.open)).toEqual(expect.arrayContaining(['0', '2']));
  });
});
