import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { supplyRoutes } from '@nockwright/contract/supply';
import { compareDecimal, divide } from '@nockwright/core/money';
import { brokenInvariants } from './invariants';
import { TestDesk, TODAY } from './test-desk';

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

/** A released order of one line that waits for all of it. */
async function waiting(item: string, quantity: string): Promise<OrderView> {
  const draft = await desk.draft([[item, quantity]]);
  const { uncovered } = draft.lines[0]!;
  return desk.release(Number(uncovered) > 0 ? await desk.route(draft, 1, 'backorder', uncovered) : draft);
}

const scheduleOf = (order: OrderView, at = 0) => order.lines[at]!.schedule.map(({ day, quantity }) => [day, quantity]);

async function shelf(item: string, warehouse = 'MAR') {
  const row = await desk.db.selectFrom('stock').selectAll().where('item', '=', item).where('warehouse', '=', warehouse).executeTakeFirstOrThrow();
  return { onHand: Number(row.on_hand), setAside: Number(row.set_aside), inbound: Number(row.inbound), committed: Number(row.committed) };
}

describe('a transfer', () => {
  test('takes what nobody is promised, is sent, taken in, and kept for its line', async () => {
    await desk.stockUp('LID', '10', 'QUI');
    // Four of the ten are somebody's.
    const there = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 } });
    await desk.call('ida', orderRoutes.changeOrder, { params: { order: there.id }, body: { version: there.version, warehouse: 'QUI' } });
    await desk.release(await desk.call('ida', orderRoutes.addLine, { params: { order: there.id }, body: { item: 'LID', quantity: '4' } }));
    const order = await waiting('LID', '8');
    const all = await desk.send('ida', orderRoutes.chooseRoute, {
      params: { order: order.id, line: order.lines[0]!.id },
      body: { parts: [{ kind: 'transfer', warehouse: 'QUI', quantity: '8' }] },
    });
    expect([all.status, all.problem.detail]).toEqual([422, expect.stringContaining('only 6 that nobody is promised')]);
    let routed = await desk.take(order, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '6' });
    // Leaves today, a day on the way, a day to be put away.
    expect(scheduleOf(routed)).toEqual([['2027-03-11', '6']]);
    expect(await shelf('LID', 'QUI')).toMatchObject({ onHand: 10, setAside: 6 });

    const { id } = routed.lines[0]!.routes.find((route) => route.kind === 'transfer')!.document!;
    const open = await desk.call('wil', supplyRoutes.readTransfer, { params: { transfer: id } });
    const sent = await desk.call('wil', supplyRoutes.shipTransfer, { params: { transfer: id }, body: { version: open.version } });
    expect(await shelf('LID', 'QUI')).toMatchObject({ onHand: 4, setAside: 0 });
    expect(await shelf('LID')).toMatchObject({ onHand: 0, inbound: 6 });
    const part = await desk.call('wil', supplyRoutes.receiveTransfer, {
      params: { transfer: id },
      body: { version: sent.version, lines: [{ line: sent.lines[0]!.id, quantity: '4' }] },
    });
    expect(part).toMatchObject({ state: 'shipped', lines: [{ received: '4', open: '2' }] });
    // Two were lost on the way: they wait again.
    await desk.call('ida', supplyRoutes.receiveTransfer, {
      params: { transfer: id },
      body: { version: part.version, lines: [{ line: sent.lines[0]!.id, quantity: '1' }], closeRest: true },
    });
    routed = await desk.read(order);
    expect(routed.lines[0]).toMatchObject({ promised: '5', waiting: '3' });
    expect(await shelf('LID')).toMatchObject({ onHand: 5, inbound: 0, committed: 5 });
    // Nobody else gets what was brought over for the line.
    expect((await desk.draft([['LID', '1']])).lines[0]!.uncovered).toBe('1');
  });

  test('that has not left is taken back: the goods stay, the line waits again', async () => {
    await desk.stockUp('BOX', '5', 'QUI');
    const order = await desk.take(await waiting('BOX', '5'), 1, { kind: 'transfer', warehouse: 'QUI', quantity: '5' });
    const back = await desk.undo(order, 1);
    expect(back.lines[0]).toMatchObject({ promised: '0', waiting: '5', routes: [] });
    expect(await shelf('BOX', 'QUI')).toMatchObject({ onHand: 5, setAside: 0 });
    const { transfer_id } = await desk.db.selectFrom('transfer_line').select('transfer_id').orderBy('id', 'desc').executeTakeFirstOrThrow();
    expect((await desk.call('ida', supplyRoutes.readTransfer, { params: { transfer: transfer_id } })).state).toBe('cancelled');
    await desk.call('ida', orderRoutes.cancelOrder, { params: { order: order.id }, body: { version: back.version, reason: 'too_late', purchases: 'cancel' } });
  });

  test('that is cancelled with its order leaves nothing hanging', async () => {
    const order = await desk.take(await waiting('BOX', '5'), 1, { kind: 'transfer', warehouse: 'QUI', quantity: '5' });
    await desk.call('ida', orderRoutes.cancelOrder, { params: { order: order.id }, body: { version: order.version, reason: 'too_late', purchases: 'cancel' } });
    expect(await shelf('BOX', 'QUI')).toMatchObject({ onHand: 5, setAside: 0 });
  });
});

