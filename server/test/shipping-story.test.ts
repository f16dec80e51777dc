import { consignmentRoutes, pickRoutes, pickRuleRoutes, shippingRoutes, type ConsignmentView } from '@nockwright/contract/shipping';
import { stockRoutes } from '@nockwright/contract/items';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { checkDigit } from '@nockwright/core/scans';
import { sql } from 'kysely';
import { refreshBoards as refresh } from '../src/boards';
import { releasePicks } from '../src/shipping/commands';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.db
    .insertInto('carton_type')
    .values([
      { code: 'S', name: 'small', length_cm: '30', width_cm: '20', height_cm: '20', tare_kg: '0.2', most_kg: '10' },
      { code: 'L', name: 'large', length_cm: '60', width_cm: '40', height_cm: '40', tare_kg: '0.7', most_kg: '25' },
    ])
    .execute();
  await desk.db.updateTable('item').set({ length_cm: '10', width_cm: '10', height_cm: '10' }).where('code', 'in', ['JAR', 'LID', 'BOX']).execute();
  await desk.db.updateTable('item').set({ gtin: '05901234123457' }).where('code', '=', 'JAR').execute();
  await desk.db.updateTable('item').set({ tracks_lots: true, tracks_expiry: true, gtin: '09501101530003' }).where('code', '=', 'BOX').execute();
  await desk.db
    .insertInto('item_lot')
    .values([
      { item: 'BOX', lot: 'EARLY', expires: '2027-06-30' },
      { item: 'BOX', lot: 'LATER', expires: '2027-12-31' },
    ])
    .execute();
  for (const [code, walk] of [
    ['A-01', 1],
    ['A-02', 2],
    ['B-01', 9],
  ] as const)
    await desk.db.insertInto('bin').values({ warehouse: 'MAR', code, walk }).execute();
});
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

function refreshBoards({ db, services }: TestDesk): Promise<unknown> {
  return db.transaction().execute((trx) => refresh(trx, services.clock()));
}

/** Goods of a lot in a bin. */
async function shelve(item: string, quantity: string, bin: string, lot = ''): Promise<void> {
  await desk.db
    .insertInto('stock_movement')
    .values({ at: new Date(), item, warehouse: 'MAR', quantity, kind: 'receipt', reference: 'test', bin, lot })
    .execute();
}

async function picked(lines: readonly (readonly [string, string])[]) {
  const order = await desk.order(lines);
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: order.lines.map((line) => ({ line: line.id, quantity: line.stockQuantity })) },
  });
  return { order, pick, consignment: await consignmentOf(pick.id) };
}

async function consignmentOf(shipment: number): Promise<ConsignmentView> {
  const { consignment_id } = await desk.db.selectFrom('shipment').select('consignment_id').where('id', '=', shipment).executeTakeFirstOrThrow();
  return read(consignment_id!);
}

const read = (consignment: number) => desk.call('wil', consignmentRoutes.readConsignment, { params: { consignment } });

test('goods are allocated by bin and lot: what expires first first, from the fewest bins; two picks never get the same', async () => {
  await shelve('BOX', '5', 'B-01', 'LATER');
  await shelve('BOX', '4', 'A-02', 'EARLY');
  await shelve('BOX', '3', 'A-01', 'LATER');
  const { consignment } = await picked([['BOX', '6']]);
  expect(consignment.parts.map(({ bin, lot, quantity }) => [bin, lot, quantity])).toEqual([
    ['A-01', 'LATER', '2'],
    ['A-02', 'EARLY', '4'],
  ]);
  const other = await picked([['BOX', '6']]);
  expect(other.consignment.parts.map(({ bin, lot, quantity }) => [bin, lot, quantity])).toEqual([
    ['A-01', 'LATER', '1'],
    ['B-01', 'LATER', '5'],
  ]);
  const { rows } = await sql<{ over: number }>`select count(*)::int as over from stock_place where allocated > quantity`.execute(desk.db);
  expect(rows[0]!.over).toBe(0);
  for (const { pick } of [{ pick: other.pick }]) await desk.call('wil', shippingRoutes.cancelPick, { params: { shipment: pick.id }, body: { reason: 'test' } });
  expect((await read(other.consignment.id)).state).toBe('cancelled');
});

