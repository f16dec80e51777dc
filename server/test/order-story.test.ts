import { orderRoutes } from '@nockwright/contract/orders';
import { shippingRoutes } from '@nockwright/contract/shipping';
import type { RouteChoice } from '@nockwright/contract/shortages';
import { supplyRoutes } from '@nockwright/contract/supply';
import { brokenInvariants } from './invariants';
import { seenOf, TestDesk, TODAY } from './test-desk';
import { said, whyOf } from './said';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
});
afterAll(() => desk.close());
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));

/** The ways that stand alone: kind, who, ship day. */
const alone = (routes: readonly RouteChoice[]) =>
  routes.flatMap(({ parts: [part, ...more], shipDay }) => (more.length === 0 ? [[part!.kind, part!.supplier, shipDay]] : [])).sort();
const scheduleOf = (line: { schedule: readonly { day: string; quantity: string }[] }) => line.schedule.map(({ day, quantity }) => [day, quantity]);

test('lines are carried to another place, and numbered anew', async () => {
  const draft = await desk.draft([
    ['JAR', '1'],
    ['LID', '2'],
    ['BOX', '3'],
  ]);
  const move = (line: number, to: number) =>
    desk.send('ida', orderRoutes.moveLine, { params: { order: draft.id, line: draft.lines[line - 1]!.id }, body: { to } });
  const first = (await move(3, 1)).reply;
  expect(first.lines.map(({ lineNo, item }) => [lineNo, item])).toEqual([
    [1, 'BOX'],
    [2, 'JAR'],
    [3, 'LID'],
  ]);
  expect((await move(3, 4)).problem.errors).toEqual([{ field: 'body.to', message: 'expected 1 to 3, got 4' }]);
  expect((await move(3, 3)).reply.lines.map((line) => line.item)).toEqual(['JAR', 'LID', 'BOX']);
});

test('on hand and what is available are told apart (common practice)', async () => {
  await desk.stockUp('JAR', '220');
  const order = await desk.order([['JAR', '10']]);
  expect(await desk.stock('JAR')).toMatchObject({ on_hand: '220', committed: '10' });
  await desk.shipLine(order, 1, '5');
  expect(await desk.stock('JAR')).toMatchObject({ on_hand: '215', committed: '5' });
  await desk.shipLine(order, 1, '5');
  expect(await desk.stock('JAR')).toMatchObject({ on_hand: '210', committed: '0' });
  expect((await desk.read(order)).progress).toBe('shipped');
});

test('24 each and 3 dozen ship as 24 and 36 each and stay as ordered (common practice)', async () => {
  const order = await desk.order([
    ['JAR', '24'],
    ['JAR', '3', 'DZN'],
  ]);
  expect(order.lines.map((line) => [line.quantity, line.unit, line.stockQuantity])).toEqual([
    ['24', 'EA', '24'],
    ['3', 'DZN', '36'],
  ]);
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: order.lines.map((line) => ({ line: line.id, quantity: line.stockQuantity })) },
  });
  expect(pick.lines.map((line) => [line.quantity, line.orderQuantity, line.orderUnit])).toEqual([
    ['24', '24', 'EA'],
    ['36', '3', 'DZN'],
  ]);
  await desk.call('wil', shippingRoutes.cancelPick, { params: { shipment: pick.id }, body: { reason: 'test' } });
  await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: order.id },
    body: { version: (await desk.read(order)).version, reason: 'other', purchases: 'keep' },
  });
});

test('a draft promises nothing; released, the next order sees less', async () => {
  await desk.stockUp('LID', '10');
  const draft = await desk.draft([['LID', '10']]);
  expect(await desk.stock('LID')).toMatchObject({ committed: '0' });
  const other = await desk.draft([['LID', '10']]);
  expect(other.lines[0]!.uncovered).toBe('0');
  await desk.release(draft);
  expect((await desk.read(other)).lines[0]!.uncovered).toBe('10');
});

