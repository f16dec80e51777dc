import { stockRoutes } from '@nockwright/contract/items';
import { orderRoutes } from '@nockwright/contract/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { brokenInvariants } from './invariants';
import { decided } from './decided';
import { TestDesk } from './test-desk';
import { whyOf } from './said';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const daysOf = async (order: { readonly id: number }, line = 1) =>
  (await desk.read(order)).lines[line - 1]!.schedule.filter((row) => row.kept).map((row) => [row.day, row.quantity]);
const calls = async () => (await desk.call('ida', worklistRoutes.listCalls)).calls;

/** Ten on hand, ten due on the 15th: the first order has the day asked for, the second the inbound's day. */
async function lastTen() {
  await desk.stockUp('TUB', '10');
  await sellTubs();
  const purchase = await desk.purchase('TUB', '10', '2027-03-15');
  const first = await desk.order([['TUB', '10']]);
  const second = await desk.order([['TUB', '10']]);
  return { purchase, first, second };
}

async function sellTubs() {
  await desk.db
    .insertInto('supplier_item')
    .values({ supplier: 'SUP', item: 'TUB', their_code: 'X', cost: '1', lead_days: null, minimum: '1', multiple: '1' })
    .execute();
}

test.each([2, 12])('%i lines whose promises move, and are to be told, take no more statements than one', async (lines) => {
  const moved = async (item: string, count: number) => {
    await desk.stockUp(item, String(count));
    await desk.purchase(item, String(count), '2027-03-15');
    const each = Array.from({ length: count }, () => [item, '1'] as const);
    const first = await desk.order(each);
    const second = await desk.order(each);
    const wish = { ahead: first.id };
    const ripple = await desk.call('ida', orderRoutes.previewTurn, { params: { order: second.id }, query: wish });
    expect([ripple.later.length, ripple.earlier.length]).toEqual([count, count]);
    const before = desk.statements.length;
    await desk.call('ida', orderRoutes.rankOrder, {
      params: { order: second.id },
      body: { version: second.version, ...wish, reason: '', decision: decided(ripple) },
    });
    const taken = desk.statements.length - before;
    expect((await calls()).filter((call) => call.order === first.id)).toHaveLength(count);
    return taken;
  };
  await sellTubs();
  await moved('BOX', 1);
  const [one, many] = [await moved('TUB', 1), await moved('LID', lines)];
  expect(many).toBe(one);
});