test('a kind of carton has a size and a weight that make sense, and goods that go as they are have none', async () => {
  const set = (more: object) =>
    desk.send('ida', consignmentRoutes.setCartonType, {
      body: { code: 'XL', name: 'extra', length: '80', width: '60', height: '60', tare: '1', most: '30', ...more },
    });
  expect((await set({ width: '0' })).problem.errors).toEqual([{ field: 'body.width', message: 'expected more than 0, got 0' }]);
  expect((await set({ most: '1' })).problem.errors).toEqual([{ field: 'body.most', message: 'expected more than the 1 kg it weighs empty, got 1' }]);
  expect((await set({ code: 'OWN' })).status).toBe(409);
  expect((await set({})).reply.map((row) => row.code)).toContain('XL');
  expect((await set({ name: 'extra large' })).reply.find((row) => row.code === 'XL')).toMatchObject({ name: 'extra large', most: '30' });
});

test('what missed its cut-off is promised for the first day it can leave, and whoever was told is to be called', async () => {
  await shelve('LID', '30', 'A-01');
  const [missed, kept] = [await desk.order([['LID', '4']]), await desk.order([['LID', '3']])];
  const again = (orders: readonly number[]) => desk.send('ida', shippingRoutes.promiseMissed, { body: { orders } });
  expect((await again([missed.id])).problem.detail).toBe('Nothing of these orders has missed its day.');
  // Nobody picked them, and the day has passed.
  await sql`update line_promise set day = '2027-03-08' where line_id = any(${[missed, kept].map((order) => order.lines[0]!.id)})`.execute(desk.db);
  const board = await desk.call('ida', shippingRoutes.readBoard, { query: { warehouse: 'MAR' } });
  expect(board.ready.filter((row) => [missed.id, kept.id].includes(row.order)).map((row) => row.missed)).toEqual(['2027-03-08', '2027-03-08']);
  expect((await desk.send('wil', shippingRoutes.promiseMissed, { body: { orders: [kept.id] } })).status).toBe(403);
  expect((await again([missed.id])).reply.moved).toMatchObject([{ order: missed.id, day: '2027-03-09' }]);
  const told = (order: { readonly lines: readonly { readonly id: number }[] }) =>
    desk.db.selectFrom('line_promise').select(['day', 'quantity']).where('line_id', '=', order.lines[0]!.id).execute();
  expect(await told(missed)).toEqual([{ day: '2027-03-09', quantity: '4' }]);
  expect(await told(kept)).toEqual([{ day: '2027-03-08', quantity: '3' }]);
  const { calls } = await desk.call('ida', worklistRoutes.listCalls);
  expect(calls.filter((row) => row.order === missed.id)).toMatchObject([{ told: [{ day: '2027-03-08' }], holds: [{ day: '2027-03-09' }] }]);
  expect(calls.filter((row) => row.order === kept.id)).toEqual([]);
});

test('the walk through the bins is as somebody says: every bin, each once', async () => {
  const walk = (bins: readonly string[]) => desk.send('ida', stockRoutes.setWalk, { params: { warehouse: 'MAR' }, body: { bins } });
  expect((await walk(['B-01', 'A-01'])).problem.errors).toEqual([{ field: 'body.bins', message: 'expected every bin of MAR: A-02 is missing' }]);
  expect((await walk(['B-01', 'A-01', 'A-02', 'B-01'])).problem.errors).toEqual([{ field: 'body.bins', message: 'bin B-01 stands twice' }]);
  expect((await walk(['Z-01'])).problem.errors).toEqual([{ field: 'body.bins', message: 'there is no bin Z-01 at MAR' }]);
  expect((await walk(['b-01', 'A-02', 'A-01'])).reply).toEqual(['B-01', 'A-02', 'A-01']);
  expect((await walk(['A-01', 'A-02', 'B-01'])).reply).toEqual(['A-01', 'A-02', 'B-01']);
});

test('shipments are numbered under their order', async () => {
  await shelve('LID', '40', 'A-01');
  const order = await desk.order([['LID', '10']]);
  const take = (quantity: string) =>
    desk.call('wil', shippingRoutes.startPick, { body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity }] } });
  expect([(await take('4')).number, (await take('6')).number]).toEqual([`${order.number}-1`, `${order.number}-2`]);
});