describe('an assembly', () => {
  test('takes its components off the shelf at once, on both levels, and ships what was put together', async () => {
    await desk.stockUp('JAR', '10', 'MAR');
    await desk.stockUp('BOX', '3', 'MAR');
    await desk.stockUp('LID', '10', 'MAR');
    const free = (await shelf('LID')).onHand;
    const order = await waiting('CRATE', '2');
    const ways = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id } });
    const way = ways.routes.find(({ parts }) => parts.length === 1 && parts[0]!.kind === 'assemble')!;
    // Kits first (a day), then crates (a day), then put away: from Tuesday the 9th to Friday the 12th.
    expect(way).toMatchObject({ possible: true, shipDay: '2027-03-12' });
    const routed = await desk.take(order, 1, { kind: 'assemble', quantity: '2' });
    expect(scheduleOf(routed)).toEqual([['2027-03-12', '2']]);
    expect([(await shelf('JAR')).setAside, (await shelf('LID')).setAside, (await shelf('BOX')).setAside]).toEqual([4, 4, 2]);

    const crate = await desk.call('wil', supplyRoutes.readAssembly, { params: { assembly: routed.lines[0]!.routes[0]!.document!.id } });
    const early = await desk.send('wil', supplyRoutes.buildAssembly, { params: { assembly: crate.id }, body: { version: crate.version, quantity: '2' } });
    expect([early.status, early.problem.detail]).toEqual([409, expect.stringContaining('Put those together first')]);
    const kit = await desk.call('wil', supplyRoutes.readAssembly, { params: { assembly: crate.parts[0]!.id } });
    await desk.call('wil', supplyRoutes.buildAssembly, { params: { assembly: kit.id }, body: { version: kit.version, quantity: '4' } });
    const one = await desk.call('wil', supplyRoutes.buildAssembly, { params: { assembly: crate.id }, body: { version: crate.version, quantity: '1' } });
    expect(one).toMatchObject({ state: 'open', open: '1' });
    expect(await shelf('CRATE')).toMatchObject({ onHand: 1, inbound: 1, committed: 2 });
    // The order is for one less: of the crate that is not put together yet the components go back.
    await desk.call('ida', orderRoutes.cancelOrder, {
      params: { order: order.id },
      body: { version: (await desk.read(order)).version, line: order.lines[0]!.id, quantity: '1', reason: 'too_late', purchases: 'cancel' },
    });
    expect([(await shelf('JAR')).setAside, (await shelf('KIT')).setAside, (await shelf('BOX')).setAside, (await shelf('LID')).onHand]).toEqual([
      0,
      0,
      0,
      free - 4,
    ]);
    expect((await shelf('KIT')).onHand).toBe(2);
    expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '1', waiting: '0' });
  });
});