describe('an order is moved up', () => {
  test('the ripple says who is hurt; done, both promises have moved and both customers are to be told', async () => {
    const { first, second } = await lastTen();
    const wish = { ahead: first.id };
    const ripple = await desk.call('ida', orderRoutes.previewTurn, { params: { order: second.id }, query: wish });
    expect(ripple.later).toMatchObject([
      { order: first.id, customer: 'Wether Hill', quantity: '10', from: '2027-03-11', to: '2027-03-16', days: 5, told: true, own: false },
    ]);
    expect(ripple.later[0]!.say).toBe('The 10 TUB we promised for Thursday the 11th will leave on Tuesday the 16th instead.');
    expect(ripple.earlier).toMatchObject([{ order: second.id, from: '2027-03-16', to: '2027-03-11', own: true }]);
    expect(await daysOf(first)).toEqual([['2027-03-11', '10']]); // looking does nothing

    const done = await desk.call('ida', orderRoutes.rankOrder, {
      params: { order: second.id },
      body: { version: second.version, ...wish, reason: 'rang twice', decision: decided(ripple) },
    });
    expect(done.placed).toBe(true);
    expect(await daysOf(first)).toEqual([['2027-03-16', '10']]);
    expect(await daysOf(second)).toEqual([['2027-03-11', '10']]);
    const open = await calls();
    expect(open.map((call) => [call.number, call.told, call.holds])).toEqual([
      [first.number, [{ day: '2027-03-11', quantity: '10' }], [{ day: '2027-03-16', quantity: '10' }]],
      [second.number, [{ day: '2027-03-16', quantity: '10' }], [{ day: '2027-03-11', quantity: '10' }]],
    ]);

    // Told, the call is off the list and in the history.
    const left = await desk.call('ida', worklistRoutes.closeCall, { params: { call: open[0]!.id }, body: { told: true } });
    expect(left.open).toBe(1);
    const history = await desk.call('ida', orderRoutes.orderHistory, { params: { order: first.id } });
    expect(history[0]!.kind).toBe('customer.told');
    expect(history.some((row) => row.kind === 'promise.moved' && whyOf(row).includes('rang twice'))).toBe(true);
  });

  test('a class does the same; moved back, nothing is left to tell', async () => {
    const { first, second } = await lastTen();
    const rank = async (order: { readonly id: number }, priority: number) => {
      const ripple = await desk.call('ida', orderRoutes.previewTurn, { params: { order: order.id }, query: { priority } });
      const { version } = await desk.read(order);
      return desk.call('ida', orderRoutes.rankOrder, { params: { order: order.id }, body: { version, priority, reason: '', decision: decided(ripple) } });
    };
    await rank(second, 1);
    expect(await daysOf(second)).toEqual([['2027-03-11', '10']]);
    expect(await calls()).toHaveLength(2);
    await rank(first, 1);
    // Of one class now, and entered first: its turn is before the other's again.
    expect(await daysOf(first)).toEqual([['2027-03-11', '10']]);
    expect(await calls()).toEqual([]);
  });

  test('what has changed since it was seen is told, and nothing is done', async () => {
    const { first, second } = await lastTen();
    const ripple = await desk.call('ida', orderRoutes.previewTurn, { params: { order: second.id }, query: { ahead: first.id } });
    const shelf = await desk.read(first);
    await desk.shipLine(shelf, 1, '4');
    const { version } = await desk.read(second);
    const late = await desk.send('ida', orderRoutes.rankOrder, {
      params: { order: second.id },
      body: { version, ahead: first.id, reason: '', decision: decided(ripple) },
    });
    expect(late.status).toBe(409);
    expect(late.problem.detail).toContain(`order ${first.number} line 1, TUB: you saw 10 on Tue 16 Mar, it is now 6 on Tue 16 Mar`);
    expect(await daysOf(second)).toEqual([['2027-03-16', '10']]);
    expect(await calls()).toEqual([]);
  });

  test('many placed ahead of the same order stand in the sequence in which they were placed', async () => {
    const { first } = await lastTen();
    await desk.stockUp('BOX', '1');
    const other = await desk.order([['BOX', '1']]);
    await desk.stockUp('LID', '5');
    const orders = [];
    for (let at = 0; at < 5; at++) orders.push(await desk.order([['LID', '1']]));
    for (const order of orders.slice(1)) {
      const ripple = await desk.call('ida', orderRoutes.previewTurn, { params: { order: order.id }, query: { ahead: orders[0]!.id } });
      const { version } = await desk.read(order);
      await desk.call('ida', orderRoutes.rankOrder, {
        params: { order: order.id },
        body: { version, ahead: orders[0]!.id, reason: '', decision: decided(ripple) },
      });
    }
    const rows = await desk.db.selectFrom('sales_order').select(['id', 'place', 'entered']).where('state', '=', 'released').execute();
    const minutes = (entered: string) => Date.parse(`${entered}Z`) / 60_000;
    const place = (row: (typeof rows)[number]) => (row.place === null ? minutes(row.entered) : Number(row.place));
    const sequence = [...rows].sort((a, b) => place(a) - place(b)).map((row) => row.id);
    const asked = [...orders.slice(1), orders[0]!].map((order) => order.id);
    expect(sequence.filter((id) => asked.includes(id))).toEqual(asked);
    // Those that came before stay before.
    expect(sequence.indexOf(first.id)).toBeLessThan(sequence.indexOf(other.id));
    expect(sequence.indexOf(other.id)).toBeLessThan(sequence.indexOf(asked[0]!));
  });

  test('a draft has no turn, nothing stands ahead of itself, and a wish is one thing', async () => {
    const { first, second } = await lastTen();
    const draft = await desk.draft([['TUB', '1']]);
    const ask = (order: number, query: { priority?: number; ahead?: number }) => desk.send('ida', orderRoutes.previewTurn, { params: { order }, query });
    expect((await ask(draft.id, { priority: 1 })).status).toBe(409);
    expect((await ask(first.id, { ahead: first.id })).problem.errors).toMatchObject([{ field: 'query.ahead' }]);
    expect((await ask(first.id, { ahead: draft.id })).problem.errors).toMatchObject([{ field: 'query.ahead' }]);
    expect((await ask(first.id, {})).status).toBe(422);
    expect((await ask(first.id, { priority: 1, ahead: second.id })).status).toBe(422);
    expect((await ask(first.id, { ahead: 99_999 })).status).toBe(404);
  });
});

