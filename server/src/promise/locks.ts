import { anyOf, type Trx } from '../database';

export interface PoolKey {
  readonly item: string;
  readonly warehouse: string;
}

/*
 * The one lock order: sales orders by id, purchase orders by id, shipments by id, pools by item and warehouse, number
 * series. Every command takes what it needs in this order, so that none waits for another in a circle.
 */

export async function lockOrders(trx: Trx, ids: readonly number[]): Promise<void> {
  await trx.selectFrom('sales_order').select('id').where(anyOf('id', ids)).orderBy('id').forUpdate().execute();
}

export async function lockPurchases(trx: Trx, ids: readonly number[]): Promise<void> {
  await trx.selectFrom('purchase_order').select('id').where(anyOf('id', ids)).orderBy('id').forUpdate().execute();
}

export async function lockShipments(trx: Trx, ids: readonly number[]): Promise<void> {
  await trx.selectFrom('shipment').select('id').where(anyOf('id', ids)).orderBy('id').forUpdate().execute();
}

/** Locks pools, so that no two sessions promise or take the same goods. Pools that have no row yet get one. */
export async function lockPools(trx: Trx, pools: readonly PoolKey[]): Promise<void> {
  const keys = [...new Map(pools.map(({ item, warehouse }) => [`${item}\u0000${warehouse}`, { item, warehouse }])).values()];
  keys.sort((a, b) => compare(a.item, b.item) || compare(a.warehouse, b.warehouse));
  if (keys.length === 0) return;
  // One by one: an insert of several rows that meets another's would take its locks in its own order.
  for (const { item, warehouse } of keys) {
    const locked = await trx.selectFrom('stock').select('item').where('item', '=', item).where('warehouse', '=', warehouse).forUpdate().executeTakeFirst();
    if (locked) continue;
    await trx
      .insertInto('stock')
      .values({ item, warehouse })
      .onConflict((conflict) => conflict.doNothing())
      .execute();
    await trx.selectFrom('stock').select('item').where('item', '=', item).where('warehouse', '=', warehouse).forUpdate().executeTakeFirst();
  }
}

function compare(a: string, b: string) {
  return a < b ? -1 : a > b ? 1 : 0;
}