describe('another item, and less', () => {
  test('a substitute goes at the price that was agreed, on a line of its own, and can be taken back', async () => {
    await desk.stockUp('TUB', '20');
    const order = await waiting('BOX', '10');
    const open = Number(order.lines[0]!.waiting);
    const routed = await desk.take(order, 1, { kind: 'substitute', item: 'TUB', quantity: String(open) });
    // Two tubs stand for one box.
    expect(routed.lines[0]).toMatchObject({ cancelled: String(open), waiting: '0' });
    expect(routed.lines[1]).toMatchObject({ item: 'TUB', quantity: String(open * 2), price: '0.26', standsFor: 1, state: 'covered' });
    const back = await desk.undo(routed, 1);
    expect(back.lines[0]).toMatchObject({ waiting: String(open), state: 'uncovered' });
    expect(back.lines[1]).toMatchObject({ state: 'done', promised: '0' });
  });

  test('a substitute goes in whole ones, at its own price where that is lower for the customer', async () => {
    await desk.stockUp('TUB', '20');
    await desk.db.updateTable('item_substitute').set({ ratio: '0.5' }).where('item', '=', 'BOX').execute();
    const order = await waiting('BOX', '9');
    const open = Number(order.lines[0]!.waiting);
    expect(open % 2).toBe(1);
    const sent = (open + 1) / 2;
    const page = await desk.call('ida', orderRoutes.readRoutes, { params: { order: order.id, line: order.lines[0]!.id } });
    const way = page.routes.find((row) => row.parts.every((part) => part.kind === 'substitute'))!;
    expect(way.remarks).toContain(`${sent} go for ${open}, 0.5 more than stand for them`);
    const { price: agreed } = order.lines[0]!;
    const own = (await desk.db.selectFrom('item').select('list_price').where('code', '=', 'TUB').executeTakeFirstOrThrow()).list_price;
    const routed = await desk.take(order, 1, { kind: 'substitute', item: 'TUB', quantity: String(open) });
    const asAgreed = divide(agreed, '0.5', 4);
    expect(routed.lines[1]).toMatchObject({ item: 'TUB', quantity: String(sent), price: compareDecimal(own, asAgreed) < 0 ? own : asAgreed });
    expect(compareDecimal(own, asAgreed)).toBe(-1);
    expect(routed.lines[1]!.priceSource).toBe('list price');
  });

  test('that has been picked is not taken back', async () => {
    await desk.stockUp('TUB', '20');
    const order = await waiting('BOX', '3');
    const waits = order.lines[0]!.waiting;
    const routed = await desk.take(order, 1, { kind: 'substitute', item: 'TUB', quantity: waits });
    const pick = { order: order.id, warehouse: 'MAR', lines: [{ line: routed.lines[1]!.id, quantity: '2' }] };
    const { id } = await desk.call('wil', shippingRoutes.startPick, { body: pick });
    const undo = { order: order.id, line: routed.lines[0]!.id, route: routed.lines[0]!.routes[0]!.id };
    expect((await desk.call('ida', orderRoutes.previewUndo, { params: undo })).barred).toEqual(['TUB is being picked: return the pick to stock first.']);
    await desk.call('wil', shippingRoutes.ship, { params: { shipment: id }, body: { tracking: 'T' } });
    const refused = await desk.send('ida', orderRoutes.undoRoute, { params: undo, body: {} });
    expect([refused.status, refused.problem.detail]).toEqual([409, expect.stringContaining('have left the house')]);
  });

  test('what is cut is owed again when that is taken back', async () => {
    const order = await waiting('BOX', '4');
    const waits = order.lines[0]!.waiting;
    const cut = await desk.take(order, 1, { kind: 'cut', quantity: waits });
    expect(cut.lines[0]).toMatchObject({ waiting: '0', cancelled: waits });
    expect((await desk.undo(cut, 1)).lines[0]).toMatchObject({ waiting: waits, cancelled: '0' });
  });

  test('on a draft the line is for less at once', async () => {
    const draft = await desk.draft([['CRATE', '6']]);
    const less = await desk.take(draft, 1, { kind: 'cut', quantity: '2' }, { kind: 'backorder', quantity: '4' });
    expect(less.lines[0]).toMatchObject({ quantity: '4', routes: [{ kind: 'backorder', quantity: '4' }] });
  });
});