describe('supply changes', () => {
  test('a slip with a decision moves the promises and notes the calls; without one they stand, at risk', async () => {
    const { purchase, second } = await lastTen();
    const query = { day: '2027-03-22' };
    const { ripple } = await desk.call('ida', supplyRoutes.previewReschedule, { params: { purchase: purchase.id, line: purchase.line }, query });
    expect(ripple.later).toMatchObject([{ order: second.id, from: '2027-03-16', to: '2027-03-23', days: 7 }]);
    const { version } = await desk.readPurchase(purchase.id);
    await desk.call('ida', supplyRoutes.reschedule, {
      params: { purchase: purchase.id, line: purchase.line },
      body: { version, expectedDay: '2027-03-22', note: 'furnace', decision: decided(ripple) },
    });
    expect(await daysOf(second)).toEqual([['2027-03-23', '10']]);
    expect((await desk.read(second)).lines[0]!.schedule[0]).toMatchObject({ arrives: null });
    const [call] = await calls();
    expect([call!.number, whyOf(call!)]).toEqual([second.number, expect.stringContaining('furnace')]);
  });

  test('fewer to come: the last in turn waits for the rest; more to come is offered to them', async () => {
    const { purchase, second } = await lastTen();
    const change = async (open: string, accept: number[] = []) => {
      const query = { open, ...(accept.length > 0 ? { accept: accept.join(',') } : {}) };
      const { ripple } = await desk.call('ida', supplyRoutes.previewReschedule, { params: { purchase: purchase.id, line: purchase.line }, query });
      const send = async () => {
        const { version } = await desk.readPurchase(purchase.id);
        return desk.call('ida', supplyRoutes.reschedule, {
          params: { purchase: purchase.id, line: purchase.line },
          body: { version, open, decision: decided(ripple, accept) },
        });
      };
      return { ripple, send };
    };
    const fewer = await change('6');
    expect(fewer.ripple.later).toMatchObject([{ order: second.id, quantity: '4', from: '2027-03-16', to: null, days: null }]);
    await fewer.send();
    expect(await daysOf(second)).toEqual([['2027-03-16', '6']]);
    expect(await desk.stock('TUB')).toMatchObject({ inbound: '6', committed: '16' });

    const line = (await desk.read(second)).lines[0]!.id;
    const more = await change('9');
    expect(more.ripple.offers).toMatchObject([{ line, quantity: '3', from: null, to: '2027-03-16' }]);
    const taken = await change('9', [line]);
    expect(taken.ripple.offers).toEqual([]);
    await taken.send();
    expect(await daysOf(second)).toEqual([['2027-03-16', '9']]);
    expect(await desk.stock('TUB')).toMatchObject({ inbound: '9', committed: '19' });
  });

  test('a receipt over what was awaited is on hand for anyone; short and closed, the last in turn waits', async () => {
    const { purchase, second } = await lastTen();
    const lines = `${purchase.line}:7`;
    const { ripple } = await desk.call('ida', supplyRoutes.previewReceipt, { params: { purchase: purchase.id }, query: { lines, closeRest: true } });
    // What came can leave today already, but the promise of it stays on its day; three have lost their goods.
    expect(ripple.later).toMatchObject([{ order: second.id, quantity: '3', to: null }]);
    const { version } = await desk.readPurchase(purchase.id);
    const body = { version, lines: [{ line: purchase.line, quantity: '7' }], closeRest: true, decision: decided(ripple) };
    expect((await desk.send('wil', supplyRoutes.receive, { params: { purchase: purchase.id }, body })).status).toBe(403);
    await desk.call('ida', supplyRoutes.receive, { params: { purchase: purchase.id }, body });
    expect(await daysOf(second)).toEqual([['2027-03-16', '7']]);
    expect(await desk.stock('TUB')).toMatchObject({ on_hand: '17', inbound: '0', committed: '17' });

    const more = await desk.purchase('TUB', '5', '2027-03-10');
    await desk.receive(more.id, '8');
    expect((await desk.readPurchase(more.id)).lines[0]).toMatchObject({ quantity: '8', received: '8', open: '0' });
    expect(await desk.stock('TUB')).toMatchObject({ on_hand: '25', inbound: '0' });
    const offers = await desk.call('ida', promiseRoutes.listOffers);
    expect(offers.offers).toMatchObject([{ order: second.id, quantity: '10', to: '2027-03-11' }]);
  });

  test('a count below all that is set aside, for picks and for special orders together, is refused', async () => {
    await desk.stockUp('BOX', '5');
    const picked = await desk.order([['BOX', '5']]);
    const draft = await desk.draft([['BOX', '5']]);
    const special = await desk.release(await desk.route(draft, 1, 'special_order', '5', 'SUP'));
    const purchase = special.lines[0]!.routes[0]!.document!.id;
    const view = await desk.readPurchase(purchase);
    await desk.call('ida', supplyRoutes.sendPurchase, { params: { purchase }, body: { version: view.version } });
    await desk.receive(purchase, '5');
    const lines = [{ line: picked.lines[0]!.id, quantity: '5' }];
    await desk.call('wil', shippingRoutes.startPick, { body: { order: picked.id, warehouse: 'MAR', lines } });
    // Each for itself would fit into seven; both together do not.
    const { status, problem } = await desk.send('ida', stockRoutes.previewCount, { params: { item: 'BOX' }, query: { warehouse: 'MAR', counted: '7' } });
    expect([status, problem.errors]).toEqual([
      422,
      [{ field: 'query.counted', message: '10 are set aside for picks, transfers and special orders: put back or cancel some of that first, then count' }],
    ]);
    const body = { warehouse: 'MAR', counted: '7', reason: 'count of the bay', decision: { seen: [], accept: [] } };
    expect((await desk.send('ida', stockRoutes.countStock, { params: { item: 'BOX' }, body })).problem.errors?.[0]?.field).toBe('body.counted');
  });

  test('a count below what is promised makes the last in turn wait; above it, who waits is offered the goods', async () => {
    const { first, second } = await lastTen();
    const count = async (counted: string, accept: number[] = []) => {
      const query = { warehouse: 'MAR', counted, ...(accept.length > 0 ? { accept: accept.join(',') } : {}) };
      const ripple = await desk.call('ida', stockRoutes.previewCount, { params: { item: 'TUB' }, query });
      const body = { warehouse: 'MAR', counted, reason: 'count of the bay', decision: decided(ripple, accept) };
      return { ripple, done: () => desk.send('ida', stockRoutes.countStock, { params: { item: 'TUB' }, body }) };
    };
    const less = await count('7');
    // The first holds what there is there is and takes the rest of the inbound; the second is last and lacks three.
    expect(less.ripple.later.map((row) => [row.number, row.quantity, row.to])).toEqual([
      [second.number, '3', null],
      [first.number, '3', '2027-03-16'],
    ]);
    expect((await less.done()).status).toBe(200);
    expect(await desk.stock('TUB')).toMatchObject({ on_hand: '7', committed: '17' });
    const again = await less.done();
    expect(again.problem.errors).toMatchObject([{ field: 'body.counted' }]);

    const lines = [(await desk.read(second)).lines[0]!.id];
    const more = await count('12', lines);
    expect((await more.done()).status).toBe(200);
    expect((await desk.read(second)).lines[0]!.waiting).toBe('0');
  });
});

