import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { supplyRoutes, type TransferView } from '@nockwright/contract/supply';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { decided } from './decided';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';
import { said } from './said';

let desk: TestDesk;
beforeEach(async () => (desk = await TestDesk.open()));
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const calls = async () => (await desk.call('ida', worklistRoutes.listCalls)).calls.map(({ number, told, holds }) => ({ number, told, holds }));
const daysOf = (order: OrderView) => order.lines[0]!.schedule.map(({ day, quantity }) => [day, quantity]);
const short = async () => (await desk.shortages()).map((row) => [row.number, row.quantity]);

/** An order whose jars are brought over from Quillhaven: they leave today and are on the shelf on Thursday. */
async function broughtOver(quantity: string): Promise<{ order: OrderView; transfer: TransferView }> {
  await desk.stockUp('JAR', quantity, 'QUI');
  const draft = await desk.draft([['JAR', quantity]]);
  const order = await desk.release(await desk.take(draft, 1, { kind: 'transfer', warehouse: 'QUI', quantity }));
  expect(daysOf(order)).toEqual([['2027-03-11', quantity]]);
  return { order, transfer: await transferOf(order) };
}

const transferOf = (order: OrderView) =>
  desk.call('ida', supplyRoutes.readTransfer, { params: { transfer: order.lines[0]!.routes.find((route) => route.kind === 'transfer')!.document!.id } });

/** An order at Quillhaven that waits for jars there, wanted on Thursday. */
async function waitsThere(quantity: string): Promise<OrderView> {
  const made = await desk.call('sam', orderRoutes.createOrder, { body: { customer: 2 } });
  await desk.call('sam', orderRoutes.changeOrder, { params: { order: made.id }, body: { version: made.version, warehouse: 'QUI' } });
  const draft = await desk.call('sam', orderRoutes.addLine, { params: { order: made.id }, body: { item: 'JAR', quantity } });
  return desk.release(await desk.route(draft, 1, 'backorder', quantity));
}

describe('a transfer that is taken back', () => {
  test('shows whom it hurts and who gets the goods that stay, and moves both as was seen', async () => {
    const { order, transfer } = await broughtOver('10');
    await desk.purchase('JAR', '10', '2027-03-25');
    const there = await waitsThere('6');
    const at = { params: { transfer: transfer.id } };
    const lines = `${transfer.lines[0]!.id}:0`;
    const seen = await desk.call('ida', supplyRoutes.previewTransferChange, { ...at, query: { lines } });
    expect(seen.ripple.later).toMatchObject([{ order: order.id, quantity: '10', from: '2027-03-11', to: '2027-03-26' }]);
    expect(seen.availableDay).toBeNull();
    expect(seen.ripple.offers).toMatchObject([{ order: there.id, quantity: '6', from: null, to: '2027-03-11' }]);
    const accept = [there.lines[0]!.id];
    const { ripple } = await desk.call('ida', supplyRoutes.previewTransferChange, { ...at, query: { lines, accept: accept.join(',') } });
    const back = await desk.call('ida', supplyRoutes.cancelTransfer, {
      ...at,
      body: { version: transfer.version, reason: 'the van broke down', decision: decided(ripple, accept) },
    });
    expect(back).toMatchObject({ state: 'cancelled', lines: [{ cancelled: '10', open: '0' }] });
    expect(daysOf(await desk.read(order))).toEqual([['2027-03-26', '10']]);
    expect(daysOf(await desk.read(there))).toEqual([['2027-03-11', '6']]);
    expect(await calls()).toEqual([{ number: order.number, told: [{ day: '2027-03-11', quantity: '10' }], holds: [{ day: '2027-03-26', quantity: '10' }] }]);
  });

  test('without a decision leaves who lost the goods waiting on the board, with a call', async () => {
    const { order, transfer } = await broughtOver('10');
    await desk.call('ida', supplyRoutes.cancelTransfer, { params: { transfer: transfer.id }, body: { version: transfer.version, reason: 'no van' } });
    expect(await short()).toEqual([[order.number, '10']]);
    expect(await calls()).toMatchObject([{ number: order.number, holds: [] }]);
  });

  test('is not done where it does something else by now than was seen', async () => {
    const { order, transfer } = await broughtOver('10');
    const at = { params: { transfer: transfer.id } };
    const { ripple } = await desk.call('ida', supplyRoutes.previewTransferChange, { ...at, query: { lines: `${transfer.lines[0]!.id}:0` } });
    await desk.purchase('JAR', '10', '2027-03-25');
    const late = await desk.send('ida', supplyRoutes.cancelTransfer, { ...at, body: { version: transfer.version, reason: 'x', decision: decided(ripple) } });
    expect([late.status, late.problem.detail]).toEqual([409, expect.stringContaining('it is now 10 on Fri 26 Mar')]);
    expect((await transferOf(order)).state).toBe('open');
    expect(daysOf(await desk.read(order))).toEqual([['2027-03-11', '10']]);
  });
});

