import { counterRoutes } from '@nockwright/contract/counter';
import { exchangeRoutes } from '@nockwright/contract/exchange';
import { itemRoutes, serialRoutes, stockRoutes } from '@nockwright/contract/items';
import { consignmentRoutes, shippingRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

/** Tubs have serial numbers. */
let desk: TestDesk;
beforeEach(async () => {
  desk = await TestDesk.open();
  await desk.db.updateTable('item').set({ tracks_serials: true, gtin: '05901234123457' }).where('code', '=', 'TUB').execute();
  await desk.db
    .insertInto('supplier_item')
    .values({ supplier: 'SUP', item: 'TUB', their_code: 'X', cost: '0.33', lead_days: null, minimum: '1', multiple: '1' })
    .execute();
  await desk.db
    .insertInto('carton_type')
    .values({ code: 'L', name: 'large', length_cm: '60', width_cm: '40', height_cm: '40', tare_kg: '0.7', most_kg: '25' })
    .execute();
  for (const code of ['A-01', 'A-02']) await desk.db.insertInto('bin').values({ warehouse: 'MAR', code }).execute();
});
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

async function arrive(quantity: string, serials: string, bin = 'A-01') {
  const { id } = await desk.purchase('TUB', quantity, '2027-03-10');
  const view = await desk.readPurchase(id);
  expect(view.lines[0]!.tracksSerials).toBe(true);
  return desk.send('wil', supplyRoutes.receive, {
    params: { purchase: id },
    body: { version: view.version, lines: [{ line: view.lines[0]!.id, quantity, serials, bin }] },
  });
}
const list = async () =>
  (await desk.call('wil', serialRoutes.listSerials, { params: { item: 'TUB' }, query: {} })).rows.map((row) => `${row.serial} ${row.state} ${row.where}`);
async function picked(quantity: string) {
  const order = await desk.order([['TUB', quantity]]);
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity }] },
  });
  const opened = await desk.call('wil', consignmentRoutes.openCarton, { params: { consignment: pick.consignment! }, body: { type: 'L' } });
  return { order, pick, consignment: pick.consignment!, carton: opened.cartons[0]!.id };
}
async function scan(carton: number, text: string, count = '1') {
  return desk.call('wil', consignmentRoutes.scan, { params: { carton }, body: { scan: text, count } });
}
const said = async (carton: number, text: string, count?: string) => (await scan(carton, text, count)).words;

test('what comes in has a number for each piece, in its bin; wrong numbers are told by line and field, and nothing is received', async () => {
  const refused = await arrive('3', 'T-01, T-01');
  expect([refused.status, refused.problem.errors]).toEqual([422, [{ field: 'body.lines[0].serials', message: 'serial number T-01 stands twice' }]]);
  expect((await arrive('3', '')).problem.errors).toEqual([{ field: 'body.lines[0].serials', message: 'TUB has serial numbers: expected 3, got none' }]);
  expect((await desk.stock('TUB')).on_hand).toBe('0');
  expect((await arrive('3', 'T-01..T-03')).status).toBe(200);
  expect(await list()).toEqual(['T-01 in_stock in A-01 at MAR', 'T-02 in_stock in A-01 at MAR', 'T-03 in_stock in A-01 at MAR']);
  expect((await arrive('1', 'T-02')).problem.errors![0]!.message).toBe('serial number T-02 of TUB is in A-01 at MAR');
});