test('scanning: wrong goods, a wrong lot, an expired lot and one too many are refused in words; the packer goes on', async () => {
  await shelve('JAR', '40', 'A-01');
  await shelve('BOX', '20', 'B-01', 'LATER');
  await desk.db.insertInto('item_lot').values({ item: 'BOX', lot: 'OLD', expires: '2027-03-01' }).execute();
  const { consignment } = await picked([
    ['JAR', '3'],
    ['BOX', '2'],
  ]);
  const opened = await desk.call('wil', consignmentRoutes.openCarton, { params: { consignment: consignment.id }, body: { type: 'L' } });
  const carton = opened.cartons[0]!;
  const scan = async (text: string, count = '1') => {
    const { ok, words } = await desk.call('wil', consignmentRoutes.scan, { params: { carton: carton.id }, body: { scan: text, count } });
    return [ok, words];
  };
  expect(await scan('05901234123457', '2')).toEqual([true, '2 JAR in carton 1.']);
  expect(await scan('LID')).toEqual([false, 'LID is not in this shipment. Put it back.']);
  expect(await scan('nothing of ours')).toEqual([false, 'No item has the code nothing of ours. Scan the label again, or enter the item code.']);
  expect(await scan('jar', '2')).toEqual([false, '2 of JAR are too many. 1 is missing.']);
  expect(await scan('jar')).toEqual([true, '1 JAR in carton 1.']);
  expect(await scan('jar')).toEqual([false, 'All of JAR is done already. Put this back.']);
  expect(await scan('09501101530003')).toEqual([false, 'BOX is kept by lot. Scan the label with the lot: LATER.']);
  expect(await scan('(01)09501101530003(10)EARLY')).toEqual([false, 'Lot EARLY of BOX is not in this shipment. It takes lot LATER.']);
  expect(await scan('(01)09501101530003(10)OLD')).toEqual([false, 'Lot OLD of BOX expired Mon 1 Mar. Put it into quarantine.']);
  expect(await scan('(01)09501101530003(10)LATER(30)2')).toEqual([true, '2 BOX in carton 1.']);
  const { cartons, missing } = await read(consignment.id);
  expect(cartons[0]!.contents.map(({ item, quantity }) => [item, quantity])).toEqual([
    ['JAR', '3'],
    ['BOX', '2'],
  ]);
  expect(missing).toEqual(['Carton 1 is still open. Weigh and close it']);
  // Its number is one of GS1: eighteen digits, the last of them the check digit.
  expect(carton.sscc).toHaveLength(18);
  expect(String(checkDigit(carton.sscc.slice(0, -1)))).toBe(carton.sscc.at(-1));
});

test('a carton that weighs otherwise than it should is closed only when that is confirmed', async () => {
  const { consignment } = await picked([['JAR', '5']]);
  const opened = await desk.call('wil', consignmentRoutes.openCarton, { params: { consignment: consignment.id }, body: { type: 'S' } });
  const params = { carton: opened.cartons[0]!.id };
  expect((await desk.send('wil', consignmentRoutes.closeCarton, { params, body: { weight: '1', confirm: 'no' } })).problem.detail).toContain('is empty');
  await desk.call('wil', consignmentRoutes.scan, { params, body: { scan: 'jar', count: '5' } });
  // Five of 200 g and the carton of 200 g.
  const refused = await desk.send('wil', consignmentRoutes.closeCarton, { params, body: { weight: '1', confirm: 'no' } });
  expect([refused.status, refused.problem.detail]).toEqual([
    409,
    'Carton 1 weighs 1 kg, lighter than the 1.2 kg it should. Check what is in it, or confirm the weight.',
  ]);
  const closed = await desk.call('wil', consignmentRoutes.closeCarton, { params, body: { weight: '1', confirm: 'yes' } });
  expect([closed.cartons[0]!.weight, closed.missing]).toEqual(['1', []]);
  const left = await desk.call('wil', consignmentRoutes.shipConsignment, {
    params: { consignment: closed.id },
    body: { version: closed.version, tracking: 'T9' },
  });
  expect([left.state, left.tracking]).toEqual(['shipped', 'T9']);
});

