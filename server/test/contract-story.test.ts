import type { ContractLineWish } from '@nockwright/contract/pricing';
import { pricingRoutes } from '@nockwright/contract/pricing';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { brokenInvariants } from './invariants';
import { seenOf, TestDesk } from './test-desk';
import { said } from './said';

let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  for (const item of ['JAR', 'LID', 'TUB']) await desk.stockUp(item, '2000');
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

/** A contract of a customer with lines, in force all year. */
async function contract(lines: readonly ContractLineWish[], more: { readonly lastDay?: string; readonly customer?: number } = {}) {
  const { lastDay = '2027-12-31', customer = 1 } = more;
  const made = await desk.call('mona', pricingRoutes.createContract, { body: { name: 'Season', firstDay: '2027-01-01', lastDay } });
  const named = await desk.call('mona', pricingRoutes.changeContract, {
    params: { contract: made.id },
    body: { version: made.version, buyers: [{ customer, shipTo: null }] },
  });
  return desk.call('mona', pricingRoutes.storeContractLines, { params: { contract: made.id }, body: { version: named.version, lines, all: false } });
}

const jar = (price: string, more: Partial<ContractLineWish> = {}): ContractLineWish => ({ item: 'JAR', kind: 'fixed', unit: 'EA', price, ...more });

function settle(order: OrderView, lineNo: number, wish: { pin?: object | null; accept?: object }) {
  const body = { version: order.version, ...wish } as never;
  return desk.send('ida', orderRoutes.setPrice, { params: { order: order.id, line: order.lines[lineNo - 1]!.id }, body });
}

/** Takes the price that is looked up now. */
async function accept(order: OrderView, lineNo: number) {
  const { parts } = order.lines[lineNo - 1]!.offered!;
  const { status, reply } = await settle(order, lineNo, { accept: parts.map(({ quantity, price }) => ({ quantity, price })) });
  expect(status).toBe(200);
  return reply;
}

function raise(order: OrderView, quantity: string) {
  const body = { version: order.version, quantity, claim: false, decision: { seen: [], accept: [] } };
  return desk.send('ida', orderRoutes.raiseLine, { params: { order: order.id, line: order.lines[0]!.id }, body });
}

async function usedOf(contractId: number) {
  const { lines } = await desk.call('mona', pricingRoutes.readContract, { params: { contract: contractId } });
  return lines.map((line) => line.used);
}