test('a release is refused when the promise is no longer what was seen, and nothing is done', async () => {
  await desk.stockUp('BOX', '10');
  const [mine, theirs] = [await desk.draft([['BOX', '10']]), await desk.draft([['BOX', '10']], 'sam')];
  await desk.release(mine);
  const { status, problem } = await desk.send('sam', orderRoutes.releaseOrder, { params: { order: theirs.id }, body: seenOf(theirs) });
  expect(status).toBe(409);
  expect(problem.errors).toEqual([
    { field: 'lines[0]', message: expect.stringMatching(/line 1, BOX: you saw 10 on .* it is now 10 backordered \(ida released order \d+\)$/) as string },
  ]);
  expect((await desk.read(theirs)).state).toBe('draft');
  // Seen as it is, it still needs a way.
  const again = await desk.send('sam', orderRoutes.releaseOrder, { params: { order: theirs.id }, body: seenOf(await desk.read(theirs)) });
  expect([again.status, again.problem.errors?.[0]?.field]).toEqual([422, 'lines[0].routes']);
});

test('a short line is split over waiting, a special order and a drop shipment', async () => {
  const draft = await desk.draft([['BOX', '30']]);
  const line = draft.lines[0]!;
  const ways = await desk.call('ida', orderRoutes.readRoutes, { params: { order: draft.id, line: line.id } });
  expect(ways.short).toBe('30');
  expect(alone(ways.routes)).toEqual([
    ['backorder', null, '2027-03-17'],
    ['cut', null, null],
    ['drop_ship', 'SUP', '2027-03-16'],
    ['special_order', 'SLOW', '2027-03-31'],
    ['special_order', 'SUP', '2027-03-17'],
  ]);
  await desk.route(draft, 1, 'backorder', '5');
  await desk.route(draft, 1, 'special_order', '15', 'SUP');
  const routed = await desk.route(draft, 1, 'drop_ship', '10', 'SUP');
  expect(scheduleOf(routed.lines[0]!)).toEqual([
    ['2027-03-16', '10'],
    ['2027-03-17', '15'],
  ]);
  expect(routed.lines[0]!.uncovered).toBe('5');
  // Every quantity has its way now: nothing is asked for again, though some of it is late.
  expect((await desk.call('ida', orderRoutes.readRoutes, { params: { order: draft.id, line: line.id } })).short).toBe('0');
  const order = await desk.release(routed);
  expect(order.lines[0]).toMatchObject({ promised: '15', dropShip: '10', waiting: '5' });

  const [special, drop] = order.lines[0]!.routes.filter((route) => route.document !== null);
  // The supplier's notice ships the drop shipment; our stock never moves.
  const before = await desk.stock('BOX');
  const notice = await desk.readPurchase(drop!.document!.id);
  // More than the customer ordered cannot be shipped to them: the supplier's greater quantity is refused, a less one is not.
  const more = await desk.send('ida', supplyRoutes.reschedule, {
    params: { purchase: notice.id, line: notice.lines[0]!.id },
    body: { version: notice.version, open: '11' },
  });
  expect([more.status, more.problem.errors?.[0]?.field]).toEqual([422, 'body.open']);
  expect(
    (
      await desk.send('ida', supplyRoutes.confirmDespatch, {
        params: { purchase: notice.id },
        body: { version: notice.version, tracking: '', lines: [{ line: notice.lines[0]!.id, quantity: '10' }] },
      })
    ).status,
  ).toBe(409);
  const sent = await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: notice.id }, body: { version: notice.version } });
  await desk.call('wil', supplyRoutes.confirmDespatch, {
    params: { purchase: sent.id },
    body: { version: sent.version, tracking: 'ST-1', lines: [{ line: sent.lines[0]!.id, quantity: '10' }] },
  });
  expect(await desk.stock('BOX')).toEqual(before);
  expect((await desk.read(order)).lines[0]).toMatchObject({ shipped: '10', dropShip: '0' });

  // The special order comes in and is set aside for its line: nobody else can have it.
  const bound = await desk.readPurchase(special!.document!.id);
  await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase: bound.id }, body: { version: bound.version } });
  const receipt = await desk.receive(bound.id, '15');
  expect(receipt.goesTo).toMatchObject([{ order: order.id, lineNo: 1, quantity: '15' }]);
  expect((await desk.draft([['BOX', '1']])).lines[0]!.uncovered).toBe('1');
  await desk.shipLine(order, 1, '15');
  const left = (await desk.read(order)).lines[0]!;
  expect(left).toMatchObject({ shipped: '25', waiting: '5', promised: '0' });

  // What waits is offered the next purchase, and promised on purpose.
  const next = await desk.purchase('BOX', '5', '2027-03-18');
  const offered = (await desk.read(order)).lines[0]!;
  expect(offered.schedule).toMatchObject([{ day: '2027-03-19', quantity: '5', kept: false }]);
  const promised = await desk.call('ida', orderRoutes.promiseRest, { params: { order: order.id, line: left.id } });
  expect(promised.lines[0]).toMatchObject({
    promised: '5',
    waiting: '0',
    routes: expect.not.arrayContaining([expect.objectContaining({ kind: 'backorder' })]) as unknown,
  });
  expect((await desk.readPurchase(next.id)).lines[0]!.owed).toMatchObject([{ order: order.id, quantity: '5', bound: false }]);
});