test('what is short in the bin is taken off the books; other goods are allocated, or the promise moves and a call is noted', async () => {
  await desk.db.deleteFrom('idempotency').execute();
  await shelve('TUB', '6', 'A-01');
  await shelve('TUB', '3', 'B-01');
  const { consignment, order } = await picked([['TUB', '6']]);
  expect(consignment.parts.map(({ bin, quantity }) => [bin, quantity])).toEqual([['A-01', '6']]);
  const first = await desk.call('wil', pickRoutes.reportShort, { params: { part: consignment.parts[0]!.id }, body: { found: '4', why: 'missing' } });
  expect(first.words).toBe('Pick 2 TUB from B-01 instead.');
  expect(first.consignment.parts.map(({ bin, quantity }) => [bin, quantity])).toEqual([
    ['A-01', '4'],
    ['B-01', '2'],
  ]);
  const second = await desk.call('wil', pickRoutes.reportShort, { params: { part: first.consignment.parts[0]!.id }, body: { found: '0', why: 'damaged' } });
  // One more was free; three of the six have nothing to leave with.
  expect(second.words).toContain('Pick 1 TUB from B-01 instead. 3 TUB cannot be picked now.');
  expect(second.words).toContain(`Order ${order.number} of Wether Hill moves to`);
  expect(second.consignment.parts.map(({ bin, quantity }) => [bin, quantity])).toEqual([['B-01', '3']]);
  const calls = await desk.db.selectFrom('customer_call').select('say').where('order_id', '=', order.id).execute();
  expect(calls).toHaveLength(1);
  const quarantine = await desk.db.selectFrom('stock_place').select(['bin', 'quantity']).where('item', '=', 'TUB').where('status', '=', 'quarantine').execute();
  expect(quarantine).toEqual([{ bin: 'A-01', quantity: '4' }]);
  expect(await desk.stock('TUB')).toMatchObject({ on_hand: '3', allocated: '3', committed: '3' });
});

test('orders of one address go as one consignment, and apart again; what is told names both, with what is still to come', async () => {
  await shelve('JAR', '30', 'A-01');
  const one = await picked([['JAR', '2']]);
  const two = await picked([['JAR', '4']]);
  const beside = (await read(one.consignment.id)).beside.map((row) => row.consignment);
  expect(beside).toContain(two.consignment.id);
  const { version } = await read(one.consignment.id);
  const joined = await desk.call('ida', consignmentRoutes.join, { params: { consignment: one.consignment.id }, body: { version, with: two.consignment.id } });
  expect(joined.shipments.map((row) => row.number)).toEqual([one.pick.number, two.pick.number]);
  const apart = await desk.call('ida', consignmentRoutes.split, {
    params: { consignment: joined.id },
    body: { version: joined.version, shipment: two.pick.id },
  });
  expect(apart.shipments.map((row) => row.number)).toEqual([one.pick.number]);
  const again = await desk.call('ida', consignmentRoutes.join, {
    params: { consignment: joined.id },
    body: { version: apart.version, with: (await consignmentOf(two.pick.id)).id },
  });
  const packed = await desk.call('wil', consignmentRoutes.packProposed, { params: { consignment: again.id }, body: { version: again.version } });
  expect(packed.cartons).toHaveLength(1);
  await desk.call('wil', consignmentRoutes.shipConsignment, { params: { consignment: packed.id }, body: { version: packed.version, tracking: '' } });
  const mail = await desk.db.selectFrom('mail').select(['subject', 'body']).where('consignment_id', '=', packed.id).executeTakeFirstOrThrow();
  expect(mail.subject).toBe(`Shipment ${one.pick.number}, ${two.pick.number} has left`);
  expect(mail.body).toContain('6 each JAR, JAR of glass');
  expect(mail.body).toContain('This completes your order.');
});

test('a shipment is undone while the carrier does not have it: goods, promises, cartons and papers are as they were, and the customer is told', async () => {
  await shelve('JAR', '30', 'A-02');
  const order = await desk.order([['JAR', '8']]);
  const before = await standing();
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '5' }] },
  });
  const consignment = await consignmentOf(pick.id);
  const packed = await desk.call('wil', consignmentRoutes.packProposed, { params: { consignment: consignment.id }, body: { version: consignment.version } });
  const inHouse = await standing();
  const left = await desk.call('wil', consignmentRoutes.shipConsignment, {
    params: { consignment: packed.id },
    body: { version: packed.version, tracking: '' },
  });
  expect(left.undo).toBe(true);
  await desk.db.updateTable('mail').set({ state: 'sent', sent_at: new Date() }).where('consignment_id', '=', packed.id).execute();
  const back = await desk.call('wil', consignmentRoutes.undoShipment, { params: { consignment: packed.id }, body: { reason: 'wrong van' } });
  expect(back.state).toBe('picking');
  expect(await standing()).toEqual(inHouse);
  const mails = await desk.db.selectFrom('mail').select('subject').where('consignment_id', '=', packed.id).orderBy('id').execute();
  expect(mails.map((row) => row.subject)).toEqual([`Shipment ${pick.number} has left`, `Shipment ${pick.number} has not left yet`]);
  await desk.call('wil', shippingRoutes.cancelPick, { params: { shipment: pick.id }, body: { reason: 'test' } });
  expect(await standing()).toEqual(before);
});