describe('an order under a contract', () => {
  test('uses it when it is released and gives back what is cancelled', async () => {
    const season = await contract([jar('0.45', { most: '500' })]);
    const draft = await desk.draft([['JAR', '10', 'DZN']]);
    expect(draft.lines[0]).toMatchObject({ price: '5.4', priceSource: `${season.number} line 1`, contractLine: season.lines[0]!.id });
    expect(await usedOf(season.id)).toEqual(['0']);
    const order = await desk.release(draft);
    expect(await usedOf(season.id)).toEqual(['120']);
    await desk.call('ida', orderRoutes.cancelOrder, {
      params: { order: order.id },
      body: { version: order.version, line: order.lines[0]!.id, quantity: '4', reason: 'other', purchases: 'keep' },
    });
    expect(await usedOf(season.id)).toEqual(['72']);
  });

  test('is split where less is left than ordered; the rest falls to the next source', async () => {
    const season = await contract([jar('0.45', { most: '100' })]);
    const draft = await desk.draft([['JAR', '5', 'XTY']]);
    expect(draft.lines.map(({ lineNo, quantity, price, priceSource }) => [lineNo, quantity, price, priceSource])).toEqual([
      [1, '4', '10.8', `${season.number} line 1`],
      [2, '1', '12.48', 'list price'],
    ]);
    const preview = await desk.call('ida', orderRoutes.previewLine, { params: { order: draft.id }, query: { item: 'JAR', quantity: '10' } });
    // What the lines before it take is no longer there: four of the hundred.
    expect([preview.price, preview.splits]).toEqual(['0.45', [{ quantity: '6', price: '0.52', source: 'list price' }]]);
    await desk.release(draft);
    expect(await usedOf(season.id)).toEqual(['96']);
  });

  test('that has ended cannot be raised any more', async () => {
    const season = await contract([jar('0.45')]);
    const order = await desk.order([['JAR', '90']]);
    await desk.db.updateTable('contract').set({ last_day: '2027-03-08' }).where('id', '=', season.id).execute();
    const refused = await raise(order, '100');
    expect([refused.status, refused.problem.errors![0]!.message]).toEqual([
      422,
      `contract ${season.number} ended Mon 8 Mar: order more as a line of its own, at the price of today`,
    ]);
  });

  test('raised, it is bought at the price agreed as long as the contract has enough', async () => {
    const season = await contract([jar('0.45', { most: '100' })]);
    const order = await desk.order([['JAR', '90']]);
    const raised = (quantity: string) =>
      desk.send('ida', orderRoutes.raiseLine, {
        params: { order: order.id, line: order.lines[0]!.id },
        body: { version: order.version, quantity, claim: false, decision: { seen: [], accept: [] } },
      });
    const refused = await raised('101');
    expect(refused.problem.errors).toEqual([
      {
        field: 'body.quantity',
        message: `${season.number} line 1 has 10 EA left: raise it by at most that, and order the rest as a line of its own`,
      },
    ]);
    expect((await raised('100')).status).toBe(200);
    expect(await usedOf(season.id)).toEqual(['100']);
  });

  test('that somebody else has used up meanwhile is refused, with both prices, until the new one is accepted', async () => {
    const season = await contract([jar('0.45', { most: '100' })]);
    const mine = await desk.draft([['JAR', '60']], 'ida');
    await desk.order([['JAR', '80']], 'sam');
    const refused = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: mine.id }, body: seenOf(mine) });
    expect(refused.status).toBe(409);
    expect(refused.problem.errors?.[0]).toEqual({
      field: 'lines[0].price',
      message: `line 1, JAR: agreed at 0.45 (${season.number} line 1), it is now 20 at 0.45 (${season.number} line 1) and 40 at 0.52 (list price)`,
    });
    const shown = await desk.read(mine);
    expect(shown.lines[0]).toMatchObject({ price: '0.45', offered: { amount: '29.80' } });
    const split = await accept(shown, 1);
    expect(split.lines.map(({ quantity, price, offered }) => [quantity, price, offered])).toEqual([
      ['20', '0.45', null],
      ['40', '0.52', null],
    ]);
    await desk.release(split);
    expect(await usedOf(season.id)).toEqual(['100']);
  });

  test('must name it where the customer is obliged to; then its prices hold', async () => {
    const season = await contract([jar('0.45')]);
    await desk.db.updateTable('customer').set({ must_name_contract: true }).where('id', '=', 1).execute();
    const draft = await desk.draft([['JAR', '10']]);
    expect(draft.lines[0]).toMatchObject({ price: '0.52', priceSource: 'list price' });
    const refused = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(draft) });
    expect(refused.problem.errors).toEqual([{ field: 'contract', message: 'this customer orders under a contract: name it' }]);
    const named = await desk.call('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, contract: season.id } });
    expect(named.contract).toMatchObject({ number: season.number });
    expect(named.lines[0]).toMatchObject({ price: '0.52', offered: { parts: [{ price: '0.45', source: `${season.number} line 1` }] } });
    const order = await desk.release(await accept(named, 1));
    expect(order.lines[0]!.price).toBe('0.45');
  });

  test('may name only a contract of its customer that is in force', async () => {
    const other = await contract([jar('0.45')], { customer: 2 });
    const ended = await contract([jar('0.45')], { lastDay: '2027-03-08' });
    const draft = await desk.draft([['JAR', '1']]);
    const name = (id: number) => desk.send('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, contract: id } });
    expect((await name(other.id)).problem.detail).toContain('this customer has no contract');
    expect((await name(ended.id)).problem.detail).toContain(`${ended.number} ended Mon 8 Mar`);
  });
});

