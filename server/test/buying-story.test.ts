import { orderRoutes } from '@nockwright/contract/orders';
import { itemRoutes } from '@nockwright/contract/items';
import { supplyRoutes } from '@nockwright/contract/supply';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';
import { said } from './said';

let desk: TestDesk;
beforeEach(async () => (desk = await TestDesk.open()));
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const supplier = (code = 'SUP') => desk.call('ida', supplyRoutes.readSupplier, { params: { supplier: code } });

describe('a supplier', () => {
  test('what they want is changed, and the next purchase is reckoned by it', async () => {
    const before = await supplier();
    expect(before).toMatchObject({
      leadDays: 5,
      nextOrder: { taken: '2027-03-09', arrives: '2027-03-16' },
      items: [{ item: 'BOX' }, { item: 'JAR' }, { item: 'LID' }],
    });
    const after = await desk.call('ida', supplyRoutes.changeSupplier, {
      params: { supplier: 'SUP' },
      body: { version: before.version, leadDays: 2, orderDays: [4], transitDays: 1, minimumValue: '250', closed: ['2027-03-12'], cutoff: '12:00' },
    });
    // Taken on Thursday the 11th, two working days with Friday closed: Tuesday the 16th, a day on the road.
    expect(after).toMatchObject({ nextOrder: { taken: '2027-03-11', arrives: '2027-03-17' }, minimumValue: '250', cutoff: '12:00', closed: ['2027-03-12'] });
    const stale = await desk.send('sam', supplyRoutes.changeSupplier, { params: { supplier: 'SUP' }, body: { version: before.version, leadDays: 9 } });
    expect([stale.status, stale.problem.detail]).toEqual([409, expect.stringContaining('ida changed the terms of Tarnbeck')]);
    const wrong = await desk.send('ida', supplyRoutes.changeSupplier, { params: { supplier: 'SUP' }, body: { version: after.version, cutoff: '25:00' } });
    expect(wrong.problem.errors?.[0]?.field).toBe('body.cutoff');
    const [told] = await desk.call('ida', supplyRoutes.supplierHistory, { params: { supplier: 'SUP' } });
    expect([told!.who, said(told!)]).toEqual(['ida', 'changed the terms of Tarnbeck']);
  });

  test('an item’s terms are set with their breaks, checked, and dropped again', async () => {
    const { version } = await supplier();
    const at = { params: { supplier: 'SUP', item: 'TUB' } };
    const terms = { cost: '2', minimum: '10', multiple: '5' };
    const wrong = await desk.send('ida', supplyRoutes.setSupplierItem, {
      ...at,
      body: {
        version,
        ...terms,
        breaks: [
          { from: '50', cost: '1.8' },
          { from: '50', cost: '1.9' },
        ],
      },
    });
    expect(wrong.problem.errors?.[0]?.field).toBe('body.breaks[1].from');
    const dear = await desk.send('ida', supplyRoutes.setSupplierItem, { ...at, body: { version, ...terms, breaks: [{ from: '50', cost: '2.1' }] } });
    expect(dear.problem.errors?.[0]?.field).toBe('body.breaks[0].cost');
    const set = await desk.call('ida', supplyRoutes.setSupplierItem, {
      ...at,
      body: { version, ...terms, breaks: [{ from: '50', cost: '1.8' }], theirCode: 'T-9' },
    });
    expect(set.items.find((row) => row.item === 'TUB')).toMatchObject({ theirCode: 'T-9', minimum: '10', breaks: [{ from: '50', cost: '1.8' }] });
    const made = await desk.call('ida', supplyRoutes.buyToStock, { body: { lines: [{ item: 'TUB', warehouse: 'MAR', supplier: 'SUP', quantity: '47' }] } });
    const draft = await desk.readPurchase(made.purchases[0]!.id);
    // 47 are lifted to 50 by the lot, and 50 reach the break.
    expect(draft.lines.map((line) => [line.quantity, line.cost, line.lifts])).toEqual([
      ['47', '1.8', false],
      ['3', '1.8', true],
    ]);
    const dropped = await desk.call('ida', supplyRoutes.dropSupplierItem, at);
    expect(dropped.items.map((row) => row.item)).toEqual(['BOX', 'JAR', 'LID']);
    expect((await desk.send('ida', supplyRoutes.dropSupplierItem, at)).status).toBe(404);
    expect((await desk.send('wil', supplyRoutes.dropSupplierItem, at)).status).toBe(403);
  });

  test('how they deliver is told from what came: on time, in full, damaged', async () => {
    expect((await supplier()).score).toMatchObject({ receipts: 0, onTimePercent: null, inFullPercent: null });
    const whole = await desk.purchase('JAR', '10', '2027-03-09');
    await desk.receive(whole.id, '10');
    const short = await desk.purchase('LID', '10', '2027-03-09');
    await desk.receive(short.id, '6');
    const view = await desk.readPurchase(short.id);
    await desk.call('ida', supplyRoutes.closeLine, { params: { purchase: short.id, line: short.line }, body: { version: view.version, reason: 'no more' } });
    expect((await supplier()).score).toMatchObject({ receipts: 2, onTimePercent: 100, endedLines: 2, inFullPercent: 50, damagedLines: 0, bought: '5.28' });
    expect((await desk.call('ida', supplyRoutes.listSuppliers)).find((row) => row.code === 'SUP')).toMatchObject({
      receipts: 2,
      onTimePercent: 100,
      openOrders: 0,
    });
  });
});