/** How goods and promises stand. */
async function standing() {
  const [stock, places, promises, lines] = await Promise.all([
    desk.db.selectFrom('stock').selectAll().orderBy('item').orderBy('warehouse').execute(),
    desk.db.selectFrom('stock_place').select(['item', 'bin', 'lot', 'quantity', 'allocated']).where('quantity', '>', '0').orderBy('id').execute(),
    desk.db.selectFrom('line_promise').selectAll().orderBy('line_id').orderBy('day').execute(),
    desk.db.selectFrom('order_line').select(['id', 'shipped', 'reserved']).orderBy('id').execute(),
  ]);
  return { stock, places, promises, lines };
}

test('a count or a move never takes what is allocated to a pick', async () => {
  await shelve('LID', '5', 'B-01');
  const { consignment } = await picked([['LID', '3']]);
  const part = consignment.parts[0]!;
  const place = await desk.db.selectFrom('stock_place').selectAll().where('item', '=', 'LID').where('bin', '=', part.bin).executeTakeFirstOrThrow();
  const moved = await desk.send('wil', stockRoutes.moveGoods, {
    params: { place: place.id },
    body: { quantity: place.quantity.replace(/\.0+$/, ''), bin: 'A-02' },
  });
  expect([moved.status, moved.problem.detail]).toEqual([409, expect.stringContaining('allocated')]);
});

describe('pick rules', () => {
  const RULES = {
    on: true,
    times: '08:00',
    mostValue: null,
    firstOrder: false,
    instructions: false,
    belowFloor: false,
    newAddress: false,
    mostShipments: null,
  };

  test('are tried on past orders, set by a manager alone, and against the version that was seen', async () => {
    const trial = await desk.call('mona', pickRuleRoutes.tryPickRules, { body: { ...RULES, firstOrder: true } });
    expect(trial.orders).toBeGreaterThan(0);
    expect(trial.stopped).toBe(trial.by.first_order);
    expect((await desk.send('ida', pickRuleRoutes.setPickRules, { body: { ...RULES, version: 0 } })).status).toBe(403);
    expect((await desk.send('mona', pickRuleRoutes.setPickRules, { body: { ...RULES, times: '8 o’clock', version: 0 } })).status).toBe(422);
    const set = await desk.call('mona', pickRuleRoutes.setPickRules, { body: { ...RULES, mostValue: '10', version: 0 } });
    expect((await desk.send('mona', pickRuleRoutes.setPickRules, { body: { ...RULES, version: 0 } })).status).toBe(409);
    expect(set.mostValue).toBe('10');
  });

  test('release what is due and ordinary once at each time; what a rule stops waits on the board, with why', async () => {
    await shelve('LID', '60', 'A-01');
    const today = async (quantity: string) => {
      const { id } = await desk.draft([['LID', quantity]]);
      await desk.db.updateTable('sales_order').set({ request_kind: 'ship_by', requested_day: '2027-03-09' }).where('id', '=', id).execute();
      return desk.release(await desk.read({ id }));
    };
    const [small, large] = [await today('3'), await today('30')];
    await refreshBoards(desk);
    expect(await releasePicks(desk.services)).toBeGreaterThanOrEqual(1);
    expect(await releasePicks(desk.services)).toBe(0);
    const picks = await desk.db
      .selectFrom('shipment')
      .select('order_id')
      .where('state', '=', 'picking')
      .where('order_id', 'in', [small.id, large.id])
      .execute();
    expect(picks.map((row) => row.order_id)).toEqual([small.id]);
    const board = await desk.call('wil', shippingRoutes.readBoard, { query: { q: large.number! } });
    expect(board.ready.map((row) => [row.order, row.stops])).toEqual([[large.id, ['value']]]);
  });
});

test('many picks are started in one act; what cannot be says why, and stops no other', async () => {
  await shelve('JAR', '10', 'A-01');
  const one = await desk.order([['JAR', '2']]);
  const two = await desk.order([['JAR', '3']]);
  const wish = (order: typeof one, quantity: string) => ({ order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity }] });
  const { started, refused } = await desk.call('wil', shippingRoutes.startPicks, { body: { picks: [wish(two, '3'), wish(one, '9')] } });
  expect([started.map((pick) => pick.order), refused.map((row) => row.order)]).toEqual([[two.id], [one.id]]);
  expect(refused[0]!.why).toContain('9 asked, 2 on hand for it');
});
