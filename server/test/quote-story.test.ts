import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { quoteRoutes } from '@nockwright/contract/quotes';
import { seenOf, TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '100');
  await desk.stockUp('LID', '100');
});
afterEach(() => desk.close());

async function quote(lines: readonly (readonly [item: string, quantity: string, more?: { alternative?: boolean; to?: number }])[]): Promise<OrderView> {
  let order = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1, kind: 'quote' } });
  for (const [item, quantity, { alternative = false, to } = {}] of lines)
    order = await desk.call('ida', orderRoutes.addLine, {
      params: { order: order.id },
      body: { item, quantity, alternative, ...(to ? { alternativeTo: order.lines[to - 1]!.id } : {}) },
    });
  return order;
}

const send = (order: OrderView) => desk.call('ida', quoteRoutes.sendQuote, { params: { quote: order.id }, body: seenOf(order) });
const accept = (
  order: OrderView,
  lines: readonly { line: number; quantity?: string }[],
  more: { prices?: 'quoted' | 'today'; rest?: 'open' | 'closed'; poNumber?: string } = {},
) =>
  desk.send('ida', quoteRoutes.acceptQuote, {
    params: { quote: order.id },
    body: {
      version: order.version,
      prices: 'quoted',
      rest: 'open',
      ...more,
      lines: lines.map(({ line, ...rest }) => ({ line: order.lines[line - 1]!.id, ...rest })),
    },
  });

test('a quote binds no goods, counts no alternative in its total, and is kept as it was told', async () => {
  const draft = await quote([
    ['JAR', '50'],
    ['LID', '10'],
    ['BOX', '50', { alternative: true, to: 1 }],
  ]);
  expect(draft).toMatchObject({ kind: 'quote', number: null, validUntil: '2027-03-23', amount: '31.20', progress: 'draft' });
  expect(draft.lines[2]).toMatchObject({ alternative: true, alternativeTo: draft.lines[0]!.id });
  const sent = await send(draft);
  expect(sent).toMatchObject({ number: 'Q1001', state: 'quoted', progress: 'quoted', revision: 1 });
  expect(sent.lines[0]!.quoted).toEqual({ quantity: '50', unit: 'EA', price: '0.52', day: '2027-03-11' });
  expect(await desk.stock('JAR')).toMatchObject({ committed: '0' });
  const told = await desk.db.selectFrom('document').selectAll().where('order_id', '=', sent.id).execute();
  expect(told.map((row) => row.kind)).toEqual(['quote']);
});

test('accepted with its alternative it becomes an order, and is closed', async () => {
  const sent = await send(
    await quote([
      ['JAR', '50'],
      ['LID', '10'],
      ['BOX', '30', { alternative: true, to: 1 }],
    ]),
  );
  const { reply: order } = await accept(sent, [{ line: 2 }, { line: 3 }], { poNumber: 'WH-1' });
  expect(order).toMatchObject({ kind: 'order', state: 'draft', poNumber: 'WH-1', quote: { id: sent.id, number: 'Q1001' } });
  expect(order.lines.map(({ item, quantity, price, alternative }) => [item, quantity, price, alternative])).toEqual([
    ['LID', '10', '0.52', false],
    ['BOX', '30', '0.52', false],
  ]);
  const closed = await desk.read(sent);
  expect(closed).toMatchObject({ state: 'accepted', progress: 'accepted', orders: [{ id: order.id, progress: 'draft' }] });
  expect(closed.lines.map((line) => [line.accepted, line.state, line.stateWords])).toEqual([
    ['0', 'done', 'not taken'],
    ['10', 'done', 'taken'],
    ['30', 'done', 'taken'],
  ]);
});

test('accepted in part it stays open for the rest, and never gives more than was quoted', async () => {
  const sent = await send(await quote([['JAR', '50']]));
  const first = await accept(sent, [{ line: 1, quantity: '20' }]);
  expect(first.reply.lines[0]).toMatchObject({ quantity: '20' });
  const now = await desk.read(sent);
  expect(now).toMatchObject({ state: 'quoted', progress: 'part accepted' });
  const more = await accept(now, [{ line: 1, quantity: '31' }]);
  expect(more).toMatchObject({ status: 422, problem: { errors: [{ field: 'body.lines[0].quantity', message: 'line 1: 31 taken, 30 are quoted and open' }] } });
  // The draft is discarded: what it took is open again.
  await desk.call('ida', orderRoutes.discardOrder, { params: { order: first.reply.id }, body: { version: first.reply.version } });
  const { reply: all } = await accept(await desk.read(sent), [{ line: 1 }]);
  expect(all.lines[0]).toMatchObject({ quantity: '50' });
  expect((await desk.read(sent)).state).toBe('accepted');
});

test('two coordinators accept the same quote: one order is made, the other is told', async () => {
  const sent = await send(await quote([['JAR', '50']]));
  const both = await Promise.all([accept(sent, [{ line: 1 }]), accept(sent, [{ line: 1 }])]);
  expect(both.map((one) => one.status).sort()).toEqual([200, 409]);
  expect((await desk.read(sent)).orders).toHaveLength(1);
});