describe('a draft purchase', () => {
  test('is changed by hand: quantities, costs, lines and note; what an order rests on keeps its quantity and day', async () => {
    const draft = await desk.draft([['LID', '20']]);
    const order = await desk.take(draft, 1, { kind: 'special_order', supplier: 'SUP', quantity: '20' });
    await desk.release(order);
    const [purchase] = await desk.call('ida', supplyRoutes.listPurchases, { query: {} });
    const before = await desk.readPurchase(purchase!.id);
    const [bound] = before.lines;
    expect(bound).toMatchObject({ bound: true, quantity: '20' });
    const at = { params: { purchase: before.id } };
    const keep = { id: bound!.id, item: 'LID', quantity: '20' };
    for (const [lines, field] of [
      [[{ ...keep, quantity: '5' }], 'body.lines[0].quantity'],
      [[{ ...keep, expectedDay: '2027-03-30' }], 'body.lines[0].expectedDay'],
      [[keep, { item: 'OLD', quantity: '5' }], 'body.lines[1].item'],
      [[keep, { id: 9999, item: 'JAR', quantity: '5' }], 'body.lines[1].id'],
    ] as const) {
      const refused = await desk.send('ida', supplyRoutes.changeDraft, { ...at, body: { version: before.version, lines } });
      expect([refused.status, refused.problem.errors?.[0]?.field]).toEqual([422, field]);
    }
    const changed = await desk.call('ida', supplyRoutes.changeDraft, {
      ...at,
      body: {
        version: before.version,
        note: 'side door',
        lines: [
          { ...keep, cost: '0.3' },
          { item: 'JAR', quantity: '48', expectedDay: '2027-03-20' },
        ],
      },
    });
    expect(changed).toMatchObject({
      note: 'side door',
      lines: [
        { item: 'LID', quantity: '20', cost: '0.3' },
        { item: 'JAR', quantity: '48', cost: '0.33', bound: false },
      ],
    });
    // Left out of the list: the free line is struck, the one that an order rests on stays.
    const struck = await desk.call('ida', supplyRoutes.changeDraft, { ...at, body: { version: changed.version, lines: [] } });
    expect(struck.lines.map((line) => line.item)).toEqual(['LID']);
    const sent = await desk.call('ida', supplyRoutes.sendPurchase, { ...at, body: { version: struck.version } });
    const late = await desk.send('ida', supplyRoutes.changeDraft, { ...at, body: { version: sent.version, lines: [] } });
    expect(late.status).toBe(409);
  });

  test('is not emptied: it is cancelled instead', async () => {
    const made = await desk.call('ida', supplyRoutes.createPurchase, { body: { supplier: 'SUP', warehouse: 'MAR', lines: [{ item: 'LID', quantity: '20' }] } });
    const refused = await desk.send('ida', supplyRoutes.changeDraft, { params: { purchase: made.id }, body: { version: made.version, lines: [] } });
    expect([refused.status, refused.problem.detail]).toEqual([409, expect.stringContaining('cancel it instead')]);
  });
});