describe('of several that hold', () => {
  test('the lowest is taken, another may be chosen, and its line says which', async () => {
    const dear = await contract([jar('0.65')]);
    const cheap = await contract([jar('0.50')]);
    const draft = await desk.draft([
      ['JAR', '10'],
      ['JAR', '20'],
    ]);
    expect(draft.lines.map((line) => line.priceSource)).toEqual([`${cheap.number} line 1`, `${cheap.number} line 1`]);
    const chosen = (await settle(draft, 2, { pin: { kind: 'contract', line: dear.lines[0]!.id } })).reply;
    expect(chosen.lines.map(({ price, priceSource }) => [price, priceSource])).toEqual([
      ['0.5', `${cheap.number} line 1`],
      ['0.65', `${dear.number} line 1`],
    ]);
    const order = await desk.release(chosen);
    expect(order.lines[1]!.priceTrail[0]).toMatchObject({ source: `${dear.number} line 1`, why: 'chosen by hand', chosen: true });
    expect([await usedOf(cheap.id), await usedOf(dear.id)]).toEqual([['10'], ['20']]);
  });

  test('one that was chosen and ends gives way when the price that is looked up then is taken', async () => {
    const dear = await contract([jar('0.65')]);
    await contract([jar('0.50')]);
    const draft = await desk.draft([['JAR', '10']]);
    const chosen = (await settle(draft, 1, { pin: { kind: 'contract', line: dear.lines[0]!.id } })).reply;
    await desk.call('mona', pricingRoutes.changeContract, { params: { contract: dear.id }, body: { version: dear.version, lastDay: '2027-03-08' } });
    const shown = await desk.read(chosen);
    expect(shown.lines[0]).toMatchObject({ price: '0.65', offered: { parts: [{ price: '0.5' }] } });
    expect((await accept(shown, 1)).lines[0]).toMatchObject({ price: '0.5', pin: null, offered: null });
  });

  test('one that does not hold cannot be chosen, and the reason is told', async () => {
    const season = await contract([jar('0.45', { minimum: '144' })]);
    const draft = await desk.draft([['JAR', '10']]);
    const refused = await settle(draft, 1, { pin: { kind: 'contract', line: season.lines[0]!.id } });
    expect(refused.problem.errors).toEqual([{ field: 'body.pin.line', message: `${season.number} line 1 does not hold for this line: needs 144 at once` }]);
    const none = await settle(draft, 1, { pin: { kind: 'contract', line: 999 } });
    expect(none.problem.errors).toMatchObject([{ field: 'body.pin.line', message: 'contract line 999 is none of this customer for this item' }]);
  });
});