describe('where a price has changed since', () => {
  let sent: OrderView;
  beforeEach(async () => {
    sent = await send(await quote([['JAR', '50']]));
    await desk.db.updateTable('item').set({ list_price: '0.60' }).where('code', '=', 'JAR').execute();
  });

  test('the quote shows both', async () => {
    const now = await desk.read(sent);
    expect(now.lines[0]).toMatchObject({ price: '0.52', offered: { parts: [{ price: '0.6' }] } });
  });

  test('it is kept as quoted, and says so', async () => {
    const { reply: order } = await accept(sent, [{ line: 1 }]);
    expect(order.lines[0]).toMatchObject({ price: '0.52', offered: null, pin: { kind: 'manual', reason: 'quoted in Q1001, valid until Tue 23 Mar' } });
    expect((await desk.release(order)).state).toBe('released');
  });

  test('or both stand on the draft, which is not released before one is taken', async () => {
    const { reply: order } = await accept(sent, [{ line: 1 }], { prices: 'today' });
    expect(order.lines[0]).toMatchObject({ price: '0.52', offered: { parts: [{ price: '0.6' }] }, quoted: { price: '0.52' } });
    const refused = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: order.id }, body: seenOf(order) });
    expect(refused.status).toBe(409);
  });
});

test('where goods were sold meanwhile the day now stands beside the day quoted', async () => {
  const sent = await send(await quote([['JAR', '60']]));
  await desk.purchase('JAR', '100', '2027-03-16');
  await desk.order([['JAR', '60']], 'sam');
  const { reply: order } = await accept(await desk.read(sent), [{ line: 1 }]);
  expect(order.lines[0]!.quoted!.day).toBe('2027-03-11');
  expect(order.lines[0]!.schedule.at(-1)!.day > '2027-03-16').toBe(true);
});

test('revised it goes out under the same number; lost it says why, and can be revised', async () => {
  const sent = await send(await quote([['JAR', '50']]));
  const refused = await desk.send('ida', orderRoutes.addLine, { params: { order: sent.id }, body: { item: 'LID', quantity: '1' } });
  expect(refused.status).toBe(409);
  const version = { params: { quote: sent.id }, body: { version: sent.version } };
  let again = await desk.call('ida', quoteRoutes.reviseQuote, version);
  expect(again).toMatchObject({ state: 'draft', number: 'Q1001', revision: 2 });
  again = await desk.call('ida', orderRoutes.addLine, { params: { order: sent.id }, body: { item: 'LID', quantity: '1' } });
  const resent = await send(again);
  expect(resent).toMatchObject({ number: 'Q1001', revision: 2, state: 'quoted' });
  const lost = await desk.call('ida', quoteRoutes.loseQuote, {
    params: { quote: sent.id },
    body: { version: resent.version, reason: 'price', note: 'nine per cent under ours' },
  });
  expect(lost).toMatchObject({ state: 'lost', progress: 'lost', lost: { reason: 'price', note: 'nine per cent under ours' } });
  const taken = await accept(lost, [{ line: 1 }]);
  expect(taken.status).toBe(409);
});

test('a price by hand below the floor holds the quote; what was let go there is let go on its order', async () => {
  await desk.db
    .insertInto('desk_setting')
    .values({ name: 'floor_margin', value: JSON.stringify('20') })
    .execute();
  const draft = await quote([['JAR', '50']]);
  const cheap = await desk.call('ida', orderRoutes.setPrice, {
    params: { order: draft.id, line: draft.lines[0]!.id },
    body: { version: draft.version, pin: { kind: 'manual', price: '0.33', reason: 'matches another offer' } },
  });
  const held = await send(cheap);
  expect(held).toMatchObject({ state: 'draft', progress: 'held', number: null });
  const cleared = await desk.call('mona', orderRoutes.clearHold, {
    params: { order: held.id, hold: held.holds[0]!.id },
    body: { version: held.version, why: 'once' },
  });
  const { reply: order } = await accept(await send(cleared), [{ line: 1 }]);
  expect((await desk.release(order)).state).toBe('released');
});

test('an order has no alternatives and no last day, a quote is not released', async () => {
  const draft = await desk.draft([['JAR', '1']]);
  const alternative = await desk.send('ida', orderRoutes.addLine, { params: { order: draft.id }, body: { item: 'LID', quantity: '1', alternative: true } });
  expect(alternative.problem.errors).toEqual([{ field: 'body.alternative', message: 'only a quote has alternatives' }]);
  const dated = await desk.send('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, validUntil: '2027-04-01' } });
  expect(dated.status).toBe(422);
  const open = await quote([['JAR', '1']]);
  const released = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: open.id }, body: seenOf(open) });
  expect(released.status).toBe(409);
});

test('the second who changes a draft is told who did what to it, and nothing of theirs is half done', async () => {
  const draft = await desk.draft([['JAR', '5']]);
  await desk.call('sam', orderRoutes.addLine, { params: { order: draft.id }, body: { item: 'LID', quantity: '3' } });
  const { status, problem } = await desk.send('ida', orderRoutes.changeLine, {
    params: { order: draft.id, line: draft.lines[0]!.id },
    body: { version: draft.version, quantity: '9', note: 'blue lids' },
  });
  expect(status).toBe(409);
  expect(problem.detail).toContain('sam added line 2: 3 each LID');
  expect((await desk.read(draft)).lines[0]).toMatchObject({ quantity: '5', note: '' });
});