describe('what to buy next', () => {
  /** Ten orders of JAR, one on each of the last ten working days, of 10 and 30 by turns. */
  async function tenDays() {
    const days = ['2027-02-23', '2027-02-24', '2027-02-25', '2027-02-26', '2027-03-01', '2027-03-02', '2027-03-03', '2027-03-04', '2027-03-05', '2027-03-08'];
    await desk.stockUp('JAR', '300');
    for (const [at, day] of days.entries()) {
      const order = await desk.release(await desk.draft([['JAR', at % 2 === 0 ? '10' : '30']]));
      await desk.db
        .updateTable('sales_order')
        .set({ entered: `${day}T10:00:00` })
        .where('id', '=', order.id)
        .execute();
    }
  }

  const reorder = (which: 'due' | 'all' = 'all') => desk.call('ida', supplyRoutes.listReorder, { query: { which } });

  test('the reorder point follows demand, lead time and service level, by hand', async () => {
    await tenDays();
    const [row, ...others] = await reorder();
    expect(others).toEqual([]);
    // 20 a day, deviation √(10 · 100 / 9) = 10.54. Ordered on the 9th it comes on the 16th, a day to put it away: six working days.
    // 6 · 20 + 1.645 · 10.54 · √6 = 120 + 42.5.
    expect(row).toMatchObject({ item: 'JAR', warehouse: 'MAR', perDay: 20, deviation: 10.54, leadDays: 6, leadDeviation: 0, safety: '43', point: '163' });
    expect(row).toMatchObject({ onHand: '300', due: '0', owed: '200', position: '100', supplier: 'SUP' });
    // √(2 · 20 · 250 · 30 / (0.33 · 20 %)) = 2132.
    expect(row!.quantity).toBe('2133');
    expect(row!.suppliers.map((one) => one.code)).toEqual(['SUP', 'SLOW']);
    expect(await reorder('due')).toHaveLength(1);
    const policy = await desk.call('ida', supplyRoutes.readReorderPolicy);
    expect((await desk.send('ida', supplyRoutes.setReorderPolicy, { body: { ...policy, level: '80' } })).status).toBe(403);
    await desk.call('mona', supplyRoutes.setReorderPolicy, { body: { ...policy, level: '80' } });
    expect((await reorder())[0]).toMatchObject({ point: '142' }); // 120 + 0.842 · 25.82
  });

  test('what is bought is not bought again: the draft counts, and its goods join the draft that there is', async () => {
    await tenDays();
    const line = { item: 'JAR', warehouse: 'MAR', supplier: 'SUP', quantity: '600' };
    const first = await desk.call('ida', supplyRoutes.buyToStock, { body: { lines: [line, { ...line, item: 'LID', quantity: '40' }] } });
    expect(first.purchases).toMatchObject([{ supplier: 'Tarnbeck', lines: 2 }]);
    expect(await reorder('due')).toEqual([]);
    expect((await reorder())[0]).toMatchObject({ due: '600', position: '700' });
    const second = await desk.call('sam', supplyRoutes.buyToStock, {
      body: {
        lines: [
          { ...line, quantity: '100' },
          { ...line, supplier: 'SLOW' },
        ],
      },
    });
    expect(second.purchases.map((row) => row.id === first.purchases[0]!.id)).toEqual([false, true]);
    const draft = await desk.readPurchase(first.purchases[0]!.id);
    expect(draft.lines.map((row) => [row.item, row.quantity])).toEqual([
      ['JAR', '700'],
      ['LID', '40'],
    ]);
    const wrong = await desk.send('ida', supplyRoutes.buyToStock, { body: { lines: [line, { ...line, item: 'TUB' }, { ...line, warehouse: 'NOPE' }] } });
    expect(wrong.problem.errors?.map((one) => one.field)).toEqual(['body.lines[1].supplier', 'body.lines[2].warehouse']);
  });

  test('what assemblies take is demand of their components, and owed to those that are not built', async () => {
    await desk.stockUp('JAR', '300');
    await desk.stockUp('LID', '300');
    const made = await desk.call('ida', supplyRoutes.createAssembly, { body: { item: 'KIT', warehouse: 'MAR', quantity: '50' } });
    await desk.db.updateTable('assembly_order').set({ created_day: '2027-03-02' }).where('id', '=', made.id).execute();
    // The ninety days looked back on have 64 working days.
    const row = { warehouse: 'MAR', perDay: 0.78, onHand: '300', owed: '50', position: '250' };
    expect(await reorder()).toMatchObject([
      { item: 'JAR', ...row },
      { item: 'LID', ...row },
    ]);
    const built = await desk.call('wil', supplyRoutes.buildAssembly, { params: { assembly: made.id }, body: { version: made.version, quantity: '30' } });
    expect(await reorder()).toMatchObject([{ item: 'JAR', onHand: '270', owed: '20', position: '250', perDay: 0.78 }, { item: 'LID' }]);
    await desk.call('ida', supplyRoutes.cancelAssembly, { params: { assembly: made.id }, body: { version: built.version, reason: 'enough' } });
    expect(await reorder()).toMatchObject([{ item: 'JAR', onHand: '270', owed: '0', position: '270', perDay: 0.47 }, { item: 'LID' }]);
  });

  test('the lead time is what they deliver in, not what they promise', async () => {
    await tenDays();
    // Two records: in time, and eight calendar days late; four days late on average. Ordered on the 9th it is said to come on the 16th
    // and does on the 20th, a Saturday: taken in on Monday the 22nd, put away by the 23rd, ten working days.
    const receipt = { supplier: 'SUP', item: 'JAR', promised_day: '2027-02-01' };
    await desk.db
      .insertInto('supplier_receipt')
      .values([
        { ...receipt, received_day: '2027-02-01' },
        { ...receipt, received_day: '2027-02-09' },
      ])
      .execute();
    const row = (await reorder()).find((one) => one.item === 'JAR' && one.supplier === 'SUP')!;
    // The deviation of 0 and 8 is 5.66 calendar days, five sevenths of that 4.04 working days.
    expect(row).toMatchObject({ leadDays: 10, leadDeviation: 4.04 });
    // 10 · 20 + 1.645 · √(10 · 10.54² + (20 · 4.04)²) = 200 + 143.7
    expect(row).toMatchObject({ safety: '144', point: '344' });
  });

  test('what suppliers owe of one item does not put off another', async () => {
    await tenDays();
    await desk.stockUp('LID', '300');
    const lid = await desk.release(await desk.draft([['LID', '10']]));
    await desk.db.updateTable('sales_order').set({ entered: '2027-03-01T10:00:00' }).where('id', '=', lid.id).execute();
    const before = (await reorder()).find((row) => row.item === 'LID')!;
    const late = await desk.purchase('JAR', '10', '2027-03-12');
    await desk.call('ida', supplyRoutes.reschedule, {
      params: { purchase: late.id, line: late.line },
      body: { version: (await desk.readPurchase(late.id)).version, expectedDay: '2027-05-03' },
    });
    const after = await reorder();
    expect(after.find((row) => row.item === 'LID')).toEqual(before);
    const arrives = (item: string) => after.find((row) => row.item === item)!.suppliers.find((one) => one.code === 'SUP')!.arrives;
    expect([arrives('JAR'), arrives('LID')]).toEqual(['2027-05-03', '2027-03-16']);
  });

  test('what waits for a purchase that nobody has made is to be bought, whatever else is asked for', async () => {
    const order = await desk.release(await desk.route(await desk.draft([['BOX', '40']]), 1, 'backorder', '40'));
    expect(order.lines[0]).toMatchObject({ schedule: [], waiting: '40' });
    expect(await reorder('due')).toMatchObject([{ item: 'BOX', waiting: '40', owed: '40', position: '-40', perDay: 0, quantity: '40' }]);
    await desk.call('ida', orderRoutes.chooseRoute, {
      params: { order: order.id, line: order.lines[0]!.id },
      body: { parts: [{ kind: 'special_order', supplier: 'SUP', quantity: '40' }] },
    });
    expect(await reorder('due')).toEqual([]);
  });

  test('goods bought for one order are no demand of the shelf', async () => {
    const order = await desk.release(await desk.take(await desk.draft([['BOX', '100']]), 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '100' }));
    const bound = await desk.release(await desk.take(await desk.draft([['LID', '20']]), 1, { kind: 'special_order', supplier: 'SUP', quantity: '20' }));
    await desk.db.updateTable('sales_order').set({ entered: '2027-03-01T10:00:00' }).where('id', 'in', [order.id, bound.id]).execute();
    expect(await reorder()).toEqual([]);
  });
});