describe('another day for a transfer', () => {
  test('moves the promises as was seen, with a call; what has not left leaves so much later', async () => {
    const { order, transfer } = await broughtOver('10');
    const at = { params: { transfer: transfer.id } };
    const seen = await desk.call('ida', supplyRoutes.previewTransferChange, { ...at, query: { day: '2027-03-17' } });
    expect(seen).toMatchObject({ availableDay: '2027-03-18', ripple: { later: [{ order: order.id, from: '2027-03-11', to: '2027-03-18', days: 7 }] } });
    const changed = await desk.call('ida', supplyRoutes.changeTransfer, {
      ...at,
      body: { version: transfer.version, expectedDay: '2027-03-17', note: 'no van before', decision: decided(seen.ripple) },
    });
    expect(changed).toMatchObject({ state: 'open', shipDay: '2027-03-16', expectedDay: '2027-03-17', version: transfer.version + 1 });
    expect(daysOf(await desk.read(order))).toEqual([['2027-03-18', '10']]);
    expect(await calls()).toMatchObject([{ number: order.number, holds: [{ day: '2027-03-18', quantity: '10' }] }]);
    const [told] = await desk.call('ida', supplyRoutes.transferHistory, at);
    expect([said(told!), told!.why]).toEqual([`transfer ${transfer.number}: now expected Wed 17 Mar, was Wed 10 Mar`, 'no van before']);
  });

  test('that is only recorded leaves the promise as told, at risk, and on the board with every way that saves it', async () => {
    const { order, transfer } = await broughtOver('10');
    await desk.call('wil', supplyRoutes.shipTransfer, { params: { transfer: transfer.id }, body: { version: transfer.version } });
    const left = await transferOf(order);
    const changed = await desk.call('ida', supplyRoutes.changeTransfer, {
      params: { transfer: transfer.id },
      body: { version: left.version, expectedDay: '2027-03-17' },
    });
    expect(changed).toMatchObject({ state: 'shipped', shipDay: '2027-03-09', expectedDay: '2027-03-17' });
    const after = await desk.read(order);
    expect(after.lines[0]!.schedule).toMatchObject([{ day: '2027-03-11', quantity: '10', arrives: '2027-03-18' }]);
    expect([await calls(), await short()]).toEqual([[], [[order.number, '10']]]);
    // Saved another way in time, the goods on the road are anyone's.
    await desk.db.updateTable('supplier').set({ lead_days: 1 }).where('code', '=', 'SUP').execute();
    const saved = await desk.take(after, 1, { kind: 'special_order', supplier: 'SUP', quantity: '10' });
    expect(saved.lines[0]!.schedule.map((entry) => entry.arrives)).toEqual([null]);
    expect((await transferOf(order)).lines).toMatchObject([{ open: '10', for: null }]);
  });

  test('says what is wrong by field, and does nothing', async () => {
    const { order, transfer } = await broughtOver('10');
    const at = { params: { transfer: transfer.id } };
    const change = (body: object) => desk.send('ida', supplyRoutes.changeTransfer, { ...at, body: { version: transfer.version, ...body } as never });
    const line = transfer.lines[0]!.id;
    for (const [body, field, message] of [
      [{ expectedDay: '2027-03-08' }, 'body.expectedDay', '2027-03-08 has passed; expected 2027-03-09 or later'],
      [{}, 'body', 'expected another day (expectedDay) or less of a line (lines)'],
      [{ lines: [{ line, open: '11' }] }, 'body.lines[0].open', '11 is more than the 10 of line 1 that are to come: for more, start another transfer'],
      [{ lines: [{ line: 99_999, open: '1' }] }, 'body.lines[0].line', 'there is no line 99999 on this transfer'],
      [
        {
          lines: [
            { line, open: '1' },
            { line, open: '2' },
          ],
        },
        'body.lines[1].line',
        'line 1 stands twice',
      ],
    ] as const) {
      const { status, problem } = await change(body);
      expect([status, problem.errors]).toEqual([422, [{ field, message }]]);
    }
    expect((await desk.send('wil', supplyRoutes.changeTransfer, { ...at, body: { version: transfer.version, expectedDay: '2027-03-17' } })).status).toBe(403);
    const done = await desk.call('ida', supplyRoutes.changeTransfer, { ...at, body: { version: transfer.version, expectedDay: '2027-03-11' } });
    expect((await change({ expectedDay: '2027-03-12' })).status).toBe(409);
    expect((await transferOf(order)).expectedDay).toBe(done.expectedDay);
    await desk.call('wil', supplyRoutes.shipTransfer, { ...at, body: { version: done.version } });
    const left = await desk.send('ida', supplyRoutes.changeTransfer, { ...at, body: { version: done.version + 1, lines: [{ line, open: '4' }] } });
    expect([left.status, left.problem.detail]).toEqual([409, expect.stringContaining('is on its way')]);
    await desk.call('wil', supplyRoutes.receiveTransfer, { ...at, body: { version: done.version + 1, lines: [{ line, quantity: '10' }] } });
    const over = await desk.send('ida', supplyRoutes.previewTransferChange, { ...at, query: { day: '2027-03-17' } });
    expect([over.status, over.problem.detail]).toEqual([409, `Transfer ${transfer.number} is closed.`]);
    const again = await desk.send('ida', supplyRoutes.previewTransferReceipt, { ...at, query: { lines: `${line}:0` } });
    expect([again.status, again.problem.detail]).toEqual([409, `Transfer ${transfer.number} is closed.`]);
  });
});