test('a cancellation offers what it frees; taken in part, the rest stays free', async () => {
  const { first, second } = await lastTen();
  const third = await desk.draft([['TUB', '6']]);
  await desk.route(third, 1, 'backorder', '6');
  const waits = await desk.release(await desk.read(third));
  const line = waits.lines[0]!.id;
  const before = await desk.call('ida', orderRoutes.previewCancellation, { params: { order: first.id }, query: {} });
  expect(before.ripple.offers.map((row) => [row.number, row.quantity, row.from, row.to])).toEqual([
    [second.number, '10', '2027-03-16', '2027-03-11'],
    [waits.number, '6', null, '2027-03-16'],
  ]);
  const { ripple } = await desk.call('ida', orderRoutes.previewCancellation, { params: { order: first.id }, query: { accept: String(line) } });
  expect(ripple.earlier).toMatchObject([{ line, quantity: expect.any(String) as string, from: null, to: '2027-03-11' }]);
  await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: first.id },
    body: { version: first.version, reason: 'other', purchases: 'keep', decision: decided(ripple, [line]) },
  });
  expect((await desk.read(waits)).lines[0]).toMatchObject({ promised: '6', waiting: '0' });
  expect(await daysOf(second)).toEqual([['2027-03-16', '10']]);
});

describe('a quantity is raised', () => {
  test('of what is free: nobody moves', async () => {
    const { first, second } = await lastTen();
    await desk.stockUp('TUB', '3');
    const line = first.lines[0]!.id;
    const preview = await desk.call('ida', orderRoutes.previewRaise, { params: { order: first.id, line }, query: { quantity: '15' } });
    expect(preview).toMatchObject({ uncovered: '2', ripple: { later: [] } });
    const raised = await desk.call('ida', orderRoutes.raiseLine, {
      params: { order: first.id, line },
      body: { version: first.version, quantity: '15', claim: false, decision: decided(preview.ripple) },
    });
    expect(raised.lines[0]).toMatchObject({ quantity: '15', promised: '13', waiting: '2' });
    expect(await daysOf(second)).toEqual([['2027-03-16', '10']]);
  });

  test('at its turn: those behind it move, as was seen', async () => {
    const { first, second } = await lastTen();
    const line = first.lines[0]!.id;
    const preview = await desk.call('ida', orderRoutes.previewRaise, { params: { order: first.id, line }, query: { quantity: '14', claim: true } });
    expect(preview.schedule).toEqual([
      { day: '2027-03-11', quantity: '10' },
      { day: '2027-03-16', quantity: '4' },
    ]);
    expect(preview.ripple.later).toMatchObject([{ order: second.id, quantity: '4', to: null }]);
    await desk.call('ida', orderRoutes.raiseLine, {
      params: { order: first.id, line },
      body: { version: first.version, quantity: '14', claim: true, decision: decided(preview.ripple) },
    });
    expect(await daysOf(first)).toEqual([
      ['2027-03-11', '10'],
      ['2027-03-16', '4'],
    ]);
    expect(await daysOf(second)).toEqual([['2027-03-16', '6']]);
    const lower = await desk.send('ida', orderRoutes.previewRaise, { params: { order: first.id, line }, query: { quantity: '3' } });
    expect(lower.problem.errors).toMatchObject([{ field: 'query.quantity' }]);
  });
});