describe('an item that is no longer made', () => {
  const set = (item: string, body: object) => desk.send('ida', itemRoutes.setDiscontinued, { params: { item }, body: body as never });

  test('has a successor, which may not lead back to it, and cannot be bought where nobody sells it', async () => {
    expect((await set('LID', { discontinued: true, successor: 'LID' })).problem.errors?.[0]?.field).toBe('body.successor');
    expect((await set('JAR', { discontinued: true, successor: 'OLD' })).problem.errors?.[0]?.message).toContain('again'); // OLD is followed by JAR
    expect((await set('LID', { discontinued: true, successor: 'NOPE' })).problem.errors?.[0]?.message).toBe('there is no item NOPE');
    const { reply } = await set('LID', { discontinued: true, successor: 'BOX', soldByNobody: true, reason: 'the mould broke' });
    expect(reply).toMatchObject({ discontinued: true, successor: 'BOX', suppliers: [] });
    const [told] = await desk.call('ida', itemRoutes.itemHistory, { params: { item: 'LID' } });
    expect([said(told!), told!.why]).toEqual(['LID is discontinued and cannot be bought; BOX follows it', 'the mould broke']);
    expect((await set('LID', { discontinued: false })).reply).toMatchObject({ discontinued: false, successor: null });
  });

  test('is sold as long as there is some of it, and not a piece more', async () => {
    const add = async (quantity: string) => {
      const order = await desk.draft([]);
      return desk.send('ida', orderRoutes.addLine, { params: { order: order.id }, body: { item: 'OLD', quantity } });
    };
    expect((await add('1')).problem.errors).toEqual([{ field: 'body.item', message: 'OLD is discontinued; JAR follows it' }]);
    await desk.stockUp('OLD', '5');
    // What is on its way from one warehouse to another is there once.
    await desk.call('ida', supplyRoutes.createTransfer, { body: { from: 'MAR', to: 'QUI', lines: [{ item: 'OLD', quantity: '1' }] } });
    expect((await add('6')).problem.errors).toEqual([{ field: 'body.quantity', message: 'OLD is discontinued; JAR follows it: 5 each are left to sell' }]);
    const sold = await desk.release((await add('3')).reply);
    const raised = await desk.send('ida', orderRoutes.raiseLine, {
      params: { order: sold.id, line: sold.lines[0]!.id },
      body: { version: sold.version, quantity: '6', claim: false, decision: { seen: [], accept: [] } },
    });
    expect([raised.problem.errors, (await add('3')).problem.errors]).toEqual([
      [{ field: 'body.quantity', message: expect.stringContaining('2 each are left to sell') }],
      [{ field: 'body.quantity', message: expect.stringContaining('2 each are left to sell') }],
    ]);
    await desk.release((await add('1')).reply);
    expect((await add('2')).problem.errors?.[0]?.message).toContain('1 each are left to sell');
  });

  test('its page names what may stand in, what it is part of, and who is promised what from what', async () => {
    await desk.stockUp('BOX', '5');
    await desk.purchase('BOX', '20', '2027-03-12');
    const order = await desk.release(await desk.draft([['BOX', '15']]));
    const page = await desk.call('ida', itemRoutes.readItem, { params: { item: 'BOX' } });
    expect(page.substitutes).toMatchObject([{ item: 'TUB', ratio: '2' }]);
    expect(page.partOf).toMatchObject([{ item: 'CRATE', ratio: '1' }]);
    expect(
      page.promises.map((row) => [row.number, row.quantity, row.day, row.customer, row.from.map((part) => [part.quantity, part.purchase === null])]),
    ).toEqual([
      [order.number, '5', '2027-03-11', 'Wether Hill', [['5', true]]],
      [order.number, '10', '2027-03-15', 'Wether Hill', [['10', false]]],
    ]);
  });
});
