import type { PoolKey } from '@nockwright/core/book';
import { sql } from 'kysely';
import type { Trx } from '../database';

/**
 * Locks pools, so that no two sessions promise or take the same goods. Pools that have no row yet get one. Rows are locked,
 * and made, in the sequence they are sorted in: an insert that meets another's waits for it in its turn. All pools that an
 * act writes are locked at once: a pool that is locked by being written is locked out of its turn.
 */
export async function lockPools(trx: Trx, pools: readonly PoolKey[]): Promise<void> {
  const missing = await lockThere(trx, pools);
  if (missing.length === 0) return;
  const { rows } = await sql<PoolKey>`
    insert into stock (item, warehouse) select item, warehouse from ${listed(missing)} order by item collate "C", warehouse collate "C"
    on conflict do nothing returning item, warehouse`.execute(trx);
  const made = new Set(rows.map(poolName));
  // Another session made these meanwhile.
  const others = missing.filter((key) => !made.has(poolName(key)));
  if (others.length > 0) await lockThere(trx, others);
}

/** A pool as one word. */
export function poolName({ item, warehouse }: PoolKey): string {
  return `${item}\u0000${warehouse}`;
}

/** Locks those that have a row; gives the others. */
async function lockThere(trx: Trx, keys: readonly PoolKey[]): Promise<PoolKey[]> {
  const { rows } = await sql<PoolKey>`
    select item, warehouse from stock where (item, warehouse) in (select item, warehouse from ${listed(keys)})
    order by item collate "C", warehouse collate "C" for no key update`.execute(trx);
  const locked = new Set(rows.map(poolName));
  return keys.filter((key) => !locked.has(poolName(key)));
}

function listed(keys: readonly PoolKey[]) {
  return sql`unnest(${keys.map((key) => key.item)}::text[], ${keys.map((key) => key.warehouse)}::text[]) as k(item, warehouse)`;
}
