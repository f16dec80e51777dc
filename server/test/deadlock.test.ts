import { takeLocks } from '../src/locks';
import { supplyRoutes } from '@nockwright/contract/supply';
import { orderRoutes } from '@nockwright/contract/orders';
import type { Trx } from '../src/database';

import { stillDraft } from '../src/supply/gather-purchases';
import { brokenInvariants } from './invariants';
import { LockGuard } from './lock-guard';
import { seenOf, TestDesk } from './test-desk';

/** Orders of each of the releasers, and drafts that each sender tries to send. */
const ORDERS = 3;
const RELEASERS = 6;
const SENDERS = 2;
const ITEMS = ['JAR', 'LID', 'BOX'] as const;

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterAll(() => desk.close());

test('releasing orders that are bought for, and sending what was bought, never wait for each other in a circle', async () => {
  const drafts = await Promise.all(
    Array.from({ length: RELEASERS * ORDERS }, async (_, at) => {
      const items = [ITEMS[at % 3]!, ITEMS[(at + 1) % 3]!];
      let order = await desk.draft(items.map((item) => [item, '5'] as const));
      for (const [line, supplier] of [[0, at % 2 === 0 ? 'SUP' : 'SLOW'] as const, [1, at % 2 === 0 ? 'SLOW' : 'SUP'] as const])
        order = await desk.take(order, line + 1, { kind: 'special_order', supplier, quantity: '5' });
      return order;
    }),
  );
  let releasing = true;
  const release = async (own: typeof drafts) => {
    for (const { id } of own) {
      const order = await desk.read({ id });
      const { status } = await desk.send('ida', orderRoutes.releaseOrder, { params: { order: id }, body: seenOf(order) });
      expect([200, 409]).toContain(status);
    }
  };
  const sending = async () => {
    while (releasing) {
      const rows = await desk.call('ida', supplyRoutes.listPurchases, { query: { state: 'open' } });
      for (const { id } of rows.filter((row) => row.state === 'draft')) {
        const { version } = await desk.readPurchase(id);
        await desk.send('ida', supplyRoutes.sendPurchase, { params: { purchase: id }, body: { version } });
      }
    }
  };
  const senders = Array.from({ length: SENDERS }, sending);
  await Promise.all(Array.from({ length: RELEASERS }, (_, at) => release(drafts.slice(at * ORDERS, (at + 1) * ORDERS))));
  releasing = false;
  await Promise.all(senders);
  expect(desk.faults.filter((line) => line.includes('waited for each other'))).toEqual([]);
  expect(await brokenInvariants(desk.db)).toEqual([]);
});

test('a draft that another has in hand is not waited for behind the pools: what is bought goes on one of its own', async () => {
  const order = await desk.draft([['TUB', '1']]);
  const { id } = await desk.call('ida', supplyRoutes.createPurchase, {
    body: { supplier: 'SUP', warehouse: 'MAR', lines: [{ item: 'JAR', quantity: '5', expectedDay: '2027-03-19' }] },
  });
  await desk.db.transaction().execute(async (sender) => {
    await takeLocks(sender, { purchases: [id] });
    await desk.db.transaction().execute(async (buyer) => {
      await takeLocks(buyer, { pools: order.lines });
      expect(await stillDraft({ trx: buyer }, { id })).toBeUndefined();
    });
  });
  await desk.db.transaction().execute(async (buyer) => expect(await stillDraft({ trx: buyer }, { id })).toEqual({ id }));
});

test('a whole and a part of it are built at the same moment: neither forgets what the other used or made', async () => {
  for (const item of ['JAR', 'LID', 'BOX']) await desk.stockUp(item, '100');
  const crate = await desk.call('ida', supplyRoutes.createAssembly, { body: { item: 'CRATE', warehouse: 'MAR', quantity: '10' } });
  const kit = crate.parts[0]!.id;
  const build = async (id: number, quantity: string) => {
    const { version } = await desk.call('wil', supplyRoutes.readAssembly, { params: { assembly: id } });
    await desk.call('wil', supplyRoutes.buildAssembly, { params: { assembly: id }, body: { version, quantity } });
  };
  await build(kit, '2');
  // Two kits go into a crate: as many are made as are used.
  for (let round = 0; round < 9; round++) await Promise.all([build(kit, '2'), build(crate.id, '1')]);
  const kept = await desk.db.selectFrom('assembly_component').select('set_aside').where('assembly_id', '=', crate.id).where('component', '=', 'KIT').execute();
  expect(kept).toEqual([{ set_aside: '2' }]);
  expect(desk.faults.filter((line) => line.includes('waited for each other'))).toEqual([]);
  expect(await brokenInvariants(desk.db)).toEqual([]);
});

describe('the guard of the pools', () => {
  test('lets nobody write two pools that were not locked before, and whoever locked them', async () => {
    const { lines } = await desk.order([
      ['JAR', '1'],
      ['LID', '1'],
    ]);
    const both = (first: (trx: Trx) => Promise<unknown>) =>
      desk.db
        .transaction()
        .execute(async (trx) => {
          await first(trx);
          for (const line of lines) await trx.updateTable('line_promise').set({ quantity: '0.5' }).where('line_id', '=', line.id).execute();
          throw new Error('all is as it should be');
        })
        .catch((error: Error) => error.message);
    expect(await both(async () => undefined)).toMatch(/pool JAR@MAR is written and was not locked before/);
    expect(await both((trx) => takeLocks(trx, { pools: [lines[0]!] }))).toMatch(/pool LID@MAR is written and was not locked before/);
    expect(await both((trx) => takeLocks(trx, { pools: lines }))).toBe('all is as it should be');
  });
});

test('the guard of the lock order tells what is locked out of its turn, and nothing that is held already or not waited for', () => {
  const told: string[] = [];
  const guard = new LockGuard((fault) => told.push(fault));
  const order = 'select "id" from "sales_order" where "id" = any($1) order by "id" for no key update';
  const pools = 'select item, warehouse from stock where (item, warehouse) in (select item, warehouse from unnest($1::text[], $2::text[]) k) for no key update';
  guard.see('begin');
  guard.see(order, [[1, 2]]);
  guard.see(pools, [['JAR'], ['MAR']]);
  guard.see(order, [[2]]);
  guard.see('select "state" from "purchase_order" where "id" = $1 for no key update skip locked', [7]);
  guard.see('select "id" from "sales_order" where "id" = $1', [3]);
  expect(told).toEqual([]);
  guard.see(order, [[3]]);
  expect(told).toEqual([expect.stringMatching(/^sales_order is locked after stock/)]);
  guard.see('commit');
  guard.see(order, [[3]]);
  guard.see('update number_series set next = next + 1');
  guard.see(pools, [['JAR'], ['QUI']]);
  expect(told.slice(1)).toEqual([expect.stringMatching(/^stock is locked after number_series/)]);
});
