import { customerRoutes } from '@nockwright/contract/customers';
import { exchangeRoutes } from '@nockwright/contract/exchange';
import { itemRoutes } from '@nockwright/contract/items';
import { asLineView, ORDER_SORTS, orderRoutes, type OrderList, type OrderRow } from '@nockwright/contract/orders';
import type { QueryOf } from '@nockwright/contract/shape';
import { WhatIf } from '@nockwright/core/orders';
import { promiseRoutes } from '@nockwright/contract/promise';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { supplyRoutes } from '@nockwright/contract/supply';
import { TestDesk, TODAY } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '100');
});
afterAll(() => desk.close());

test('one field finds suppliers by a piece of their name', async () => {
  const found = await desk.call('ida', exchangeRoutes.find, { query: { q: 'and sons' } });
  expect(found).toEqual([{ kind: 'supplier', id: 1, key: 'SLOW', label: 'Slow and Sons', hint: 'supplier' }]);
});

describe('finding', () => {
  test.each([
    ['wether', ['C1']],
    ['C2', ['C2']],
    ['960114', ['C2', 'C1']],
    ['ab12cd', ['C2', 'C1']],
    ['nether garrick', ['C2']],
    ['nobody', []],
    ['%', []],
    ['_', []],
  ])('customers by any fragment: %j', async (search, numbers) => {
    const found = await desk.call('ida', customerRoutes.findCustomers, { query: { search } });
    expect(found.map((row) => row.number)).toEqual(numbers);
  });

  describe('a misspelt word', () => {
    test.each([
      ['gluss', 'a wrong letter'],
      ['glss', 'one left out'],
      ['glasss', 'one too many'],
      ['galss', 'two in the wrong sequence'],
      ['jar gals', 'the beginning of one, beside one that is right'],
    ])('%s finds what was meant: %s', async (search) => {
      const found = await desk.call('ida', itemRoutes.findItems, { query: { search } });
      expect(found.map((row) => [row.code, row.corrected])).toContainEqual(['JAR', true]);
    });

    test('is left alone where something has it as it stands, and where nothing is near', async () => {
      const found = await desk.call('ida', itemRoutes.findItems, { query: { search: 'glass jar' } });
      expect(new Set(found.map((row) => row.corrected))).toEqual(new Set([false]));
      expect(await desk.call('ida', itemRoutes.findItems, { query: { search: 'xylophone' } })).toEqual([]);
    });

    test('finds customers, too', async () => {
      const find = async (search: string) => (await desk.call('ida', customerRoutes.findCustomers, { query: { search } })).map((row) => row.name);
      expect(await find('wehter hill')).toEqual(['Wether Hill']);
      expect(await find('garick')).toEqual(['Garrick & Lowe']);
    });
  });

  test('items by fragments of code and description, what the customer buys first, the discontinued last', async () => {
    await desk.order([['JAR', '1']]);
    const find = async (search: string) => (await desk.call('ida', itemRoutes.findItems, { query: { search, customer: 1 } })).map((row) => row.code);
    expect(await find('glass')).toEqual(['JAR', 'BOX', 'LID', 'TUB']);
    expect(await find('lid gl')).toEqual(['LID']);
    expect((await find('o')).at(-1)).toBe('OLD');
    const [jar] = await desk.call('ida', itemRoutes.findItems, { query: { search: 'jar' } });
    expect(jar!.units.map((unit) => [unit.code, unit.name, unit.numerator])).toEqual([
      ['EA', 'each', '1'],
      ['DZN', 'dozen', '12'],
      ['XTY', 'tray', '24'],
    ]);
  });

  test('anything by one field', async () => {
    const order = await desk.order([['JAR', '1']]);
    const kinds = async (q: string) => (await desk.call('ida', exchangeRoutes.find, { query: { q } })).map((row) => `${row.kind} ${row.key}`);
    expect(await kinds(order.number!)).toContain(`order ${order.number}`);
    // The item whose code begins so stands before those whose group has the word.
    expect((await kinds('jar'))[0]).toBe('item JAR');
    expect(await kinds('garrick')).toEqual(['customer C2']);
    expect(await kinds('   ')).toEqual([]);
  });
});