describe('a price changes only visibly', () => {
  test('with the quantity: the agreed one stands until the other is accepted, or it is kept by hand', async () => {
    await desk.db.insertInto('price_break').values({ price_list: 'LIST', item: 'JAR', unit: 'EA', from_quantity: '100', price: '0.48' }).execute();
    const draft = await desk.draft([['JAR', '10']]);
    const line = draft.lines[0]!.id;
    const more = await desk.call('ida', orderRoutes.changeLine, { params: { order: draft.id, line }, body: { version: draft.version, quantity: '100' } });
    expect(more.lines[0]).toMatchObject({ price: '0.52', amount: '52.00', offered: { amount: '48.00', parts: [{ price: '0.48', source: 'list, from 100' }] } });
    const kept = (await settle(more, 1, { pin: { kind: 'manual', price: '0.52', reason: 'as agreed on the phone' } })).reply;
    expect(kept.lines[0]).toMatchObject({ price: '0.52', priceSource: 'set by hand', offered: null });
    const again = (await settle(kept, 1, { pin: null })).reply;
    expect(again.lines[0]).toMatchObject({ price: '0.48', pin: null, offered: null });
  });

  test('with what is raised after release: a break that is reached holds for the whole line', async () => {
    await desk.db.insertInto('price_break').values({ price_list: 'LIST', item: 'JAR', unit: 'EA', from_quantity: '100', price: '0.48' }).execute();
    const order = await desk.order([['JAR', '90']]);
    const preview = await desk.call('ida', orderRoutes.previewRaise, { params: { order: order.id, line: order.lines[0]!.id }, query: { quantity: '100' } });
    expect(preview.price).toBe('0.48');
    const { reply } = await raise(order, '100');
    expect(reply.lines[0]).toMatchObject({ price: '0.48', priceSource: preview.priceSource, amount: '48.00' });
  });

  test('with the unit: the same price in the new unit is no change', async () => {
    const draft = await desk.draft([['JAR', '24']]);
    const line = draft.lines[0]!.id;
    const trays = await desk.call('ida', orderRoutes.changeLine, {
      params: { order: draft.id, line },
      body: { version: draft.version, quantity: '1', unit: 'XTY' },
    });
    expect(trays.lines[0]).toMatchObject({ price: '12.48', amount: '12.48', offered: null });
  });

  test('what was seen and is another price by now is told', async () => {
    const season = await contract([jar('0.45')]);
    const draft = await desk.draft([['JAR', '10']]);
    const { lines, version } = await desk.call('mona', pricingRoutes.readContract, { params: { contract: season.id } });
    expect(lines).toHaveLength(1);
    await desk.call('mona', pricingRoutes.storeContractLines, { params: { contract: season.id }, body: { version, lines: [jar('0.44')], all: false } });
    const refused = await settle(draft, 1, { accept: [{ quantity: '10', price: '0.43' }] });
    expect(refused.problem.detail).toBe('The price of line 1 has changed again: you saw 10 at 0.43; it is now 10 at 0.44. Look again, then decide.');
  });
});