test('a slip shows what it breaks before it is done; the promise stands and is at risk', async () => {
  const purchase = await desk.purchase('TUB', '40', '2027-03-15').catch((error: Error) => error);
  // Nobody sells TUB: a purchase of it is refused with the line at fault.
  expect(String(purchase)).toContain('body.lines[0].item');

  const jars = await desk.purchase('JAR', '500', '2027-03-15');
  const order = await desk.order([['JAR', '600']]);
  const preview = await desk.call('ida', supplyRoutes.previewReschedule, { params: { purchase: jars.id, line: jars.line }, query: { day: '2027-03-29' } });
  expect(preview.availableDay).toBe('2027-03-30');
  expect(preview.ripple.later).toMatchObject([
    { order: order.id, from: '2027-03-16', to: '2027-03-30', days: 14, told: true, say: expect.stringContaining('instead') as string },
  ]);
  expect((await desk.read(order)).lines[0]!.schedule.every((entry) => entry.arrives === null)).toBe(true);
  const view = await desk.readPurchase(jars.id);
  await desk.call('ida', supplyRoutes.reschedule, {
    params: { purchase: jars.id, line: jars.line },
    body: { version: view.version, expectedDay: '2027-03-29', note: 'furnace' },
  });
  const late = (await desk.read(order)).lines[0]!;
  expect(late.schedule.at(-1)).toMatchObject({ day: '2027-03-16', arrives: '2027-03-30', kept: true });
  expect(await desk.shortages()).toEqual(expect.arrayContaining([expect.objectContaining({ order: order.id, kind: 'late', possibleDay: '2027-03-30' })]));

  // Nothing more comes: the promise has lost its goods and waits again, and its history says why.
  const closing = await desk.readPurchase(jars.id);
  await desk.call('ida', supplyRoutes.closeLine, {
    params: { purchase: jars.id, line: jars.line },
    body: { version: closing.version, reason: 'furnace gone' },
  });
  const lost = await desk.read(order);
  expect(Number(lost.lines[0]!.waiting)).toBeGreaterThan(0);
  const history = await desk.call('ida', orderRoutes.orderHistory, { params: { order: order.id } });
  expect(said(history[0]!)).toContain('wait again');
  expect(whyOf(history[0]!)).toContain('furnace gone');
  expect((await desk.readPurchase(jars.id)).state).toBe('cancelled');
});

