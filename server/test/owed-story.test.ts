import { randomUUID } from 'node:crypto';
import { customerRoutes } from '@nockwright/contract/customers';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { shortageRoutes, type RouteWish } from '@nockwright/contract/shortages';
import { TestDesk } from './test-desk';

/** Every act that raises what a customer owes, or lowers a margin, is judged as a release is: not the release and the raise alone. */
let desk: TestDesk;

beforeEach(async () => {
  desk = await TestDesk.open();
});
afterEach(() => desk.close());

const limit = (amount: string) =>
  desk.call('fay', customerRoutes.setCreditLimit, { params: { customer: 1 }, body: { limit: amount, reason: 'agreed with their bank', was: null } });
const choose = (login: 'ida' | 'mona', order: OrderView, ...parts: RouteWish[]) =>
  desk.send(login, orderRoutes.chooseRoute, { params: { order: order.id, line: order.lines[0]!.id }, body: { parts } });

/** An order of boxes at a price set by hand, on wait for all of it. */
async function waiting(price: string): Promise<OrderView> {
  const draft = await desk.draft([['BOX', '100']]);
  const at = { order: draft.id, line: draft.lines[0]!.id };
  const priced = await desk.call('ida', orderRoutes.setPrice, {
    params: at,
    body: { version: draft.version, pin: { kind: 'manual', price, reason: 'they asked' } },
  });
  return desk.release(await desk.route(priced, 1, 'backorder', '100'));
}

const floor = (percent: string) => desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: percent }).execute();

test('what was cut is owed again only within the limit', async () => {
  const draft = await desk.draft([['BOX', '100']]);
  const released = await desk.release(await desk.route(draft, 1, 'backorder', '100'));
  const cut = (await choose('ida', released, { kind: 'cut', quantity: '40' })).reply;
  await limit('40');
  const take = (login: 'ida' | 'mona') =>
    desk.send(login, orderRoutes.undoRoute, {
      params: { order: cut.id, line: cut.lines[0]!.id, route: cut.lines[0]!.routes.find((route) => route.kind === 'cut')!.id },
      body: {},
    });
  const refused = await take('ida');
  // 100 at 0.52 are 52.00; 40 of them are 20.80.
  expect([refused.status, refused.problem.detail]).toEqual([409, expect.stringMatching(/^It would be 20.80 more: .*52.00, their limit is 40.00/)]);
  expect((await desk.read(cut)).lines[0]).toMatchObject({ cancelled: '40' });
  // Who may let a held order go does it, and that is kept.
  expect((await take('mona')).status).toBe(200);
  expect((await desk.read(cut)).holds).toMatchObject([{ kind: 'credit', cleared: { by: 'mona' } }]);
});

test('dearer goods on a price set by hand are the manager’s to buy', async () => {
  const order = await waiting('0.36');
  await floor('8'); // 0.31 of 0.36 leaves 13.9 %, 0.43 nothing
  const dear = { kind: 'drop_ship', quantity: '100', supplier: 'SUP' } as const; // 0.33, and 10 for the way: 0.43 each
  const refused = await choose('ida', order, dear);
  expect([refused.status, refused.problem.detail]).toEqual([
    422,
    expect.stringContaining('100 each at 0.36 each, cost 0.43 each: below the floor margin of 8 %'),
  ]);
  expect((await desk.read(order)).lines[0]!.routes).toMatchObject([{ kind: 'backorder' }]);
  const done = await choose('mona', order, dear);
  expect(done.reply.lines[0]!.routes).toMatchObject([{ kind: 'drop_ship' }]);
  expect(done.reply.holds).toMatchObject([{ kind: 'below_floor', cleared: { by: 'mona' } }]);
});

test('a price of a list, or a margin above the floor, stops nobody', async () => {
  await floor('8');
  const listed = await desk.release(await desk.route(await desk.draft([['BOX', '100']]), 1, 'backorder', '100'));
  expect((await choose('ida', listed, { kind: 'drop_ship', quantity: '100', supplier: 'SUP' })).status).toBe(200);
  const byHand = await waiting('0.50');
  expect((await choose('ida', byHand, { kind: 'drop_ship', quantity: '100', supplier: 'SUP' })).status).toBe(200);
});

test('of many lines the one below the floor is left, and told; the others are done', async () => {
  const dear = await waiting('0.36');
  const fine = await waiting('0.50');
  await floor('8');
  const parts = [{ kind: 'drop_ship', quantity: '100', supplier: 'SUP' }] as const;
  const done = await desk.call('ida', shortageRoutes.routeMany, {
    body: { run: randomUUID(), choices: [dear, fine].map((order) => ({ line: order.lines[0]!.id, parts: [...parts] })), accept: [] },
  });
  expect(done).toMatchObject({ lines: 1, left: [{ line: dear.lines[0]!.id, why: expect.stringContaining('below the floor margin') }] });
  expect((await desk.read(fine)).lines[0]!.routes).toMatchObject([{ kind: 'drop_ship' }]);
  expect((await desk.read(dear)).lines[0]!.routes).toMatchObject([{ kind: 'backorder' }]);
});