describe('a price set by hand', () => {
  const below = { pin: { kind: 'manual', price: '0.32', reason: 'to win them back' } };

  test('below the floor margin is held until the manager lets it go, with a reason', async () => {
    await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
    const draft = (await settle(await desk.draft([['JAR', '100']]), 1, below)).reply;
    const held = await desk.release(draft);
    expect(held).toMatchObject({
      state: 'draft',
      progress: 'held',
      number: null,
      holds: [{ kind: 'below_floor', why: 'line 1 (JAR): 100 each at 0.32 each, cost 0.31 each: below the floor margin of 12 %', by: 'ida', cleared: null }],
    });
    expect(await desk.stock('JAR')).toMatchObject({ committed: '0' });
    const hold = held.holds[0]!.id;
    const clear = (login: 'ida' | 'mona', version: number) =>
      desk.send(login, orderRoutes.clearHold, { params: { order: held.id, hold }, body: { version, why: 'end of season' } });
    expect((await clear('ida', held.version)).problem.detail).toBe('This hold is released by manager; you are logged in as coordinator.');
    const cleared = (await clear('mona', held.version)).reply;
    expect(cleared).toMatchObject({ progress: 'draft', holds: [{ cleared: { by: 'mona', why: 'end of season' } }] });
    const lower = (await settle(cleared, 1, { pin: { kind: 'manual', price: '0.315', reason: 'lower still' } })).reply;
    expect((await desk.release(lower)).progress).toBe('held');
    const back = (await settle(await desk.read(lower), 1, below)).reply;
    expect((await desk.release(back)).state).toBe('released');
  });

  const held = async (order: OrderView) => {
    const view = await desk.release(order);
    return { view, hold: view.holds.find((row) => row.cleared === null)! };
  };
  const clearAs = (login: 'ida' | 'mona', order: OrderView, hold: number) =>
    desk.send(login, orderRoutes.clearHold, { params: { order: order.id, hold }, body: { version: order.version, why: 'end of season' } });
  const manual = (price: string) => ({ pin: { kind: 'manual', price, reason: 'a gift' } });

  test('of nothing is held as any below the floor is', async () => {
    await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
    const { view } = await held((await settle(await desk.draft([['JAR', '10']]), 1, manual('0'))).reply);
    expect(view).toMatchObject({ progress: 'held', holds: [{ kind: 'below_floor' }] });
  });

  test('that was approved is approved for so many, in whatever unit, at the cost it was judged by', async () => {
    await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
    await desk.db.updateTable('item').set({ cost: '0.31' }).where('code', '=', 'JAR').execute();
    const first = await held((await settle(await desk.draft([['JAR', '24']]), 1, manual('0.32'))).reply);
    const approved = (await clearAs('mona', first.view, first.hold.id)).reply;
    const change = async (order: OrderView, body: object) =>
      desk.call('ida', orderRoutes.changeLine, { params: { order: order.id, line: order.lines[0]!.id }, body: { version: order.version, ...body } });
    // More of it than was approved.
    const more = await held(await change(approved, { quantity: '60' }));
    expect(more.view.progress).toBe('held');
    // So many again, but the goods cost more by now.
    const again = await change(more.view, { quantity: '24' });
    await desk.db.updateTable('item').set({ cost: '0.315' }).where('code', '=', 'JAR').execute();
    const dearer = await held(await desk.read(again));
    expect(dearer.view.progress).toBe('held');
    await desk.db.updateTable('item').set({ cost: '0.31' }).where('code', '=', 'JAR').execute();
    // The price of one for a tray of them.
    const tray = await change(await desk.read(again), { quantity: '1', unit: 'XTY' });
    const cheap = await held((await settle(tray, 1, manual('0.33'))).reply);
    expect(cheap.view.progress).toBe('held');
    const back = await change(await desk.read(cheap.view), { quantity: '24', unit: 'EA' });
    expect((await desk.release((await settle(back, 1, manual('0.32'))).reply)).state).toBe('released');
  });

  test('below the floor, what was approved is not raised: more of it is an order of its own', async () => {
    const order = await desk.release((await settle(await desk.draft([['JAR', '10']]), 1, manual('0.2'))).reply);
    await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
    await desk.db.updateTable('item').set({ cost: '0.31' }).where('code', '=', 'JAR').execute();
    const refused = await raise(order, '20');
    expect([refused.status, refused.problem.detail]).toEqual([
      409,
      'line 1 (JAR): 20 each at 0.20 each, cost 0.31 each: below the floor margin of 12 %. Nobody has approved that: enter it as an order of its own, which is held.',
    ]);
    expect((await desk.read(order)).lines[0]!.quantity).toBe('10');
  });

  test('is approved by somebody else than who asked, or who set the price', async () => {
    await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
    const draft = await desk.draft([['JAR', '10']]);
    const priced = await desk.call('mona', orderRoutes.setPrice, {
      params: { order: draft.id, line: draft.lines[0]!.id },
      body: { version: draft.version, pin: { kind: 'manual', price: '0.1', reason: 'mine' } },
    });
    const { view, hold } = await held(priced);
    const refused = await clearAs('mona', view, hold.id);
    expect([refused.status, refused.problem.detail]).toEqual([403, 'You asked for this yourself: somebody else approves it.']);
  });

  test('above it, and contract prices in any case, go their way', async () => {
    await desk.db.insertInto('desk_setting').values({ name: 'floor_margin', value: '12' }).execute();
    await contract([jar('0.31')]);
    const draft = await desk.draft([
      ['JAR', '10'],
      ['LID', '10'],
    ]);
    const priced = (await settle(draft, 2, { pin: { kind: 'manual', price: '0.36', reason: 'friend' } })).reply;
    expect((await desk.release(priced)).state).toBe('released');
  });

  test('needs a reason', async () => {
    const draft = await desk.draft([['JAR', '10']]);
    const refused = await settle(draft, 1, { pin: { kind: 'manual', price: '0.32', reason: '' } });
    expect(refused.status).toBe(422);
  });
});

test('margin is by the supply a line is pegged to', async () => {
  const order = await desk.draft([['BOX', '10']]);
  expect(order.lines[0]!.marginPercent).toBe('40.4');
  await desk.purchase('BOX', '10', '2027-03-12');
  // Bought at 0.33 where the item stands at 0.31.
  expect((await desk.read(order)).lines[0]!.marginPercent).toBe('36.5');
  expect((await desk.read(order)).marginPercent).toBe('36.5');
  const preview = await desk.call('ida', orderRoutes.previewLine, { params: { order: (await desk.draft([])).id }, query: { item: 'BOX', quantity: '10' } });
  expect(preview.marginPercent).toBe('36.5');
});