test('packed by scanning the number, alone or on a label; refused where it is elsewhere; it leaves with its shipment, and comes back as that is undone', async () => {
  await arrive('4', 'T-01..T-04');
  const { order, pick, consignment, carton } = await picked('3');
  expect(await said(carton, 'TUB')).toBe('TUB has serial numbers. Scan the serial number.');
  expect(await said(carton, '(01)05901234123457(21)T-01', '2')).toBe('TUB has serial numbers. Scan each piece by itself.');
  expect(await said(carton, '(01)05901234123457(21)T-01')).toBe('1 TUB, serial number T-01, in carton 1.');
  expect(await said(carton, 'T-01')).toBe(`Serial number T-01 of TUB is in carton 1 of shipment ${pick.number}.`);
  expect(await said(carton, 'T-02')).toBe('1 TUB, serial number T-02, in carton 1.');
  // A piece that nobody has named before: it is in the packer's hand.
  expect(await said(carton, 'tub T-99')).toBe('1 TUB, serial number T-99, in carton 1.');
  expect(await said(carton, 'T-03')).toBe('All of TUB is done already. Put this back.');
  // Four pieces, five numbers: the one that came last and is in no carton is missing now.
  expect(await list()).toContain('T-04 missing missing: nobody has said where');
  const out = await desk.call('wil', consignmentRoutes.takeOut, {
    params: { carton },
    body: { part: (await scan(carton, 'T-03')).consignment.parts[0]!.id, quantity: '1', serial: 'T-01' },
  });
  expect(out.cartons[0]!.contents[0]!.serials).toEqual(['T-02', 'T-99']);
  expect(out.missing).toEqual(['Line 1, TUB: 1 not packed yet. Pack them, or report what is missing', 'Carton 1 is still open. Weigh and close it']);
  expect(await said(carton, 'T-03')).toBe('1 TUB, serial number T-03, in carton 1.');
  await desk.call('wil', consignmentRoutes.closeCarton, { params: { carton }, body: { weight: '1.3', confirm: 'yes' } });
  await desk.call('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: 'X1' } });
  const found = await desk.call('ida', exchangeRoutes.find, { query: { q: 't-99' } });
  expect(found).toMatchObject([{ kind: 'serial', key: 'T-99', hint: `TUB, with the customer, by shipment ${pick.number}` }]);
  const page = () => desk.call('ida', serialRoutes.readSerial, { params: { serial: found[0]!.id } });
  expect(await page()).toMatchObject({ item: 'TUB', now: { state: 'shipped', order: order.id, customer: 'Wether Hill', shipment: pick.number } });
  expect((await page()).steps.map(({ kind, reference }) => [kind, reference])).toEqual([
    ['shipped', pick.number],
    ['packed', pick.number],
  ]);
  expect((await arrive('1', 'T-99')).problem.errors![0]!.message).toBe(`serial number T-99 of TUB is with the customer, by shipment ${pick.number}`);
  await desk.call('ida', consignmentRoutes.undoShipment, { params: { consignment }, body: { reason: 'wrong van' } });
  expect((await page()).now).toMatchObject({ state: 'packed', where: `in carton 1 of shipment ${pick.number}` });
  expect((await page()).steps[0]!.kind).toBe('brought_back');
  await desk.call('wil', shippingRoutes.cancelPick, { params: { shipment: pick.id }, body: { reason: 'given up' } });
  expect((await page()).now).toMatchObject({ state: 'in_stock', bin: 'A-01' });
});

test('nothing of it leaves without its numbers, and no carton is packed without scanning it', async () => {
  await arrive('2', 'T-01..T-02');
  const order = await desk.order([['TUB', '2']]);
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '2' }] },
  });
  const refused = await desk.send('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: 'X1' } });
  expect([refused.status, refused.problem.detail]).toEqual([409, 'Line 1, TUB: 2 without a serial number. Pack them by scanning it. Nothing was done.']);
  const view = await desk.call('wil', consignmentRoutes.readConsignment, { params: { consignment: pick.consignment! } });
  const packed = await desk.send('wil', consignmentRoutes.packProposed, { params: { consignment: view.id }, body: { version: view.version } });
  expect([packed.status, packed.problem.detail]).toEqual([409, 'TUB: pack them by scanning their serial numbers.']);
});

test('two packers scan one number at the same time: one has it, the other is told', async () => {
  await arrive('16', 'T-01..T-16');
  const [one, other] = [await picked('8'), await picked('8')];
  for (const serial of ['T-01', 'T-02', 'T-03', 'T-04', 'T-05', 'T-06', 'T-07', 'T-08']) {
    const answers = await Promise.all([scan(one.carton, serial), scan(other.carton, serial)]);
    expect(answers.map(({ ok }) => ok).sort()).toEqual([false, true]);
    expect(answers.find(({ ok }) => !ok)!.words).toMatch(/^Serial number T-0\d of TUB is in carton 1 of shipment /);
  }
});