test('cancelling deals with the purchase and the pick that hang on it, in the same step', async () => {
  const draft = await desk.draft([['LID', '7']]);
  await desk.route(draft, 1, 'special_order', '7', 'SLOW');
  const order = await desk.release(await desk.read(draft));
  const purchase = order.lines[0]!.routes[0]!.document!.id;
  const view = await desk.readPurchase(purchase);
  await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase }, body: { version: view.version } });
  const preview = await desk.call('ida', orderRoutes.previewCancellation, { params: { order: order.id }, query: { line: order.lines[0]!.id, quantity: '3' } });
  expect(preview.bound).toMatchObject([{ kind: 'purchase', what: expect.stringContaining('supplier must be told') as string }]);

  const version = (await desk.read(order)).version;
  await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: order.id },
    body: { version, line: order.lines[0]!.id, quantity: '3', reason: 'customer_changed_mind', purchases: 'cancel' },
  });
  expect((await desk.readPurchase(purchase)).lines[0]).toMatchObject({ closed: '3', open: '4' });
  const rest = await desk.read(order);
  await desk.call('ida', orderRoutes.cancelOrder, { params: { order: order.id }, body: { version: rest.version, reason: 'too_late', purchases: 'keep' } });
  expect((await desk.read(order)).progress).toBe('cancelled');
  // Kept for others: 4 lids are free again.
  expect(await desk.readPurchase(purchase)).toMatchObject({ state: 'sent', lines: [{ open: '4', owed: [] }] });

  await desk.stockUp('LID', '20', 'QUI');
  const quillhaven = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 1 } });
  const moved = await desk.call('ida', orderRoutes.changeOrder, { params: { order: quillhaven.id }, body: { version: quillhaven.version, warehouse: 'QUI' } });
  const picked = await desk.release(await desk.call('ida', orderRoutes.addLine, { params: { order: moved.id }, body: { item: 'LID', quantity: '8' } }));
  await desk.call('wil', shippingRoutes.startPick, { body: { order: picked.id, warehouse: 'QUI', lines: [{ line: picked.lines[0]!.id, quantity: '8' }] } });
  expect(await desk.stock('LID', 'QUI')).toMatchObject({ on_hand: '20', allocated: '8', committed: '8' });
  await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: picked.id },
    body: { version: (await desk.read(picked)).version, reason: 'duplicate', purchases: 'keep' },
  });
  expect(await desk.stock('LID', 'QUI')).toMatchObject({ on_hand: '20', allocated: '0', committed: '0' });
});

