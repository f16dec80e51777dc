import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';

export interface PoolKey {
  readonly item: string;
  readonly warehouse: string;
}

/*
 * Rows are locked for no key update: keys never change, and a row that refers to them may be written meanwhile.
 *
 * The one lock order: sales orders by id, what customers owe, contract lines, purchase orders by id, transfer orders by id,
 * assembly orders by id, the whole before its parts, shipments by id, pools by item and warehouse, number series. Every
 * command takes what it needs in this order, so that none waits for another in a circle. All pools that a command writes
 * are locked at once: a pool that is locked by being written is locked out of its turn.
 */

export async function lockOrders(trx: Trx, ids: readonly number[]): Promise<void> {
  await trx.selectFrom('sales_order').select('id').where(anyOf('id', ids)).orderBy('id').forNoKeyUpdate().execute();
}

export async function lockPurchases(trx: Trx, ids: readonly number[]): Promise<void> {
  await trx.selectFrom('purchase_order').select('id').where(anyOf('id', ids)).orderBy('id').forNoKeyUpdate().execute();
}

export async function lockShipments(trx: Trx, ids: readonly number[]): Promise<void> {
  await trx.selectFrom('shipment').select('id').where(anyOf('id', ids)).orderBy('id').forNoKeyUpdate().execute();
}

/**
 * Locks pools, so that no two sessions promise or take the same goods. Pools that have no row yet get one. Rows are locked,
 * and made, in the sequence they are sorted in: an insert that meets another's waits for it in its turn.
 */
export async function lockPools(trx: Trx, pools: readonly PoolKey[]): Promise<void> {
  const keys = [...new Map(pools.map((key) => [keyOf(key), key])).values()];
  if (keys.length === 0) return;
  const missing = await lockThere(trx, keys);
  if (missing.length === 0) return;
  const { rows } = await sql<PoolKey>`
    insert into stock (item, warehouse) select item, warehouse from ${listed(missing)} order by item collate "C", warehouse collate "C"
    on conflict do nothing returning item, warehouse`.execute(trx);
  const made = new Set(rows.map(keyOf));
  // Another session made these meanwhile.
  const others = missing.filter((key) => !made.has(keyOf(key)));
  if (others.length > 0) await lockThere(trx, others);
}

/** Locks those that have a row; gives the others. */
async function lockThere(trx: Trx, keys: readonly PoolKey[]): Promise<PoolKey[]> {
  const { rows } = await sql<PoolKey>`
    select item, warehouse from stock where (item, warehouse) in (select item, warehouse from ${listed(keys)})
    order by item collate "C", warehouse collate "C" for no key update`.execute(trx);
  const locked = new Set(rows.map(keyOf));
  return keys.filter((key) => !locked.has(keyOf(key)));
}

function listed(keys: readonly PoolKey[]) {
  return sql`unnest(${keys.map((key) => key.item)}::text[], ${keys.map((key) => key.warehouse)}::text[]) as k(item, warehouse)`;
}

function keyOf({ item, warehouse }: PoolKey): string {
  return `${item}\u0000${warehouse}`;
}