test('goods that are written off without a word leave numbers missing; naming what is there puts it right', async () => {
  await arrive('3', 'T-01..T-03');
  const [place] = await desk.call('wil', stockRoutes.listPlaces, { query: { item: 'TUB' } });
  await desk.call('ida', stockRoutes.countStock, {
    params: { item: 'TUB' },
    body: { warehouse: 'MAR', counted: '1', place: place!.id, reason: 'counted', cause: 'lost', decision: { accept: [], seen: [] } },
  });
  expect(await list()).toEqual(['T-01 in_stock in A-01 at MAR', 'T-02 missing missing: nobody has said where', 'T-03 missing missing: nobody has said where']);
  const name = (serials: string) =>
    desk.send('wil', serialRoutes.placeSerials, { params: { item: 'TUB' }, body: { warehouse: 'MAR', bin: 'A-01', serials, reason: 'read again' } });
  expect((await name('T-02, T-03')).problem.detail).toContain('A-01 holds 1 of TUB: got 2 serial numbers');
  expect((await name('T-03')).status).toBe(200);
  expect(await list()).toEqual(['T-03 in_stock in A-01 at MAR', 'T-01 missing missing: nobody has said where', 'T-02 missing missing: nobody has said where']);
});

test('brought from another warehouse they are scanned as they come; assembled ones are named as they are made', async () => {
  await arrive('3', 'T-01..T-03');
  const made = await desk.call('ida', supplyRoutes.createTransfer, { body: { from: 'MAR', to: 'QUI', lines: [{ item: 'TUB', quantity: '2' }] } });
  const transfer = await desk.call('wil', supplyRoutes.shipTransfer, { params: { transfer: made.id }, body: { version: made.version } });
  const line = transfer.lines[0]!;
  expect(line.tracksSerials).toBe(true);
  const come = (quantity: string, serials: string, more: object = {}) =>
    desk.send('wil', supplyRoutes.receiveTransfer, {
      params: { transfer: made.id },
      body: { version: transfer.version, lines: [{ line: line.id, quantity, serials, ...more }] },
    });
  const refused = await come('2', 'T-01');
  expect([refused.status, refused.problem.errors]).toEqual([422, [{ field: 'body.lines[0].serials', message: 'TUB has serial numbers: expected 2, got 1' }]]);
  expect((await come('1', 'T-01, T-02', { damaged: '1' })).problem.errors![0]).toMatchObject({ field: 'body.lines[0].damaged' });
  // The desk took T-03 and T-02 for those that had left; what is in the hand is right.
  expect((await come('2', 'T-01, T-03')).status).toBe(200);
  expect(await list()).toEqual(
    ['T-01 in_stock in  at QUI', 'T-03 in_stock in  at QUI', 'T-02 missing missing: nobody has said where'].map((row) => row.replace('in  at', 'at')),
  );
});

test('what is assembled is named as it is made, each piece once', async () => {
  await desk.db.updateTable('item').set({ assembly_days: 1 }).where('code', '=', 'TUB').execute();
  await desk.db.insertInto('item_component').values({ item: 'TUB', component: 'JAR', quantity: '1' }).execute();
  await desk.stockUp('JAR', '4');
  const made = await desk.call('ida', supplyRoutes.createAssembly, { body: { item: 'TUB', warehouse: 'MAR', quantity: '2' } });
  const build = (quantity: string, serials?: string) =>
    desk.send('wil', supplyRoutes.buildAssembly, {
      params: { assembly: made.id },
      body: { version: made.version, quantity, ...(serials === undefined ? {} : { serials }) },
    });
  expect((await build('2')).problem.errors).toEqual([{ field: 'body.serials', message: 'TUB has serial numbers: expected 2, got none' }]);
  expect((await build('2', 'N-1..N-2')).status).toBe(200);
  expect((await list()).map((row) => row.split(' ').slice(0, 2).join(' '))).toEqual(['N-1 in_stock', 'N-2 in_stock']);
});