async function allPages(query: QueryOf<typeof orderRoutes.listOrders>): Promise<number[]> {
  const seen: number[] = [];
  let after: string | null = null;
  do {
    const page: OrderList = await desk.call('ida', orderRoutes.listOrders, { query: { ...query, ...(after ? { after } : {}) } });
    seen.push(...page.rows.map((row) => row.id));
    after = page.next;
  } while (after !== null);
  return seen;
}

describe('the list of orders', () => {
  test.each(ORDER_SORTS.flatMap((sort) => [[sort, false] as const, [sort, true] as const]))(
    'sorted by %s, reversed %s, goes through all pages in one sequence',
    async (sort, reverse) => {
      const all = await desk.call('ida', orderRoutes.listOrders, { query: { state: 'all', sort, reverse } });
      const seen = await allPages({ state: 'all', sort, reverse });
      expect(new Set(seen).size).toBe(seen.length);
      const value = (row: OrderRow) =>
        ({ newest: row.id, customer: row.customer, requested: row.requestedDay, promised: row.promisedDay ?? '9', amount: Number(row.amount) })[sort];
      const values = all.rows.map(value);
      const up = (sort === 'newest' || sort === 'amount') === reverse;
      const sorted = [...values].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0) * (up ? 1 : -1));
      expect(values).toEqual(sorted);
    },
  );

  test.each(['x', '[]', '["1"]', '["2027-13-01 or 1",5]', '["2027-02-31",5]', '["2027-13-01",5]', '["infinity",1.5]', '[1,2]'])(
    'a place that is none is refused: %s',
    async (after) => {
      const { status, problem } = await desk.send('ida', orderRoutes.listOrders, { query: { sort: 'promised', after } });
      expect([status, problem.errors?.[0]?.field]).toEqual([422, 'query.after']);
    },
  );

  test('is exported as it is filtered, or as named', async () => {
    const one = await desk.order([['JAR', '4']]);
    const response = await desk.request('ida', 'GET', `/api/order-export?state=all&orders=${one.id}`);
    const [head, row] = (await response.text()).split('\r\n');
    expect(head!.split(',').slice(0, 3)).toEqual(['order', 'kind', 'customer']);
    expect(row!.split(',').slice(0, 3)).toEqual([one.number, 'order', 'Wether Hill']);
    expect((await desk.request('ida', 'GET', '/api/order-export?orders=1,x')).status).toBe(422);
  });

  test('papers of several orders are one PDF; without any there is none', async () => {
    const [one, other] = [await desk.order([['JAR', '1']]), await desk.order([['JAR', '1']])];
    const response = await desk.request('ida', 'GET', `/api/order-print?orders=${one.id},${other.id}`);
    expect(
      Buffer.from(await response.arrayBuffer())
        .toString('latin1')
        .match(/\/Type \/Page\b/g),
    ).toHaveLength(2);
    const draft = await desk.draft([]);
    expect((await desk.request('ida', 'GET', `/api/order-print?orders=${draft.id}`)).status).toBe(404);
  });

  test('views are kept by name, each for who keeps it', async () => {
    await desk.call('ida', orderRoutes.saveView, { body: { name: 'mine', query: 'state=held' } });
    const [kept] = await desk.call('ida', orderRoutes.saveView, { body: { name: 'mine', query: 'state=waiting&sort=amount' } });
    expect(kept).toMatchObject({ name: 'mine', query: 'state=waiting&sort=amount' });
    expect(await desk.call('sam', orderRoutes.listViews, {})).toEqual([]);
    expect((await desk.send('sam', orderRoutes.removeView, { params: { view: kept!.id } })).status).toBe(404);
    expect(await desk.call('ida', orderRoutes.removeView, { params: { view: kept!.id } })).toEqual([]);
  });

  test('comes a page at a time, newest first, none twice and none left out', async () => {
    for (let at = 0; at < 105; at++) await desk.draft([]);
    const seen = await allPages({ state: 'all' });
    expect(seen).toEqual([...new Set(seen)].sort((a, b) => b - a));
    const { total } = await desk.db
      .selectFrom('sales_order')
      .select(({ fn }) => fn.countAll().as('total'))
      .executeTakeFirstOrThrow();
    expect(seen).toHaveLength(Number(total));
  });

  test('is narrowed by state, and by words in number, customer and their order number', async () => {
    const draft = await desk.draft([['LID', '5']]);
    await desk.call('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, poNumber: 'WH-77/a' } });
    await desk.route(draft, 1, 'backorder', '5');
    const waiting = await desk.release(await desk.read(draft));
    const ids = async (query: { search?: string; state?: 'open' | 'waiting' | 'draft' | 'done' }) =>
      (await desk.call('ida', orderRoutes.listOrders, { query })).rows.map((row) => row.id);
    expect(await ids({ search: 'wh-77' })).toEqual([waiting.id]);
    expect(await ids({ search: `${waiting.number} wether` })).toEqual([waiting.id]);
    expect(await ids({ state: 'waiting' })).toEqual([waiting.id]);
    expect(await ids({ state: 'draft' })).not.toContain(waiting.id);
    const [row] = (await desk.call('ida', orderRoutes.listOrders, { query: { search: 'wh-77' } })).rows;
    expect(row).toMatchObject({ progress: 'part backordered', waiting: 1, promisedDay: null });
  });

  test('says the same words of an order as the order itself, at every stage', async () => {
    const order = await desk.order([['JAR', '4']]);
    const words = async () => {
      const [row] = (await desk.call('ida', orderRoutes.listOrders, { query: { search: order.number!, state: 'all' } })).rows;
      const { progress } = await desk.read(order);
      expect(row!.progress).toBe(progress);
      return progress;
    };
    expect(await words()).toBe('promised');
    const pick = await desk.call('wil', shippingRoutes.startPick, {
      body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '1' }] },
    });
    expect(await words()).toBe('picking');
    await desk.call('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: '' } });
    expect(await words()).toBe('part shipped');
    await desk.shipLine(order, 1, '3');
    expect(await words()).toBe('shipped');
  });
});