describe('the whole book anew', () => {
  async function finished() {
    for (;;) {
      const run = await desk.call('ida', promiseRoutes.readResequence);
      if (run && run.state !== 'running') return run;
      await new Promise((resolve) => setImmediate(resolve));
    }
  }

  test('a run finds who gains and who loses; accepted, all promises move and all are to be told', async () => {
    const { first, second } = await lastTen();
    await desk.db.updateTable('sales_order').set({ priority: 1 }).where('id', '=', second.id).execute();
    await desk.call('ida', promiseRoutes.startResequence, { body: {} });
    const run = await finished();
    expect(run.message).toBe('');
    expect(run.ripple.earlier).toMatchObject([{ order: second.id, to: '2027-03-11' }]);
    expect(run.ripple.later).toMatchObject([{ order: first.id, to: '2027-03-16' }]);
    expect(run.before).toMatchObject({ lateLines: 1, lateDays: 5 });
    await desk.call('ida', promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: true, lines: [] } });
    expect(await daysOf(first)).toEqual([['2027-03-16', '10']]);
    expect(await daysOf(second)).toEqual([['2027-03-11', '10']]);
    expect(await calls()).toHaveLength(2);
    const twice = await desk.send('ida', promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: true, lines: [] } });
    expect(twice.status).toBe(409);
  });

  test('the book has changed since: all is refused; some are moved by their own ripple', async () => {
    const { first, second } = await lastTen();
    await desk.db.updateTable('sales_order').set({ priority: 1 }).where('id', '=', second.id).execute();
    await desk.call('ida', promiseRoutes.startResequence, { body: {} });
    const run = await finished();
    await desk.shipLine(await desk.read(first), 1, '4');
    const all = await desk.send('ida', promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: true, lines: [] } });
    expect(all.status).toBe(409);
    expect(all.problem.detail).toContain('Nothing was moved');
    const lines = [second.lines[0]!.id];
    const choice = await desk.call('ida', promiseRoutes.previewChoice, { params: { run: run.id }, query: { lines: lines.join(',') } });
    expect(choice.later).toMatchObject([{ order: first.id, quantity: '6' }]);
    await desk.call('ida', promiseRoutes.acceptResequence, { params: { run: run.id }, body: { all: false, lines, decision: decided(choice) } });
    expect(await daysOf(second)).toEqual([
      ['2027-03-11', '6'],
      ['2027-03-16', '4'],
    ]);
  });

  test('of four who start a run at once one does, and the others are told', async () => {
    await lastTen();
    const answers = await Promise.all(Array.from({ length: 4 }, () => desk.send('sam', promiseRoutes.startResequence, { body: {} })));
    const refused = answers.filter(({ status }) => status !== 200);
    // One that was done before another began leaves room for it.
    expect(refused.length).toBeLessThan(4);
    for (const { status, problem } of refused) expect([status, problem.detail]).toEqual([409, 'A run is under way already: wait for it, or stop it.']);
    expect((await finished()).state).toBe('done');
  });

  test('a run whose server has gone is told as failed', async () => {
    await desk.db
      .insertInto('resequence_run')
      .values({ state: 'running', started_at: new Date(), started_by: 1, beat_at: new Date(0) })
      .execute();
    expect(await finished()).toMatchObject({ state: 'failed', message: expect.stringContaining('Nothing was moved') as string });
  });

  test('a run can be stopped, and one whose server has gone does not stand in the way', async () => {
    await lastTen();
    const started = await desk.call('ida', promiseRoutes.startResequence, { body: {} });
    const stopped = await desk.send('sam', promiseRoutes.stopResequence, { params: { run: started.id }, body: {} });
    // It may have been quicker than the wish to stop it.
    expect([200, 409]).toContain(stopped.status);
    await desk.db
      .insertInto('resequence_run')
      .values({ state: 'running', started_at: new Date(), started_by: 1, beat_at: new Date(0) })
      .execute();
    await desk.call('ida', promiseRoutes.startResequence, { body: {} });
    const failed = await desk.db.selectFrom('resequence_run').select('state').where('beat_at', '=', new Date(0)).executeTakeFirstOrThrow();
    expect(failed.state).toBe('failed');
    expect((await finished()).state).toBe('done');
  });
});