test('goods that are moved take their numbers along: all of a bin by itself, some by name', async () => {
  await arrive('3', 'T-01..T-03');
  const placeOf = async (bin: string) => (await desk.call('wil', stockRoutes.listPlaces, { query: { item: 'TUB' } })).find((row) => row.bin === bin)!;
  const move = async (from: string, body: object) =>
    desk.send('ida', stockRoutes.moveGoods, { params: { place: (await placeOf(from)).id }, body: body as never });
  expect((await placeOf('A-01')).tracksSerials).toBe(true);
  expect((await move('A-01', { quantity: '3', bin: 'A-02' })).status).toBe(200);
  expect(await list()).toEqual(['T-01 in_stock in A-02 at MAR', 'T-02 in_stock in A-02 at MAR', 'T-03 in_stock in A-02 at MAR']);
  expect((await move('A-02', { quantity: '1', bin: 'A-01', serials: 'T-09' })).problem.errors).toEqual([
    { field: 'body.serials', message: 'serial number T-09 is not in this bin' },
  ]);
  expect((await move('A-02', { quantity: '2', bin: 'A-01', serials: 'T-02' })).problem.errors).toEqual([
    { field: 'body.serials', message: 'expected 2 serial numbers, got 1' },
  ]);
  const decision = { accept: [], seen: [] };
  expect((await move('A-02', { quantity: '1', status: 'quarantine', cause: 'damaged', serials: 'T-02', decision })).status).toBe(200);
  expect(await list()).toEqual(['T-01 in_stock in A-02 at MAR', 'T-02 in_stock in A-02 at MAR, in quarantine', 'T-03 in_stock in A-02 at MAR']);
  // Not said which: the last that came is missing.
  expect((await move('A-02', { quantity: '1', bin: 'A-01' })).status).toBe(200);
  expect(await list()).toContain('T-03 missing missing: nobody has said where');
});

test('over the counter: held with its number, taken back by it, sold with it', async () => {
  await arrive('3', 'T-01..T-03');
  const basket = await desk.call('wil', counterRoutes.startBasket, { body: { warehouse: 'MAR', customer: 1 } });
  const put = async (text: string, back = false, count = '1') =>
    desk.call('wil', counterRoutes.scanBasket, { params: { order: basket.order }, body: { scan: text, count, back } });
  expect((await put('tub')).words).toBe('TUB has serial numbers. Scan the serial number.');
  expect((await put('T-02')).words).toBe('1 TUB, serial number T-02, in the basket.');
  expect((await put('T-02')).words).toBe('Serial number T-02 of TUB is in the basket already.');
  expect((await put('T-03')).ok).toBe(true);
  expect((await put('T-01', true)).words).toBe('Serial number T-01 of TUB is not in the basket.');
  expect((await put('T-02', true)).words).toBe('1 TUB, serial number T-02, taken back.');
  expect(await list()).toEqual(['T-01 in_stock in A-01 at MAR', 'T-02 in_stock in A-01 at MAR', 'T-03 basket in a basket at the counter']);
  const { carton } = await picked('1');
  expect(await said(carton, 'T-03')).toBe('Serial number T-03 of TUB is in a basket at the counter.');
  const view = await desk.call('wil', counterRoutes.readBasket, { params: { order: basket.order } });
  const paid = await desk.call('wil', counterRoutes.payBasket, {
    params: { order: basket.order },
    body: { version: view.version, method: 'cash', given: '10' },
  });
  expect(paid.state).toBe('paid');
  expect(await list()).toContainEqual(expect.stringMatching(/^T-03 shipped with the customer, by shipment /));
});

test('a basket that is dropped lets its pieces go', async () => {
  await arrive('1', 'T-01');
  const basket = await desk.call('wil', counterRoutes.startBasket, { body: { warehouse: 'MAR', customer: 1 } });
  await desk.call('wil', counterRoutes.scanBasket, { params: { order: basket.order }, body: { scan: 'T-01', count: '1', back: false } });
  await desk.call('wil', counterRoutes.dropBasket, { params: { order: basket.order }, body: {} });
  expect(await list()).toEqual(['T-01 in_stock in A-01 at MAR']);
});

test('how an item is handled is said in one place: sizes together or not at all', async () => {
  const set = (body: object) =>
    desk.send('mona', itemRoutes.setHandling, {
      params: { item: 'JAR' },
      body: { weight: '0.25', length: '10', width: '8', height: '12', apart: 'glass', tracksSerials: false, ...body },
    });
  expect((await set({ width: null })).problem.errors).toEqual([{ field: 'body.width', message: 'expected length, width and height, or none of them' }]);
  expect((await set({ height: '0' })).problem.errors).toEqual([{ field: 'body.height', message: 'expected centimetres above 0, got 0' }]);
  expect((await set({})).status).toBe(200);
  expect(await desk.call('ida', itemRoutes.readItem, { params: { item: 'JAR' } })).toMatchObject({ weight: '0.25', length: '10', apart: 'glass' });
});