test('an order that waits for the customer is released when that is cleared', async () => {
  const draft = await desk.draft([['JAR', '10']]);
  const held = await desk.call('ida', orderRoutes.holdOrder, { params: { order: draft.id }, body: { version: draft.version, why: 'asks her chairman' } });
  expect(held.progress).toBe('held');
  const listed = await desk.call('ida', orderRoutes.listOrders, { query: { state: 'held' } });
  expect(listed.rows.map((row) => [row.id, row.progress])).toEqual([[draft.id, 'held']]);
  const refused = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(held) });
  expect(refused.problem.detail).toBe('It waits for the customer: asks her chairman. Release the hold first.');
  const body = { version: held.version, why: 'he agreed' };
  const cleared = await desk.call('sam', orderRoutes.clearHold, { params: { order: draft.id, hold: held.holds[0]!.id }, body });
  expect((await desk.release(cleared)).state).toBe('released');
});

test('sixteen who order under one contract line at once never pass its most', async () => {
  const season = await contract([jar('0.45', { most: '100' })]);
  const drafts = await Promise.all(Array.from({ length: 16 }, (_, at) => desk.draft([['JAR', String(9 + (at % 3))]], at % 2 ? 'ida' : 'sam')));
  const answers = await Promise.all(drafts.map((draft) => desk.send('ida', orderRoutes.releaseOrder, { params: { order: draft.id }, body: seenOf(draft) })));
  expect([...new Set(answers.map((answer) => answer.status))].sort()).toEqual([200, 409]);
  const sold = answers.filter((answer) => answer.status === 200).reduce((total, answer) => total + Number(answer.reply.lines[0]!.quantity), 0);
  expect(await usedOf(season.id)).toEqual([String(sold)]);
  expect(sold).toBeLessThanOrEqual(100);
  // Whoever was refused had found less than they wanted left.
  expect(sold).toBeGreaterThan(100 - 11);
});