test('less of one line of a transfer: what stays is free there, the promise that loses goods moves or waits, the other line goes on', async () => {
  await desk.stockUp('JAR', '10', 'QUI');
  await desk.stockUp('LID', '10', 'QUI');
  const made = await desk.call('ida', supplyRoutes.createTransfer, {
    body: {
      from: 'QUI',
      to: 'MAR',
      lines: [
        { item: 'JAR', quantity: '10' },
        { item: 'LID', quantity: '10' },
      ],
    },
  });
  const order = await desk.order([['JAR', '8']]);
  const [jar, lid] = made.lines;
  const seen = await desk.call('ida', supplyRoutes.previewTransferChange, { params: { transfer: made.id }, query: { lines: `${jar!.id}:5` } });
  expect(seen.ripple.later).toMatchObject([{ order: order.id, quantity: '3', to: null }]);
  const changed = await desk.call('ida', supplyRoutes.changeTransfer, {
    params: { transfer: made.id },
    body: {
      version: made.version,
      lines: [
        { line: jar!.id, open: '5' },
        { line: lid!.id, open: '10' },
      ],
      note: 'five are cracked',
      decision: decided(seen.ripple),
    },
  });
  expect(changed.lines).toMatchObject([
    { item: 'JAR', cancelled: '5', open: '5' },
    { item: 'LID', cancelled: '0', open: '10' },
  ]);
  expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '5', waiting: '3' });
  expect(await calls()).toMatchObject([{ number: order.number, holds: [{ quantity: '5' }] }]);
});