test('another service of the carrier brings it sooner: the day to leave by follows', async () => {
  await desk.db.insertInto('carrier_service').values({ code: 'SLOWVAN', name: 'Slow van', transit_days: 3 }).execute();
  await desk.stockUp('LID', '20');
  const draft = await desk.draft([['LID', '2']]);
  const change = (body: object, version: number) => desk.send('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version, ...body } });
  const asked = (await change({ requestKind: 'deliver_by', requestedDay: '2027-03-11' }, draft.version)).reply;
  expect(asked.lines[0]!.daysLate).toBe(0);
  const slower = (await change({ carrierService: 'SLOWVAN' }, asked.version)).reply;
  expect(slower.carrier).toEqual({ code: 'SLOWVAN', name: 'Slow van', transitDays: 3 });
  expect(slower.lines[0]!.daysLate).toBeGreaterThan(0);
  const wrong = await change({ carrierService: 'NOPE' }, slower.version);
  expect([wrong.status, wrong.problem.errors![0]!.field]).toEqual([422, 'body.carrierService']);
  // Whoever saw the quicker one and wants another is told what it is by now.
  await desk.db.insertInto('carrier_service').values({ code: 'EXPRESS', name: 'Express', transit_days: 0 }).execute();
  const collides = await change({ carrierService: 'EXPRESS', seen: { carrierService: 'GROUND' } }, asked.version);
  expect([collides.status, collides.problem.errors]).toEqual([409, [expect.objectContaining({ field: 'body.carrierService', theirs: 'SLOWVAN' })]]);
  expect((await change({ carrierService: 'GROUND' }, slower.version)).reply.lines[0]!.daysLate).toBe(0);
  expect((await desk.call('ida', orderRoutes.listCarriers)).map((row) => row.code)).toEqual(['EXPRESS', 'GROUND', 'SLOWVAN']);
  await desk.db.deleteFrom('carrier_service').where('code', '<>', 'GROUND').execute();
});

test('a purchase of 10 of which 8 come and the rest is closed: 8 are on hand and nothing is awaited (common practice)', async () => {
  const before = await desk.stock('BOX', 'QUI');
  const purchase = await desk.purchase('BOX', '10', '2027-03-12', 'QUI');
  await desk.receive(purchase.id, '8');
  const view = await desk.readPurchase(purchase.id);
  await desk.call('ida', supplyRoutes.closeLine, { params: { purchase: purchase.id, line: purchase.line }, body: { version: view.version, reason: 'short' } });
  expect(await desk.stock('BOX', 'QUI')).toEqual({ ...before, on_hand: '8' });
  expect((await desk.readPurchase(purchase.id)).state).toBe('closed');
});

test('an order that must leave complete is not picked in part', async () => {
  await desk.stockUp('BOX', '10', 'QUI');
  const draft = await desk.call('ida', orderRoutes.createOrder, { body: { customer: 2 } });
  const moved = await desk.call('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, warehouse: 'QUI' } });
  await desk.call('ida', orderRoutes.addLine, { params: { order: moved.id }, body: { item: 'BOX', quantity: '4' } });
  const order = await desk.release(await desk.call('ida', orderRoutes.addLine, { params: { order: moved.id }, body: { item: 'LID', quantity: '4' } }));
  const part = await desk.send('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'QUI', lines: [{ line: order.lines[0]!.id, quantity: '4' }] },
  });
  expect([part.status, part.problem.detail]).toEqual([409, expect.stringContaining('line 2 would stay behind')]);
});

test('the book that can be downloaded promises what the screens say', async () => {
  const { promiseBook, checkOrderBook } = await import('@nockwright/core/promise');
  const book = (await (await desk.request('ida', 'GET', '/api/order-book')).json()) as Parameters<typeof promiseBook>[0];
  expect(checkOrderBook(book)).toEqual([]);
  const result = promiseBook(book);
  expect(result.promises.length).toBeGreaterThan(3);
  const orders = await desk.call('ida', orderRoutes.listOrders, { query: { state: 'open' } });
  for (const row of orders.rows.filter((candidate) => candidate.state === 'released')) {
    const view = await desk.read(row);
    for (const line of view.lines) {
      const promise = result.promises.find((entry) => entry.id === `${view.number}/${line.lineNo}`);
      const mine = line.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity, kept }) => [day, Number(quantity), kept]);
      expect(mine).toEqual((promise?.schedule ?? []).map(({ date, quantity, kept }) => [date, quantity, kept]));
      expect(Number(line.uncovered)).toBe(promise?.uncovered ?? 0);
    }
  }
});

test('the acknowledgement is a PDF of what was told', async () => {
  await desk.stockUp('JAR', '500');
  const order = await desk.order([['JAR', '1']]);
  const response = await desk.request('ida', 'GET', `/api/orders/${order.id}/acknowledgement`);
  expect(response.headers.get('Content-Type')).toBe('application/pdf');
  expect(
    Buffer.from(await response.arrayBuffer())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  const draft = await desk.draft([['JAR', '1']]);
  expect((await desk.request('ida', 'GET', `/api/orders/${draft.id}/acknowledgement`)).status).toBe(404);
});

test('what happened is told of the order and of its items: who, what, when', async () => {
  const order = await desk.order([['JAR', '2']], 'sam');
  const history = await desk.call('ida', orderRoutes.orderHistory, { params: { order: order.id } });
  expect(history.map((row) => row.who)).toEqual(history.map(() => 'sam'));
  expect(said(history[0]!)).toBe(`released order ${order.number}`);
  expect(history[0]!.at).toContain(TODAY);
  expect(said(history.at(-1)!)).toContain('started draft');
});