describe('the contract sheet', () => {
  test('shows what is used, what overlaps and what it did to margin', async () => {
    const season = await contract([jar('0.45', { most: '500' }), { group: 'Jars', kind: 'off_list', percent: '5' }]);
    const second = await contract([{ item: 'LID', kind: 'cost_plus', percent: '20' }]);
    await desk.order([['JAR', '100']]);
    const view = await desk.call('fay', pricingRoutes.readContract, { params: { contract: season.id } });
    expect(view.lines.map(({ used, marginPercent, overlaps }) => [used, marginPercent, overlaps])).toEqual([
      ['100', '31.1', []],
      ['0', null, [`${second.number} line 1 until Fri 31 Dec, for Wether Hill`]],
    ]);
    expect(view.sold).toEqual({ amount: '45.00', atList: '52.00', marginPercent: '31.1', listMarginPercent: '40.4' });
    const [row] = await desk.call('ida', pricingRoutes.listContracts, { query: { search: `wether ${season.number}` } });
    expect(row).toMatchObject({ customers: 'Wether Hill', lines: 2, used: '20', state: 'in_force', endsIn: 297 });
  });

  test('takes many lines at once, all or none, and tells each fault with its line', async () => {
    const season = await contract([jar('0.45')]);
    const store = (lines: readonly ContractLineWish[], all = false) =>
      desk.send('mona', pricingRoutes.storeContractLines, { params: { contract: season.id }, body: { version: season.version, lines, all } });
    const refused = await store([
      { item: 'LID', kind: 'fixed', unit: 'EA', price: '0.2' },
      { item: 'NIX', kind: 'off_list', percent: '5' },
      { group: 'Jars', kind: 'fixed', unit: 'EA', price: '1' },
      { item: 'JAR', kind: 'fixed', unit: 'KGM', price: '1' },
      { item: 'LID', kind: 'fixed', unit: 'EA', price: '0.3' },
      { kind: 'off_list', percent: '101' },
    ]);
    expect(refused.problem.errors?.map((error) => `${error.field}: ${error.message}`)).toEqual([
      'body.lines[1].item: there is no item NIX',
      'body.lines[2].kind: a fixed price is for an item',
      'body.lines[3].unit: JAR is not sold by kg',
      'body.lines[4].item: stands in line 1 of these already',
      'body.lines[5].item: expected an item or a group, and not both',
    ]);
    const replaced = (await store([{ item: 'LID', kind: 'fixed', unit: 'EA', price: '0.2' }], true)).reply;
    expect(replaced.lines.map((line) => line.item)).toEqual(['LID']);
    expect((await store([])).status).toBe(409); // somebody has changed it since
  });

  test('keeps lines that orders are priced by, and no most below what is used', async () => {
    const season = await contract([jar('0.45', { most: '500' })]);
    await desk.order([['JAR', '100']]);
    const store = (lines: readonly ContractLineWish[], all: boolean) =>
      desk.send('mona', pricingRoutes.storeContractLines, { params: { contract: season.id }, body: { version: season.version, lines, all } });
    expect((await store([], true)).problem.detail).toContain('Orders are priced by line 1 (JAR)');
    expect((await store([jar('0.45', { most: '99' })], false)).problem.detail).toContain('100 are bought under it already');
  });

  test('is written by the manager only, and its days make sense', async () => {
    const wish = { body: { name: 'X', firstDay: '2027-03-01', lastDay: '2027-02-01' } };
    expect((await desk.send('ida', pricingRoutes.createContract, wish)).status).toBe(403);
    expect((await desk.send('mona', pricingRoutes.createContract, wish)).problem.errors).toEqual([
      { field: 'body.lastDay', message: 'expected 2027-03-01 or later, got 2027-02-01' },
    ]);
  });

  test('names buyers by customer, or by some of their addresses', async () => {
    const season = await contract([jar('0.45')]);
    const shed = await desk.db
      .insertInto('ship_to')
      .values({ customer_id: 1, name: 'Far shed', street: '2 Lane', postcode: 'AB1', town: 'Over Combe', country: 'GB' })
      .returning('id')
      .executeTakeFirstOrThrow();
    const change = (buyers: readonly { customer: number; shipTo: number | null }[]) =>
      desk.send('mona', pricingRoutes.changeContract, { params: { contract: season.id }, body: { version: season.version, buyers } });
    expect((await change([{ customer: 2, shipTo: shed.id }])).problem.errors).toMatchObject([
      { field: 'body.buyers[0].shipTo', message: `${shed.id} is no address of Garrick & Lowe` },
    ]);
    expect((await change([{ customer: 1, shipTo: shed.id }])).status).toBe(200);
    const draft = await desk.draft([['JAR', '10']]);
    expect(draft.lines[0]!.priceSource).toBe('list price');
    expect(draft.lines[0]!.priceTrail[0]!.why).toBe('is for another ship-to');
    const there = await desk.call('ida', orderRoutes.changeOrder, { params: { order: draft.id }, body: { version: draft.version, shipTo: shed.id } });
    expect(there.lines[0]!.offered!.parts[0]!.price).toBe('0.45');
  });
});