describe('a transfer that comes short', () => {
  test('shows whom it leaves without goods before, and moves them as was seen; the warehouse only books what came', async () => {
    const { order, transfer } = await broughtOver('10');
    await desk.purchase('JAR', '4', '2027-03-25');
    const at = { params: { transfer: transfer.id } };
    const line = transfer.lines[0]!.id;
    const early = await desk.send('ida', supplyRoutes.previewTransferReceipt, { ...at, query: { lines: `${line}:1` } });
    expect([early.status, early.problem.detail]).toEqual([409, expect.stringContaining('has not left')]);
    const { version } = await desk.call('wil', supplyRoutes.shipTransfer, { ...at, body: { version: transfer.version } });
    const waits = await desk.call('ida', supplyRoutes.previewTransferReceipt, { ...at, query: { lines: `${line}:7` } });
    // What has come can leave at once; the rest is still on its way.
    expect(waits.ripple.later).toEqual([]);
    const { ripple } = await desk.call('ida', supplyRoutes.previewTransferReceipt, { ...at, query: { lines: `${line}:7`, closeRest: true } });
    expect(ripple.later).toMatchObject([{ order: order.id, quantity: '3', from: '2027-03-11', to: '2027-03-26' }]);
    const body = { version, lines: [{ line, quantity: '7' }], closeRest: true, decision: decided(ripple) };
    expect((await desk.send('wil', supplyRoutes.receiveTransfer, { ...at, body })).status).toBe(403);
    expect((await desk.send('wil', supplyRoutes.receiveTransfer, { ...at, body: { ...body, closeRest: false } })).status).toBe(403);
    expect(await desk.call('ida', supplyRoutes.receiveTransfer, { ...at, body })).toMatchObject({ state: 'closed', lines: [{ received: '7', lost: '3' }] });
    expect(daysOf(await desk.read(order))).toEqual([
      ['2027-03-11', '7'],
      ['2027-03-26', '3'],
    ]);
    expect(await calls()).toMatchObject([{ number: order.number, told: [{ quantity: '10' }] }]);
  });

  test('names by field what cannot have come, before it is booked as when it is, and books nothing', async () => {
    const { transfer } = await broughtOver('10');
    const at = { params: { transfer: transfer.id } };
    const line = transfer.lines[0]!.id;
    const { version } = await desk.call('wil', supplyRoutes.shipTransfer, { ...at, body: { version: transfer.version } });
    for (const [lines, field, message] of [
      [
        [
          [line, '4'],
          [line, '4'],
        ],
        'lines[1].line',
        'line 1 stands twice',
      ],
      [[[line, '11']], 'lines[0].quantity', '11 is more than the 10 on the way of line 1; what is over is put right by a count'],
      [[[line, '8', '3']], 'lines[0].quantity', '11 is more than the 10 on the way of line 1; what is over is put right by a count'],
      [[[99_999, '1']], 'lines[0].line', 'there is no line 99999 on this transfer'],
    ] as const) {
      const came = lines.map(([id, quantity, damaged]) => ({ line: id, quantity, ...(damaged ? { damaged } : {}) }));
      const booked = await desk.send('wil', supplyRoutes.receiveTransfer, { ...at, body: { version, lines: came } });
      expect([booked.status, booked.problem.errors]).toEqual([422, [{ field: `body.${field}`, message }]]);
      const seen = await desk.send('ida', supplyRoutes.previewTransferReceipt, { ...at, query: { lines: lines.map((row) => row.join(':')).join(',') } });
      expect([seen.status, seen.problem.errors]).toEqual([422, [{ field: `query.${field}`, message }]]);
    }
    expect(await desk.stock('JAR')).toMatchObject({ on_hand: '0' });
  });

  test('or does not come at all: nothing is booked in, all of it is lost', async () => {
    const { order, transfer } = await broughtOver('10');
    const at = { params: { transfer: transfer.id } };
    const line = transfer.lines[0]!.id;
    const { version } = await desk.call('wil', supplyRoutes.shipTransfer, { ...at, body: { version: transfer.version } });
    const nothing = await desk.send('wil', supplyRoutes.receiveTransfer, { ...at, body: { version, lines: [{ line, quantity: '0' }] } });
    expect(nothing.problem.errors).toEqual([{ field: 'body.lines', message: 'nothing is received by this: type what was received, or close the remainder' }]);
    const lost = await desk.call('ida', supplyRoutes.receiveTransfer, { ...at, body: { version, lines: [{ line, quantity: '0' }], closeRest: true } });
    expect(lost).toMatchObject({ state: 'closed', lines: [{ received: '0', lost: '10' }] });
    expect(await short()).toEqual([[order.number, '10']]);
    expect(await desk.stock('JAR')).toMatchObject({ on_hand: '0', inbound: '0' });
  });
});

