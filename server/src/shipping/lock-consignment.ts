import type { OrderId, ShipmentId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import { anyOf, together, type Db, type Trx } from '../database';
import { LIVE_CHANNEL } from '../events';
import { notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';

/** Locks a consignment for packing: nothing of its orders changes. With `version` the change is refused if somebody has changed it since. */
export async function lockConsignment(trx: Trx, id: number, version?: number): Promise<void> {
  await takeLocks(trx, { consignments: [id] });
  await checkVersion(trx, id, version);
}

async function checkVersion(trx: Db, id: number, version: number | undefined): Promise<void> {
  const row = await trx.selectFrom('consignment').select('version').where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`consignment ${id}`);
  if (version !== undefined && version !== row.version)
    throw new Refusal('changed', 'Somebody has changed this consignment meanwhile. Nothing was done: look again, then decide.');
}

export interface LockedShipment {
  readonly id: ShipmentId;
  readonly number: string;
  readonly state: 'picking' | 'shipped' | 'cancelled';
  readonly order_id: OrderId;
  readonly warehouse: string | null;
  readonly invoice_id: number | null;
}

/** Locks consignments with their orders and shipments, for an act that changes what is owed. Gives their shipments. */
export async function lockWhole(trx: Trx, ids: readonly number[], version?: number): Promise<readonly LockedShipment[]> {
  const known = await loadShipments(trx, ids);
  await takeLocks(trx, { orders: known.map((row) => row.order_id), consignments: ids, shipments: known.map((row) => row.id) });
  const [shipments] = await together(trx, (all) => Promise.all([loadShipments(all, ids), ...ids.map((id) => checkVersion(all, id, version))]));
  if (shipments.length !== known.length) throw new Refusal('changed', 'A shipment has joined or left this consignment meanwhile. Nothing was done: try again.');
  return shipments;
}

function loadShipments(db: Db, ids: readonly number[]): Promise<LockedShipment[]> {
  return db
    .selectFrom('shipment')
    .select(['id', 'number', 'state', 'order_id', 'warehouse', 'invoice_id'])
    .where(anyOf('consignment_id', ids))
    .orderBy('id')
    .execute();
}

/** Marks a consignment as changed, and tells the screens that show it. */
export async function touchConsignment(trx: Trx, ...ids: readonly number[]): Promise<void> {
  await sql`
    with touched as (update consignment set version = version + 1 where id = any(${ids}::int[]) returning id)
    select pg_notify(${LIVE_CHANNEL}, json_agg('consignment:' || id)::text) from touched having count(*) > 0`.execute(trx);
}
