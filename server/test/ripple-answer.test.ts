import { exchangeRoutes } from '@nockwright/contract/exchange';
import { stockRoutes } from '@nockwright/contract/items';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import type { RippleView } from '@nockwright/contract/promise';
import { supplyRoutes } from '@nockwright/contract/supply';
import { promiseBook, readOrderBook } from '@nockwright/core/promise';
import { rollDice, type Dice } from '../../demo/dice';
import { decided } from './decided';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

const STEPS = Number(process.env['NOCK_STEPS'] ?? 70);
const ITEMS = ['JAR', 'LID', 'BOX'] as const;

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  for (const item of ITEMS) await desk.stockUp(item, '40');
  for (const item of ITEMS) await desk.stockUp(item, '30', 'QUI');
});
afterAll(() => desk.close());

/** What is known of a promise by the exported book and the promise computation alone. */
type Standing = ReadonlyMap<string, readonly (readonly [day: string, quantity: number])[]>;

/** How every promise stands: `20001/2` to what leaves on which day. */
async function standing(): Promise<Standing> {
  const read = readOrderBook(JSON.stringify(await desk.call('ida', exchangeRoutes.orderBook)));
  if (!read.ok) throw new Error(read.faults.map((fault) => `${fault.path}: ${fault.message}`).join('\n'));
  const { promises, atRisk } = promiseBook(read.book);
  return new Map(
    promises.map(({ id, schedule }) => {
      const days = new Map<string, number>();
      const add = (day: string, quantity: number) => days.set(day, (days.get(day) ?? 0) + quantity);
      for (const { date, quantity, kept } of schedule) if (kept) add(date, quantity);
      for (const row of atRisk.filter((one) => one.id === id)) {
        add(row.date, -row.quantity);
        if (row.arrives) add(row.arrives, row.quantity);
      }
      return [id, [...days].filter(([, quantity]) => quantity > 0).sort()] as const;
    }),
  );
}

/** What an act showed before it was done, and whether it was done; `own`: the order it was about. */
interface Acted {
  readonly ripple: Pick<RippleView, 'later' | 'earlier'>;
  readonly own?: OrderView;
}

const NOBODY = { later: [], earlier: [] };

async function anyOrder(dice: Dice): Promise<OrderView | null> {
  const { rows } = await desk.call('mona', orderRoutes.listOrders, { query: { state: 'open' } });
  const released = rows.filter((row) => row.state === 'released');
  return released.length > 0 ? desk.read(dice.pick(released)) : null;
}

async function anyPurchase(dice: Dice) {
  const rows = await desk.call('mona', supplyRoutes.listPurchases, { query: { state: 'open' } });
  const sent = rows.filter((row) => row.state !== 'draft');
  return sent.length > 0 ? desk.readPurchase(dice.pick(sent).id) : null;
}