test('the day asked for is run back from the delivery day by the carrier', async () => {
  const draft = await desk.draft([['JAR', '1']]);
  const asked = await desk.call('ida', orderRoutes.changeOrder, {
    params: { order: draft.id },
    body: { version: draft.version, requestKind: 'deliver_by', requestedDay: '2027-03-15' },
  });
  // Monday's delivery leaves on Friday: one working day on the way.
  expect(asked.lines[0]!.requested).toBe('2027-03-12');
  expect(asked.lines[0]!.why[0]).toContain('must ship from Marrowby by Fri 12 Mar');
});

test('an order is checked without being made: what it would be promised, and nothing is held for it', async () => {
  await desk.stockUp('TUB', '10', 'QUI');
  const check = (query: { lines: string; warehouse?: string; day?: string; complete?: boolean }) =>
    desk.send('fay', promiseRoutes.checkPromise, { query: { warehouse: 'QUI', ...query } });
  const { reply } = await check({ lines: 'TUB:4,TUB:4', day: '2027-03-12' });
  expect(reply).toMatchObject({ day: '2027-03-12', complete: '2027-03-12' });
  expect(reply.lines[1]).toEqual({
    item: 'TUB',
    quantity: '4',
    schedule: [{ day: '2027-03-12', quantity: '4' }],
    uncovered: '0',
    daysLate: 0,
    say: 'All 4 leave on Friday the 12th.',
  });
  expect((await check({ lines: 'TUB:14' })).reply).toMatchObject({ complete: null, lines: [{ uncovered: '4', daysLate: null }] });
  // Complete: one line that is not covered leaves the order without a day.
  expect((await check({ lines: 'TUB:4,BOX:999', complete: true })).reply.complete).toBeNull();
  // Asked again it is answered the same: nothing was held.
  expect((await check({ lines: 'TUB:10' })).reply).toMatchObject({ complete: '2027-03-09', lines: [{ uncovered: '0' }] });
});