describe('an assembly', () => {
  /** An order for two crates, put together here: kits first, then crates, on the shelf on Friday. */
  async function putTogether() {
    for (const [item, quantity] of [
      ['JAR', '4'],
      ['LID', '4'],
      ['BOX', '2'],
    ] as const)
      await desk.stockUp(item, quantity);
    const order = await desk.release(await desk.take(await desk.draft([['CRATE', '2']]), 1, { kind: 'assemble', quantity: '2' }));
    expect(daysOf(order)).toEqual([['2027-03-12', '2']]);
    const crate = await desk.call('ida', supplyRoutes.readAssembly, { params: { assembly: order.lines[0]!.routes[0]!.document!.id } });
    const kit = await desk.call('ida', supplyRoutes.readAssembly, { params: { assembly: crate.parts[0]!.id } });
    return { order, crate, kit };
  }

  test('is given up: whom it hurts and who gets the components is seen before, and moves as seen', async () => {
    const { order, crate, kit } = await putTogether();
    const waits = await desk.release(await desk.route(await desk.draft([['JAR', '3']], 'sam', 2), 1, 'backorder', '3'));
    const at = { params: { assembly: crate.id } };
    const accept = [waits.lines[0]!.id];
    const { ripple } = await desk.call('ida', supplyRoutes.previewAssemblyChange, { ...at, query: { open: '0', accept: accept.join(',') } });
    expect(ripple.later).toMatchObject([{ order: order.id, quantity: '2', to: null }]);
    expect(ripple.earlier).toMatchObject([{ order: waits.id, quantity: '3', to: '2027-03-11' }]);
    const given = await desk.call('ida', supplyRoutes.cancelAssembly, {
      ...at,
      body: { version: crate.version, reason: 'the bench is broken', decision: decided(ripple, accept) },
    });
    expect(given).toMatchObject({ state: 'cancelled', components: [{ setAside: '0' }, { setAside: '0' }] });
    expect(await desk.call('ida', supplyRoutes.readAssembly, { params: { assembly: kit.id } })).toMatchObject({ state: 'cancelled' });
    const over = await desk.send('ida', supplyRoutes.previewAssemblyChange, { ...at, query: { day: '2027-03-17' } });
    expect([over.status, over.problem.detail]).toEqual([409, `Assembly ${crate.number} is cancelled.`]);
    expect(daysOf(await desk.read(waits))).toEqual([['2027-03-11', '3']]);
    expect(await calls()).toMatchObject([{ number: order.number, holds: [] }]);
    expect(await short()).toEqual([[order.number, '2']]);
  });

  test('is done on another day: promises move as was seen; a part of it carries it along, and it cannot be done before its parts', async () => {
    const { order, crate, kit } = await putTogether();
    expect([kit.expectedDay, crate.expectedDay]).toEqual(['2027-03-10', '2027-03-11']);
    const part = { params: { assembly: kit.id } };
    const seen = await desk.call('ida', supplyRoutes.previewAssemblyChange, { ...part, query: { day: '2027-03-19' } });
    // A day more for the crates, over the weekend, and one to be put away.
    expect(seen).toMatchObject({ availableDay: '2027-03-23', ripple: { later: [{ order: order.id, from: '2027-03-12', to: '2027-03-23' }] } });
    await desk.call('ida', supplyRoutes.changeAssembly, {
      ...part,
      body: { version: kit.version, expectedDay: '2027-03-19', note: 'one is ill', decision: decided(seen.ripple) },
    });
    const whole = await desk.call('ida', supplyRoutes.readAssembly, { params: { assembly: crate.id } });
    expect([whole.expectedDay, daysOf(await desk.read(order))]).toEqual(['2027-03-22', [['2027-03-23', '2']]]);
    const [told] = await desk.call('ida', supplyRoutes.assemblyHistory, { params: { assembly: crate.id } });
    expect(said(told!)).toBe(`assembly ${crate.number}: now done by Mon 22 Mar, was Thu 11 Mar, as ${kit.number} is done by Fri 19 Mar`);
    const before = await desk.send('ida', supplyRoutes.changeAssembly, {
      params: { assembly: crate.id },
      body: { version: whole.version, expectedDay: '2027-03-18' },
    });
    expect(before.problem.errors).toEqual([
      { field: 'body.expectedDay', message: `2027-03-18 is before ${kit.number}, a part of it, is assembled: 2027-03-19` },
    ]);
    // Later than its parts it may be done; only recorded, what was told stands and is at risk.
    await desk.call('ida', supplyRoutes.changeAssembly, { params: { assembly: crate.id }, body: { version: whole.version, expectedDay: '2027-03-29' } });
    expect((await desk.read(order)).lines[0]!.schedule).toMatchObject([{ day: '2027-03-23', arrives: '2027-03-30' }]);
    // As long as there is time between them, a part that is done later holds nothing up.
    const { version } = await desk.call('ida', supplyRoutes.readAssembly, part);
    await desk.call('ida', supplyRoutes.changeAssembly, { ...part, body: { version, expectedDay: '2027-03-23' } });
    expect(await desk.call('ida', supplyRoutes.readAssembly, { params: { assembly: crate.id } })).toMatchObject({ expectedDay: '2027-03-29' });
  });

  test('is for fewer: components of the rest go back, and so does its promise', async () => {
    const { order, crate, kit } = await putTogether();
    const at = { params: { assembly: crate.id } };
    const { ripple } = await desk.call('ida', supplyRoutes.previewAssemblyChange, { ...at, query: { open: '1' } });
    const changed = await desk.call('ida', supplyRoutes.changeAssembly, { ...at, body: { version: crate.version, open: '1', decision: decided(ripple) } });
    expect(changed).toMatchObject({ open: '1', cancelled: '1', state: 'open', components: [{ item: 'BOX', setAside: '1' }, { item: 'KIT' }] });
    expect(await desk.call('ida', supplyRoutes.readAssembly, { params: { assembly: kit.id } })).toMatchObject({ open: '2', cancelled: '2' });
    expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '1', waiting: '1', routes: [{ kind: 'assemble', quantity: '1' }] });
    for (const [body, field, message] of [
      [{ open: '2' }, 'body.open', '2 is more than the 1 still to assemble: for more, start another assembly'],
      [{ open: '0.5' }, 'body.open', '0.5 is no whole number: only whole ones are assembled'],
      [{ expectedDay: '2027-03-01' }, 'body.expectedDay', '2027-03-01 has passed; expected 2027-03-09 or later'],
      [{}, 'body', 'expected another day (expectedDay) or quantity (open)'],
    ] as const)
      expect((await desk.send('ida', supplyRoutes.changeAssembly, { ...at, body: { version: changed.version, ...body } })).problem.errors).toEqual([
        { field, message },
      ]);
    const part = await desk.send('ida', supplyRoutes.changeAssembly, { params: { assembly: kit.id }, body: { version: kit.version + 1, open: '1' } });
    expect([part.status, part.problem.detail]).toEqual([409, expect.stringContaining('is part of another')]);
  });
});