describe('purchases', () => {
  test('of many lines gather on one draft, which meets minimum and lot once, and shrinks when a route is taken back', async () => {
    await desk.db.updateTable('supplier_item').set({ minimum: '50', multiple: '10' }).where('supplier', '=', 'SLOW').execute();
    const orders = [await waiting('BOX', '20'), await waiting('BOX', '17'), await waiting('BOX', '8')];
    const choices = orders.map((order) => ({
      line: order.lines[0]!.id,
      parts: [{ kind: 'special_order' as const, supplier: 'SLOW', quantity: order.lines[0]!.waiting }],
    }));
    const done = await desk.call('ida', shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices, accept: [] } });
    expect(done).toMatchObject({ lines: 3, left: [], documents: [{ kind: 'purchase' }] });
    const needed = orders.reduce((total, order) => total + Number(order.lines[0]!.waiting), 0);
    const made = await desk.readPurchase(done.documents[0]!.id);
    const bought = made.lines.reduce((total, line) => total + Number(line.quantity), 0);
    expect(bought).toBe(Math.max(50, Math.ceil(needed / 10) * 10));
    expect(made.lines.filter((line) => line.owed.some((row) => row.bound))).toHaveLength(3);
    // A fourth joins: of what only lifts the draft it takes its part.
    const fourth = await waiting('BOX', '2');
    await desk.take(fourth, 1, { kind: 'special_order', supplier: 'SLOW', quantity: fourth.lines[0]!.waiting });
    const more = await desk.readPurchase(made.id);
    expect(more.lines.reduce((total, line) => total + Number(line.quantity), 0)).toBe(
      Math.max(50, Math.ceil((needed + Number(fourth.lines[0]!.waiting)) / 10) * 10),
    );
    for (const order of [...orders, fourth]) await desk.undo(await desk.read(order), 1);
    expect((await desk.readPurchase(made.id)).state).toBe('cancelled');
    await desk.db.updateTable('supplier_item').set({ minimum: '1', multiple: '1' }).where('supplier', '=', 'SLOW').execute();
  });

  test('that were sent are cancelled with the supplier, or kept for others, when a route is taken back', async () => {
    const first = await desk.take(await waiting('JAR', '2000'), 1, { kind: 'special_order', supplier: 'SUP', quantity: '1000' });
    const { id } = first.lines[0]!.routes.find((route) => route.kind === 'special_order')!.document!;
    const draft = await desk.readPurchase(id);
    await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: id }, body: { version: draft.version } });
    const at = first.lines[0]!.routes.findIndex((route) => route.kind === 'special_order');
    const params = { order: first.id, line: first.lines[0]!.id, route: first.lines[0]!.routes[at]!.id };
    expect(await desk.call('ida', orderRoutes.previewUndo, { params })).toMatchObject({ asksSupplier: true, barred: [] });
    const unsaid = await desk.send('ida', orderRoutes.undoRoute, { params, body: {} });
    expect([unsaid.status, unsaid.problem.errors?.[0]?.field]).toEqual([422, 'body.supplier']);
    const kept = await desk.undo(await desk.read(first), 1, at, 'keep');
    // Free for anyone now: and the line itself is first to be promised them.
    expect(kept.lines[0]).toMatchObject({ promised: String(2000 - Number(kept.lines[0]!.waiting)) });
    expect((await desk.readPurchase(id)).lines[0]!.owed.some((row) => row.bound)).toBe(false);
  });
});