test.each([
  [{ lines: 'NONE:1' }, 'query.lines[0]', 'there is no item NONE'],
  [{ lines: 'BOX:1,BOX' }, 'query.lines[1]', 'expected an item and a quantity above 0 as JAR-340:120, got BOX'],
  [{ lines: 'BOX:0' }, 'query.lines[0]', 'expected an item and a quantity above 0 as JAR-340:120, got BOX:0'],
  [{ lines: 'BOX:1', warehouse: 'ELSE' }, 'query.warehouse', 'there is no warehouse ELSE; there are MAR, QUI'],
  [{ lines: 'BOX:1', day: '2027-03-08' }, 'query.day', `Mon 8 Mar has passed; expected ${TODAY} or later`],
])('a check of %j is refused at %s', async (query, field, message) => {
  const { status, problem } = await desk.send('ida', promiseRoutes.checkPromise, { query: { warehouse: 'MAR', ...query } });
  expect([status, problem.errors]).toEqual([422, [{ field, message }]]);
});

test('a line of another warehouse is promised from there; a warehouse there is not is refused', async () => {
  await desk.stockUp('TUB', '9', 'QUI');
  const draft = await desk.draft([]);
  const preview = (warehouse: string) =>
    desk.send('ida', orderRoutes.previewLine, { params: { order: draft.id }, query: { item: 'TUB', quantity: '9', warehouse } });
  expect((await preview('QUI')).reply.uncovered).toBe('0');
  expect((await preview('MAR')).reply.uncovered).toBe('9');
  expect((await preview('ELSE')).problem.errors).toEqual([{ field: 'query.warehouse', message: 'there is no warehouse ELSE; there are MAR, QUI' }]);
});

test.each([
  ['from the shelf', '7', undefined],
  ['part from what is due', '30', undefined],
  ['more than there is', '500', undefined],
  ['by the dozen', '2', 'DZN'],
])('a line tried on its slice is the line that is added: %s', async (_, quantity, unit) => {
  await desk.stockUp('JAR', '20');
  await desk.purchase('JAR', '50', '2027-03-20');
  const draft = await desk.draft([['JAR', '3']]);
  const slice = await desk.call('ida', orderRoutes.readSlice, { params: { order: draft.id }, query: { item: 'JAR' } });
  const wish = { quantity, ...(unit ? { unit } : {}) };
  const tried = new WhatIf(slice).try(wish);
  const added = await desk.call('ida', orderRoutes.addLine, { params: { order: draft.id }, body: { item: 'JAR', ...wish } });
  expect(tried).toMatchObject({ ok: true });
  if (tried.ok) expect({ ...asLineView(tried.line), id: added.lines[1]!.id }).toEqual(added.lines[1]);
});

test('what is discontinued is sold until it is sold out', async () => {
  await desk.stockUp('OLD', '5');
  const draft = await desk.draft([['OLD', '3']]);
  const more = await desk.send('ida', orderRoutes.addLine, { params: { order: draft.id }, body: { item: 'OLD', quantity: '6' } });
  expect(more.problem.errors).toEqual([{ field: 'body.quantity', message: 'OLD is discontinued; JAR follows it: 5 each are left to sell' }]);
  await desk.release(draft);
  const rest = await desk.send('ida', orderRoutes.addLine, { params: { order: (await desk.draft([])).id }, body: { item: 'OLD', quantity: '3' } });
  expect(rest.problem.errors).toEqual([{ field: 'body.quantity', message: 'OLD is discontinued; JAR follows it: 2 each are left to sell' }]);
  await desk.order([['OLD', '2']]);
});