describe('how sure', () => {
  test('a promise on inbound says how often it holds; a customer who wants it surer gets a later day', async () => {
    const { second } = await lastTen();
    await slowSupplier();
    expect((await desk.read(second)).lines[0]).toMatchObject({
      holds: 80,
      sure: 90,
      safeDay: '2027-03-18',
      holdsWords: 'Confidence 80 %; 90 % by Thu 18 Mar. Tarnbeck, by 10 receipts.',
    });
    await desk.purchase('TUB', '5', '2027-03-15');
    const day = async () => (await desk.draft([['TUB', '5']])).lines[0]!.schedule[0];
    expect(await day()).toMatchObject({ day: '2027-03-16', holds: 80 });
    await desk.call('ida', promiseRoutes.setConfidence, { body: { customer: 1, confidence: 90 } });
    expect(await day()).toMatchObject({ day: '2027-03-18', holds: 90 });
    const refused = await desk.send('ida', promiseRoutes.setConfidence, { body: { customer: null, confidence: 95 } });
    expect(refused.status).toBe(403);
    await desk.call('mona', promiseRoutes.setConfidence, { body: { customer: null, confidence: 99 } });
    await desk.call('ida', promiseRoutes.setConfidence, { body: { customer: 1, confidence: null } });
    expect(await day()).toMatchObject({ day: '2027-03-25', holds: 100 });
    // What was told stands.
    expect((await desk.read(second)).lines[0]!.schedule[0]).toMatchObject({ day: '2027-03-16', kept: true });
  });

  test('go by the newest four hundred receipts of a supplier: what was longer ago says little about today', async () => {
    await desk.stockUp('JAR', '5');
    await desk.purchase('JAR', '5', '2027-03-15');
    const receive = async (receipts: number, day: string) => {
      const receipt = { supplier: 'SUP', item: 'JAR', promised_day: '2027-01-04', received_day: day };
      await desk.db
        .insertInto('supplier_receipt')
        .values(Array.from({ length: receipts }, () => receipt))
        .execute();
      return (await desk.draft([['JAR', '10']])).lines[0]!.schedule.map((entry) => entry.holds);
    };
    expect(await receive(40, '2027-01-13')).toEqual([100, 0]);
    expect(await receive(360, '2027-01-04')).toEqual([100, 90]);
    expect(await receive(40, '2027-01-04')).toEqual([100, 100]);
  });

  test('what waits of a released order is shown, offered and promised as surely as its customer wants; what was told stands', async () => {
    await sellTubs();
    await slowSupplier();
    await desk.stockUp('TUB', '4');
    const draft = await desk.draft([['TUB', '10']]);
    await desk.route(draft, 1, 'backorder', '6');
    const order = await desk.release(await desk.read(draft));
    await desk.call('ida', promiseRoutes.setConfidence, { body: { customer: 1, confidence: 90 } });
    await desk.purchase('TUB', '20', '2027-03-15');
    const shown = (await desk.read(order)).lines[0]!;
    expect(shown.schedule.map(({ day, quantity, kept }) => [day, quantity, kept])).toEqual([
      ['2027-03-11', '4', true],
      ['2027-03-18', '6', false],
    ]);
    const rest = await desk.call('ida', orderRoutes.promiseRest, { params: { order: order.id, line: shown.id } });
    // Told now, and from now on counted by the supplier's day: it is not at risk for having been promised surely.
    expect(rest.lines[0]!.schedule.map(({ day, quantity, kept, arrives }) => [day, quantity, kept, arrives])).toEqual([
      ['2027-03-11', '4', true, null],
      ['2027-03-18', '6', true, null],
    ]);
    const line = { order: order.id, line: shown.id };
    const preview = await desk.call('ida', orderRoutes.previewRaise, { params: line, query: { quantity: '14' } });
    expect(preview.schedule).toEqual([
      { day: '2027-03-11', quantity: '4' },
      { day: '2027-03-18', quantity: '10' },
    ]);
    const raised = await desk.call('ida', orderRoutes.raiseLine, {
      params: line,
      body: { version: rest.version, quantity: '14', claim: false, decision: decided(preview.ripple) },
    });
    expect(raised.lines[0]!.schedule.map(({ day, quantity }) => ({ day, quantity }))).toEqual(preview.schedule);
  });
});

/** Ten receipts of the supplier: eight in time, one two days late and one nine. */
async function slowSupplier() {
  const late = [0, 0, 0, 0, 0, 0, 0, 0, 2, 9];
  await desk.db
    .insertInto('supplier_receipt')
    .values(late.map((days) => ({ supplier: 'SUP', item: 'TUB', promised_day: '2027-01-04', received_day: `2027-01-${String(4 + days).padStart(2, '0')}` })))
    .execute();
}