const ACTS: Readonly<Record<string, (dice: Dice) => Promise<Acted | null>>> = {
  order: async (dice) => {
    const draft = await desk.draft([[dice.pick(ITEMS), String(dice.whole(1, 20))]]);
    const { uncovered } = draft.lines[0]!;
    const own = await desk.release(Number(uncovered) > 0 ? await desk.route(draft, 1, 'backorder', uncovered) : draft);
    return { ripple: NOBODY, own };
  },
  buy: async (dice) => {
    await desk.purchase(dice.pick(ITEMS), String(dice.whole(5, 30)), dice.pick(['2027-03-12', '2027-03-19', '2027-03-26']));
    return { ripple: NOBODY };
  },
  transfer: async (dice) => {
    const order = await anyOrder(dice);
    const line = order?.lines.find((row) => Number(row.waiting) > 0);
    if (!order || !line) return null;
    const { status, reply } = await desk.send('ida', orderRoutes.chooseRoute, {
      params: { order: order.id, line: line.id },
      body: { parts: [{ kind: 'transfer', warehouse: 'QUI', quantity: String(Math.min(3, Number(line.waiting))) }] },
    });
    return status === 200 ? { ripple: NOBODY, own: reply } : null;
  },
  undo: async (dice) => {
    const order = await anyOrder(dice);
    const line = order?.lines.find((row) => row.routes.some((route) => route.kind !== 'backorder'));
    if (!order || !line) return null;
    const route = dice.pick(line.routes.filter((row) => row.kind !== 'backorder'));
    const { status } = await desk.send('ida', orderRoutes.undoRoute, {
      params: { order: order.id, line: line.id, route: route.id },
      body: { supplier: 'keep' },
    });
    return status === 200 ? { ripple: NOBODY, own: order } : null;
  },
  slip: async (dice) => {
    const purchase = await anyPurchase(dice);
    const line = purchase?.lines.find((row) => row.open !== '0');
    if (!purchase || !line) return null;
    const at = { params: { purchase: purchase.id, line: line.id } };
    const wish = { open: String(Math.max(0, Number(line.open) - dice.whole(0, 6))) };
    const day = dice.pick(['2027-03-15', '2027-03-25', '2027-04-02']);
    const { status, reply } = await desk.send('mona', supplyRoutes.previewReschedule, { ...at, query: { ...wish, day } });
    if (status !== 200) return null;
    const body = { version: purchase.version, ...wish, expectedDay: day, decision: decided(reply.ripple) };
    const done = await desk.send('mona', supplyRoutes.reschedule, { ...at, body });
    return done.status === 200 ? { ripple: reply.ripple } : null;
  },
  shortReceipt: async (dice) => {
    const purchase = await anyPurchase(dice);
    const line = purchase?.lines.find((row) => row.open !== '0');
    if (!purchase || !line) return null;
    const quantity = String(Math.max(0, Number(line.open) - dice.whole(0, 8)));
    const query = { lines: `${line.id}:${quantity}`, closeRest: true };
    const { status, reply } = await desk.send('mona', supplyRoutes.previewReceipt, { params: { purchase: purchase.id }, query });
    if (status !== 200) return null;
    const lines = [{ line: line.id, quantity, ...(Number(quantity) === 0 ? { damaged: '1' } : {}) }];
    const body = { version: purchase.version, lines, closeRest: true, decision: decided(reply.ripple) };
    const done = await desk.send('mona', supplyRoutes.receive, { params: { purchase: purchase.id }, body });
    return done.status === 200 ? { ripple: reply.ripple } : null;
  },
  refused: async (dice) => {
    const purchase = await anyPurchase(dice);
    if (!purchase) return null;
    const { status, reply } = await desk.send('mona', supplyRoutes.previewCancel, { params: { purchase: purchase.id } });
    if (status !== 200) return null;
    const body = { version: purchase.version, by: 'supplier' as const, reason: 'the supplier refuses', decision: decided(reply.ripple) };
    const done = await desk.send('mona', supplyRoutes.cancelPurchase, { params: { purchase: purchase.id }, body });
    return done.status === 200 ? { ripple: reply.ripple } : null;
  },
  count: async (dice) => {
    const item = dice.pick(ITEMS);
    const { on_hand } = await desk.stock(item);
    const wish = { warehouse: 'MAR', counted: String(Math.max(0, Number(on_hand) + dice.whole(-9, 3))) };
    const { status, reply } = await desk.send('mona', stockRoutes.previewCount, { params: { item }, query: wish });
    if (status !== 200) return null;
    const done = await desk.send('mona', stockRoutes.countStock, { params: { item }, body: { ...wish, reason: 'test', decision: decided(reply) } });
    return done.status === 200 ? { ripple: reply } : null;
  },
  cancel: async (dice) => {
    const order = await anyOrder(dice);
    if (!order) return null;
    const line = dice.pick(order.lines);
    const query = { line: line.id, quantity: String(dice.whole(1, 6)), purchases: 'keep' as const };
    const { status, reply } = await desk.send('mona', orderRoutes.previewCancellation, { params: { order: order.id }, query });
    if (status !== 200) return null;
    const body = {
      version: order.version,
      line: line.id,
      quantity: query.quantity,
      reason: 'other' as const,
      purchases: 'keep' as const,
      decision: decided(reply.ripple),
    };
    const done = await desk.send('mona', orderRoutes.cancelOrder, { params: { order: order.id }, body });
    return done.status === 200 ? { ripple: reply.ripple, own: order } : null;
  },
  rank: async (dice) => {
    const order = await anyOrder(dice);
    if (!order) return null;
    const wish = { priority: dice.whole(1, 9) };
    const { status, reply } = await desk.send('mona', orderRoutes.previewTurn, { params: { order: order.id }, query: wish });
    if (status !== 200) return null;
    const body = { version: order.version, ...wish, reason: 'test', decision: decided(reply) };
    const done = await desk.send('mona', orderRoutes.rankOrder, { params: { order: order.id }, body });
    return done.status === 200 ? { ripple: reply, own: order } : null;
  },
};

const KINDS = ['order', 'order', 'buy', 'transfer', 'transfer', 'undo', 'slip', 'shortReceipt', 'refused', 'count', 'cancel', 'rank'] as const;

test('whatever is done, who moves is whom its ripple named, to the days it named, by the promise computation on the exported book', async () => {
  const dice = rollDice(77);
  const counts: Record<string, number> = {};
  for (let step = 0; step < 6; step++) await ACTS['order']!(dice);
  for (let step = 0; step < STEPS; step++) {
    const kind = dice.pick(KINDS);
    const before = await standing();
    const acted = await ACTS[kind]!(dice);
    if (!acted) continue;
    counts[kind] = (counts[kind] ?? 0) + 1;
    const after = await standing();
    const movers = new Map(
      [...acted.ripple.later, ...acted.ripple.earlier].map((row) => [
        `${row.number}/${row.lineNo}`,
        row.after.map(({ day, quantity }) => [day, Number(quantity)]),
      ]),
    );
    for (const [id, parts] of after) {
      if (id.startsWith(`${acted.own?.number}/`) && !movers.has(id)) continue;
      expect([step, kind, id, parts]).toEqual([step, kind, id, movers.get(id) ?? before.get(id) ?? []]);
    }
  }
  expect(Object.keys(counts).length).toBeGreaterThan(8);
  expect(await brokenInvariants(desk.db)).toEqual([]);
});