test.each([
  [{ item: 'NONE', quantity: '1' }, 'body.item', 'there is no item NONE'],
  [{ item: 'OLD', quantity: '1' }, 'body.item', 'OLD is discontinued; JAR follows it'],
  [{ item: 'JAR', quantity: '1', unit: 'KGM' }, 'body.unit', 'JAR is not sold by kg; it is sold by each, dozen, tray'],
  [{ item: 'JAR', quantity: '1', requestedDay: '2027-03-08' }, 'body.requestedDay', `2027-03-08 has passed; expected ${TODAY} or later`],
  [{ item: 'JAR', quantity: '1', warehouse: 'ELSE' }, 'body.warehouse', 'there is no warehouse ELSE; there are MAR, QUI'],
])('a line %j is refused at %s', async (body, field, message) => {
  const draft = await desk.draft([]);
  const { status, problem } = await desk.send('ida', orderRoutes.addLine, { params: { order: draft.id }, body });
  expect([status, problem.errors]).toEqual([422, [{ field, message }]]);
  expect((await desk.read(draft)).lines).toEqual([]);
});

test('lines keep their order and have no gaps when one is taken off', async () => {
  const draft = await desk.draft([
    ['JAR', '1'],
    ['LID', '2'],
    ['BOX', '3'],
  ]);
  const rest = await desk.call('ida', orderRoutes.removeLine, { params: { order: draft.id, line: draft.lines[1]!.id } });
  expect(rest.lines.map((line) => [line.lineNo, line.item])).toEqual([
    [1, 'JAR'],
    [2, 'BOX'],
  ]);
});

test('an item shows what is on hand, committed and due, and what can still be promised day by day', async () => {
  await desk.stockUp('BOX', '10');
  const purchase = await desk.purchase('BOX', '20', '2027-03-15');
  const order = await desk.order([['BOX', '14']]);
  const { pools } = await desk.call('ida', itemRoutes.readItem, { params: { item: 'BOX' } });
  expect(pools[0]).toMatchObject({ warehouse: 'MAR', onHand: '10', inbound: '20', committed: '14', available: '16' });
  expect(pools[0]!.timeline.map(({ day, change, projected, available, kind }) => [day, change, projected, available, kind])).toEqual([
    ['2027-03-09', '10', '10', '0', 'on_hand'],
    ['2027-03-11', '-10', '0', '0', 'promise'],
    ['2027-03-16', '20', '20', '16', 'purchase'],
    ['2027-03-16', '-4', '16', '16', 'promise'],
  ]);
  expect(pools[0]!.timeline.map((step) => [step.order, step.purchase])).toEqual([
    [null, null],
    [order.id, null],
    [null, purchase.id],
    [order.id, null],
  ]);
  const found = await desk.call('ida', itemRoutes.listStock, { query: { search: 'box' } });
  expect(found.count).toBe(found.rows.length);
  expect(found.rows[0]).toMatchObject({ code: 'BOX', onHand: '10', committed: '14', inbound: '20', available: '16', waiting: '0' });
});

test('shortages are told by what is at stake: what waits, and what comes late', async () => {
  const purchase = await desk.purchase('BOX', '30', '2027-03-17');
  const late = await desk.order([['BOX', '40']]);
  const view = await desk.readPurchase(purchase.id);
  await desk.call('ida', supplyRoutes.reschedule, {
    params: { purchase: purchase.id, line: purchase.line },
    body: { version: view.version, expectedDay: '2027-04-12' },
  });
  const draft = await desk.draft([['TUB', '1000']]);
  await desk.route(draft, 1, 'backorder', '1000');
  const waits = await desk.release(await desk.read(draft));
  const rows = await desk.shortages();
  expect(rows.find((row) => row.order === waits.id)).toMatchObject({ kind: 'waiting', quantity: '1000', possibleDay: null, daysLate: null });
  expect(rows.find((row) => row.order === late.id)).toMatchObject({ kind: 'late', possibleDay: '2027-04-13' });
  expect(rows.map((row) => Number(row.value))).toEqual(rows.map((row) => Number(row.value)).sort((a, b) => b - a));
  expect(await desk.call('ida', orderRoutes.readRisks, { query: { orders: `${waits.id},${late.id}` } })).toEqual([{ order: late.id, day: '2027-04-13' }]);
});

