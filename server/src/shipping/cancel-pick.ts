import type { ShipmentId } from '@nockwright/core/ids';
import type { PickView } from '@nockwright/contract/shipping';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { takeLocks, touchOrders } from '../locks';
import { lockWhole, touchConsignment } from './lock-consignment';
import { loadConsignment } from './read-consignment';
import { readShipments } from './read-shipment';
import { subjectsOf } from './ship';

/** Puts the goods of a pick back: they are promised as before, and ready again. The database takes what was packed of it out of its cartons, and voids a label that nothing is left for. */
export async function cancelPick(context: CommandContext, shipmentId: ShipmentId, reason: string): Promise<PickView> {
  const { trx } = context;
  const known = await trx.selectFrom('shipment').select(['consignment_id', 'warehouse']).where('id', '=', shipmentId).executeTakeFirst();
  if (!known || known.warehouse === null) throw notFound(`pick ${shipmentId}`);
  const shipments = known.consignment_id === null ? [] : await lockWhole(trx, [known.consignment_id]);
  const shipment = shipments.find((row) => row.id === shipmentId);
  const [view] = await readShipments(trx, [shipmentId]);
  if (!shipment || shipment.state !== 'picking') throw new Refusal('conflict', `Shipment ${view!.number} is ${view!.state} already.`);
  const consignment = await loadConsignment(trx, known.consignment_id!);
  await takeLocks(trx, { pools: consignment.parts.map(({ item }) => ({ item, warehouse: consignment.head.warehouse })) });
  await trx.updateTable('shipment').set({ state: 'cancelled' }).where('id', '=', shipmentId).execute();
  await touchConsignment(trx, known.consignment_id!);
  await touchOrders(context, [shipment.order_id]);
  await recordEvent(context, { kind: 'pick.cancelled', facts: { number: shipment.number }, why: reason, subjects: subjectsOf(shipment, consignment) });
  return (await readShipments(trx, [shipmentId]))[0]!;
}