describe('many at once', () => {
  test('each line chooses from what those before it leave; what cannot be done is left as it is', async () => {
    await desk.stockUp('TUB', '100', 'QUI');
    const orders = [await waiting('TUB', '1060'), await waiting('TUB', '1060')];
    const lines = orders.map((order) => order.lines[0]!.id).join(',');
    const plan = await desk.call('ida', shortageRoutes.planRoutes, { query: { lines } });
    // Nobody sells it: the first gets the hundred from Quillhaven, the second has no way with a day.
    expect(plan.rows.map((row) => row.route?.parts.map((part) => [part.kind, part.quantity]) ?? null)).toEqual([null, null]);
    const choices = orders.map((order) => ({ line: order.lines[0]!.id, parts: [{ kind: 'transfer' as const, warehouse: 'QUI', quantity: '100' }] }));
    const done = await desk.call('ida', shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices, accept: [] } });
    expect(done).toMatchObject({ lines: 1, documents: [{ kind: 'transfer' }], left: [{ line: orders[1]!.lines[0]!.id }] });
    expect(done.left[0]!.why).toContain('nobody can do it');
    expect((await desk.read(orders[1]!)).lines[0]!.promised).toBe('0');
  });

  test('a line twice, and a line there is not, are refused and nothing is done', async () => {
    const order = await waiting('TUB', '5');
    const parts = [{ kind: 'cut' as const, quantity: '1' }];
    const twice = await desk.send('ida', shortageRoutes.routeMany, {
      body: { run: crypto.randomUUID(), choices: [1, 2].map(() => ({ line: order.lines[0]!.id, parts })), accept: [] },
    });
    expect([twice.status, twice.problem.errors?.[0]?.field]).toEqual([422, 'body.choices']);
    const none = await desk.send('ida', shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices: [{ line: 999_999, parts }], accept: [] } });
    expect(none.status).toBe(404);
    expect((await desk.read(order)).lines[0]!.cancelled).toBe('0');
  });

  test('goods that a late line gives back go to who waits, where that is agreed to', async () => {
    await desk.purchase('BOX', '500', '2027-03-30');
    // All that is free of it, on hand and due.
    const free = 5000 - Number((await desk.draft([['BOX', '5000']])).lines[0]!.uncovered);
    const late = await waiting('BOX', String(free));
    expect(late.lines[0]!.schedule.some((entry) => entry.day > TODAY)).toBe(true);
    const other = await waiting('BOX', '40');
    const lines = String(late.lines[0]!.id);
    const plan = await desk.call('ida', shortageRoutes.planRoutes, { query: { lines, policy: 'on_time' } });
    expect(plan.ripple.offers.map((row) => row.line)).toContain(other.lines[0]!.id);
    const [row] = plan.rows;
    const parts = row!.route!.parts.map(({ kind, quantity, supplier }) => ({ kind, quantity, ...(supplier ? { supplier } : {}) }));
    await desk.call('ida', shortageRoutes.routeMany, {
      body: { run: crypto.randomUUID(), choices: [{ line: row!.line, parts }], accept: [other.lines[0]!.id] },
    });
    expect((await desk.read(other)).lines[0]!.waiting).toBe('0');
  });

  test('a plan that two send is done once: the second is told that the orders changed', async () => {
    const order = await waiting('BOX', '50');
    const [row] = (await desk.call('ida', shortageRoutes.planRoutes, { query: { lines: String(order.lines[0]!.id) } })).rows;
    expect(row).toMatchObject({ order: order.id, version: order.version });
    const choices = [{ line: row!.line, version: row!.version, parts: [{ kind: 'special_order' as const, supplier: 'SUP', quantity: '20' }] }];
    const send = (login: 'ida' | 'sam') => desk.call(login, shortageRoutes.routeMany, { body: { run: crypto.randomUUID(), choices, accept: [] } });
    const done = await Promise.all([send('ida'), send('sam')]);
    expect(done.map(({ lines }) => lines).sort()).toEqual([0, 1]);
    const changed = `order ${order.number} has changed since it was looked at`;
    expect(done.flatMap(({ left }) => left)).toEqual([{ line: row!.line, why: changed }]);
    const bought = (await desk.read(order)).lines[0]!.routes.filter((route) => route.kind === 'special_order');
    expect(bought.map((route) => route.quantity)).toEqual(['20']);
    const single = await desk.send('sam', orderRoutes.chooseRoute, {
      params: { order: order.id, line: row!.line },
      body: { version: order.version, parts: [{ kind: 'special_order', supplier: 'SUP', quantity: '20' }] },
    });
    expect([single.status, single.problem.detail]).toEqual([409, `Order ${order.number} has changed since it was looked at.`]);
  });
});

describe('what a line has on the shelf', () => {
  test('stays its own when the rest is bought for it: its first day is not at risk', async () => {
    // Released with a plan, and routed after it was released: both ways.
    for (const planned of [true, false]) {
      await desk.stockUp('CRATE', '10');
      const free = 500 - Number((await desk.draft([['CRATE', '500']])).lines[0]!.uncovered);
      await desk.db
        .insertInto('supplier_item')
        .values({ supplier: 'SUP', item: 'CRATE', their_code: 'X', cost: '0.33', lead_days: null, minimum: '1', multiple: '1' })
        .onConflict((conflict) => conflict.doNothing())
        .execute();
      const buy = { kind: 'special_order' as const, supplier: 'SUP', quantity: '20' };
      const draft = await desk.draft([['CRATE', String(free + 20)]]);
      const order = planned
        ? await desk.release(await desk.take(draft, 1, buy))
        : await desk.take(await desk.release(await desk.route(draft, 1, 'backorder', '20')), 1, buy);
      const schedule = order.lines[0]!.schedule.map(({ day, quantity, arrives, broken }) => [day, quantity, arrives, broken]);
      expect(schedule).toEqual([
        ['2027-03-11', String(free), null, false],
        ['2027-03-17', '20', null, false],
      ]);
      expect((await desk.shortages()).some((row) => row.order === order.id)).toBe(false);
    }
  });
});