test('a board is read by the page: words find, all of it is counted and summed up, money has two decimals', async () => {
  const waits = async (item: string, quantity: string) => {
    const draft = await desk.draft([[item, quantity]]);
    return desk.release(await desk.route(draft, 1, 'backorder', draft.lines[0]!.uncovered));
  };
  const [big, small] = [await waits('TUB', '300'), await waits('TUB', '7')];
  const find = (query: { q?: string; only?: string; chosen?: string; most?: number }) => desk.call('ida', shortageRoutes.listShortages, { query });
  const [line, other] = [big.lines[0]!.id, small.lines[0]!.id];
  const all = await find({ q: 'tub wether' });
  expect(all.lines).toEqual(expect.arrayContaining([line, other]));
  const first = await find({ q: 'TUB', most: 1 });
  expect([first.rows.length, first.count, first.value, first.lines]).toEqual([1, all.count, all.value, all.lines]);
  const sum = (rows: readonly { readonly value: string }[]) => rows.reduce((total, row) => total + Number(row.value), 0).toFixed(2);
  expect(all.value).toBe(sum(all.rows));
  for (const { value } of all.rows) expect(value).toMatch(/^\d+\.\d\d$/);
  expect((await find({ only: `${other}`, chosen: `${line},999999` })).rows.map((row) => row.line)).toEqual([other]);
  expect((await find({ only: `${other}`, chosen: `${line},999999` })).chosen).toEqual([line]);
  expect(await find({ q: 'no such words' })).toEqual({ rows: [], count: 0, value: '0.00', lines: [], chosen: [] });
  // What is typed is looked for as it is typed.
  expect((await find({ q: '%' })).count).toBe(0);

  await desk.stockUp('LID', '20', 'QUI');
  await desk.stockUp('LID', '20');
  const orders = [await desk.order([['LID', '2']]), await desk.order([['LID', '3']])];
  const board = (query: { q?: string; most?: number; warehouse?: string }) => desk.call('wil', shippingRoutes.readBoard, { query });
  const lids = await board({ q: 'lid' });
  expect(lids.ready.map((row) => row.order)).toEqual(expect.arrayContaining(orders.map((order) => order.id)));
  const one = await board({ q: 'lid', most: 1 });
  expect([one.ready.length, one.count]).toEqual([1, lids.count]);
  expect((await board({ q: `lid ${orders[1]!.number}` })).ready).toMatchObject([{ order: orders[1]!.id, lines: [{ item: 'LID', quantity: '3' }] }]);
  expect((await board({ q: `lid ${orders[1]!.number}`, warehouse: 'QUI' })).count).toBe(0);
});

test('a purchase says every fault at once, with line and field', async () => {
  const { status, problem } = await desk.send('ida', supplyRoutes.createPurchase, {
    body: {
      supplier: 'NONE',
      warehouse: 'ELSE',
      lines: [
        { item: 'JAR', quantity: '5', expectedDay: '2027-01-01' },
        { item: 'TUB', quantity: '1' },
      ],
    },
  });
  expect(status).toBe(422);
  expect(problem.errors!.map((error) => error.field)).toEqual(['body.supplier', 'body.warehouse', 'body.lines[0].expectedDay']);
});

test('what the customer buys stands before what begins as it was typed', async () => {
  await desk.stockUp('TUB', '5000');
  await desk.order([['TUB', '1']], 'ida', 2);
  const find = async (search: string, customer: number) =>
    (await desk.call('ida', itemRoutes.findItems, { query: { search, customer } })).map((row) => row.code).slice(0, 2);
  expect(await find('glass', 2)).toEqual(['TUB', 'BOX']);
  expect(await find('gl', 2)).toEqual(['TUB', 'BOX']);
  expect(await find('box', 2)).toEqual(['BOX']);
});

test('what has the words itself before what has them in the name of its group alone, however often that is bought', async () => {
  await desk.stockUp('LID', '10');
  for (let times = 0; times < 3; times++) await desk.order([['LID', '1']]);
  const found = await desk.call('ida', itemRoutes.findItems, { query: { search: 'jar', customer: 1 } });
  expect(found.slice(0, 2).map((row) => [row.code, row.byGroup])).toEqual([
    ['JAR', false],
    ['LID', true],
  ]);
  expect(found.filter((row) => row.code !== 'OLD' && !row.byGroup).map((row) => row.code)).toEqual(['JAR']);
});