test('a fixed price of a tray comes to the same for its eaches; a list that asks less is told', async () => {
  const season = await contract([{ item: 'JAR', kind: 'fixed', unit: 'XTY', price: '10.40' }]);
  const draft = await desk.draft([
    ['JAR', '480'],
    ['JAR', '20', 'XTY'],
  ]);
  expect(draft.lines.map((line) => line.amount)).toEqual(['208.00', '208.00']);
  await desk.call('mona', pricingRoutes.storePrices, {
    params: { list: 'COOP' },
    body: { prices: [{ item: 'JAR', unit: 'XTY', from: '1', price: '10' }], all: true, version: 1 },
  });
  await desk.db.updateTable('customer').set({ price_list: 'COOP' }).where('id', '=', 1).execute();
  const told = await desk.draft([['JAR', '1', 'XTY']]);
  expect(told.lines[0]!.priceTrail.find((step) => step.lower)).toMatchObject({ source: 'co-operatives', price: '10' });
  const { lines } = await desk.call('mona', pricingRoutes.readContract, { params: { contract: season.id } });
  expect(lines[0]!.lower).toEqual(['co-operatives asks 10, for Wether Hill']);
  const named = await desk.call('mona', pricingRoutes.readContract, { params: { contract: season.id } });
  await desk.call('mona', pricingRoutes.changeContract, { params: { contract: season.id }, body: { version: named.version, lastDay: '2027-11-30' } });
  const history = await desk.call('mona', pricingRoutes.contractHistory, { params: { contract: season.id } });
  expect(history.map(said).slice(0, 2)).toEqual([
    `changed contract ${season.number}: Fri 1 Jan to Tue 30 Nov, was Fri 1 Jan to Fri 31 Dec`,
    `changed a line of contract ${season.number}: JAR 10.40 a tray, new`,
  ]);
});

describe('a price list', () => {
  test('is written as a whole or in part, with its faults by line', async () => {
    let version = 1;
    const store = (prices: readonly { item: string; unit: string; from: string; price: string }[], all: boolean) =>
      desk.send('mona', pricingRoutes.storePrices, { params: { list: 'COOP' }, body: { prices, all, version: version++ } });
    const first = (
      await store(
        [
          { item: 'JAR', unit: 'XTY', from: '1', price: '11' },
          { item: 'JAR', unit: 'XTY', from: '10', price: '10.5' },
        ],
        true,
      )
    ).reply;
    expect(first.prices.map(({ from, price, listPrice, marginPercent }) => [from, price, listPrice, marginPercent])).toEqual([
      ['1', '11', '12.48', '32.4'],
      ['10', '10.5', '12.48', '29.1'],
    ]);
    expect((await store([{ item: 'JAR', unit: 'XTY', from: '10', price: '10' }], false)).reply.prices.map((row) => row.price)).toEqual(['11', '10']);
    expect(
      (
        await store(
          [
            { item: 'JAR', unit: 'KGM', from: '1', price: '1' },
            { item: 'NIX', unit: 'EA', from: '1', price: '1' },
          ],
          false,
        )
      ).problem.errors,
    ).toEqual([
      { field: 'body.prices[0].unit', message: 'JAR is not sold by kg' },
      { field: 'body.prices[1].item', message: 'there is no item NIX' },
    ]);
    // A refused one has changed nothing: the version that was seen still holds.
    version = 2;
    const stale = await store([{ item: 'JAR', unit: 'EA', from: '1', price: '0.4' }], false);
    expect([stale.status, stale.problem.detail]).toEqual([
      409,
      expect.stringContaining('changed a price of list co-operatives: JAR tray from 10 10.00, was 10.50'),
    ]);
    expect(
      (await store([{ item: 'JAR', unit: 'EA', from: '1', price: '0.4' }], false)).reply.prices.find((row) => row.from === '1' && row.unit === 'XTY'),
    ).toMatchObject({
      lower: { unit: 'EA', from: '1', price: '0.4' },
    });
    expect((await store([], true)).reply.prices).toEqual([]);
    expect(
      await store(
        [
          { item: 'JAR', unit: 'XTY', from: '1', price: '11' },
          { item: 'JAR', unit: 'XTY', from: '10', price: '10' },
        ],
        true,
      ),
    ).toMatchObject({ status: 200 });
    const history = await desk.call('ida', pricingRoutes.priceListHistory, { params: { list: 'COOP' } });
    expect(history.map(said).slice(0, 2)).toEqual([
      'changed 2 prices of list co-operatives: JAR tray 11.00, new; JAR tray from 10 10.00, new',
      'changed 3 prices of list co-operatives: JAR each 0.40, taken off; JAR tray 11.00, taken off; JAR tray from 10 10.00, taken off',
    ]);
    expect(await desk.call('ida', pricingRoutes.listPriceLists)).toContainEqual({ code: 'COOP', name: 'co-operatives', prices: 2, customers: 0 });
  });
});
