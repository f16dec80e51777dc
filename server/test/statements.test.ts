import { invoiceRoutes } from '@nockwright/contract/billing';
import { orderRoutes } from '@nockwright/contract/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { seenOf, TestDesk } from './test-desk';

/** Of each act the most statements it may take, log-in, key and the bounds of its transaction included. */
const MOST = { add: 15, read: 8, preview: 8, slice: 8, release: 20, pick: 20, ship: 29, cancel: 39, bill: 30 };
/** What is read of a board where nothing has changed: log-in, whether anything has, and the bounds of the transaction included. */
const BOARDS = [5, 6, 6];
const MOST_OF_A_RECEIPT = 28;
const ITEMS = ['JAR', 'LID', 'BOX', 'TUB'];

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  for (const item of ITEMS) await desk.stockUp(item, '5000');
  // What a statement gives is learned when it is sent first.
  await acts(1);
});
afterAll(() => desk.close());

async function counted<T>(act: () => Promise<T>): Promise<{ readonly statements: number; readonly done: T }> {
  const before = desk.statements.length;
  const done = await act();
  return { statements: desk.statements.length - before, done };
}

/** Takes an order of so many lines from its first line to its release; gives the statements of each act. */
async function acts(lines: number): Promise<Record<keyof typeof MOST, number>> {
  const draft = await desk.draft([]);
  const params = { order: draft.id };
  const body = { version: draft.version, lines: Array.from({ length: lines }, (_, at) => ({ item: ITEMS[at % ITEMS.length]!, quantity: '2' })) };
  const add = await counted(() => desk.call('ida', orderRoutes.addLines, { params, body }));
  const read = await counted(() => desk.read(draft));
  const preview = await counted(() => desk.call('ida', orderRoutes.previewLine, { params, query: { item: 'JAR', quantity: '9' } }));
  const slice = await counted(() => desk.call('ida', orderRoutes.readSlice, { params, query: { item: 'LID' } }));
  const release = await counted(() => desk.call('ida', orderRoutes.releaseOrder, { params, body: seenOf(read.done) }));
  const one = release.done.lines.map((line) => ({ line: line.id, quantity: '1' }));
  const half = one.slice(0, Math.ceil(lines / 2));
  const pick = await counted(() => desk.call('wil', shippingRoutes.startPick, { body: { order: draft.id, warehouse: 'MAR', lines: half } }));
  const ship = await counted(() => desk.call('wil', shippingRoutes.ship, { params: { shipment: pick.done.id }, body: { tracking: '' } }));
  const { version } = await desk.read(draft);
  const cancel = await counted(() => desk.call('ida', orderRoutes.cancelOrder, { params, body: { version, reason: 'other', purchases: 'keep' } }));
  const shipments = [ship.done.id];
  const { total } = await desk.call('fay', invoiceRoutes.previewInvoice, { query: { shipments: String(ship.done.id) } });
  const bill = await counted(() => desk.call('fay', invoiceRoutes.issueInvoice, { body: { shipments, total } }));
  expect([add.done.lines.length, release.done.state, ship.done.state, cancel.done.progress]).toEqual([lines, 'released', 'shipped', 'shipped']);
  const taken = { add, read, preview, slice, release, pick, ship, cancel, bill };
  return Object.fromEntries(Object.entries(taken).map(([act, { statements }]) => [act, statements])) as Record<keyof typeof MOST, number>;
}

test.each([1, 5, 50, 500])('the acts of an order of %i lines take few statements, and as many as of any other', async (lines) => {
  const taken = await acts(lines);
  const tooMany = Object.entries(MOST).filter(([act, most]) => taken[act as keyof typeof MOST] > most);
  expect([tooMany, taken]).toEqual([[], taken]);
  expect(taken).toEqual(await acts(2));
});

test('a receipt takes few statements, however many lines it is of', async () => {
  const received = async (lines: number) => {
    const made = await desk.call('mona', supplyRoutes.createPurchase, {
      body: {
        supplier: 'SUP',
        warehouse: 'MAR',
        lines: Array.from({ length: lines }, (_, at) => ({ item: ITEMS[at % 3]!, quantity: '20', expectedDay: '2027-03-19' })),
      },
    });
    const params = { purchase: made.id };
    const sent = await desk.call('mona', supplyRoutes.sendPurchase, { params, body: { version: made.version } });
    const body = { version: sent.version, lines: sent.lines.map((line) => ({ line: line.id, quantity: '2', damaged: '1', lot: `L${lines}` })) };
    const { statements, done } = await counted(() => desk.call('wil', supplyRoutes.receive, { params, body }));
    expect(done.purchase.lines.map((line) => [line.received, line.damaged])).toEqual(sent.lines.map(() => ['2', '1']));
    return statements;
  };
  await received(2);
  const [one, many] = [await received(1), await received(60)];
  expect(one).toBeLessThanOrEqual(MOST_OF_A_RECEIPT);
  expect(many).toBe(one);
});

test('a board takes few statements, however much is on it; where something has changed, as many more however much it was', async () => {
  const boards = async () => {
    const shortages = await counted(() => desk.call('ida', shortageRoutes.listShortages, { query: { q: 'jar', chosen: '1,2' } }));
    const shipping = await counted(() => desk.call('wil', shippingRoutes.readBoard, { query: { q: 'jar' } }));
    const offers = await counted(() => desk.call('ida', promiseRoutes.listOffers));
    return [shortages, shipping, offers].map((row) => row.statements);
  };
  const short = async (lines: number) => {
    const draft = await desk.draft(Array.from({ length: lines }, (_, at) => (at === 0 ? (['JAR', '90000'] as const) : ([ITEMS[1 + (at % 3)]!, '1'] as const))));
    await desk.release(await desk.route(draft, 1, 'backorder', draft.lines[0]!.uncovered));
  };
  await short(1);
  await boards();
  expect(await boards()).toEqual(BOARDS);
  await short(1);
  const [one] = await boards();
  await short(20);
  const [many] = await boards();
  expect([many, await boards()]).toEqual([one, BOARDS]);
});
