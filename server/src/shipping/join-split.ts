import type { ShipmentId } from '@nockwright/core/ids';
import type { ConsignmentView } from '@nockwright/contract/shipping';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { leaving } from './ship';
import { lockWhole, touchConsignment } from './lock-consignment';
import { loadConsignment, loadConsignments, readConsignment } from './read-consignment';
import { voidLabelOf } from './void-label';

/** Sends another consignment for the same address with this one: its shipments and cartons are this one's from now on. */
export async function joinConsignments(context: CommandContext, id: number, version: number, other: number): Promise<ConsignmentView> {
  const { trx, now } = context;
  if (other === id) throw invalid('body.with', 'it is the same consignment');
  await lockWhole(trx, [id, other]);
  const [one, two] = await loadConsignments(trx, [Math.min(id, other), Math.max(id, other)]);
  const [into, from] = one?.head.id === id ? [one, two] : [two, one];
  if (!into || !from) throw invalid('body.with', `there is no consignment ${other}`);
  if (into.head.version !== version)
    throw new Refusal('changed', 'Somebody has changed this consignment meanwhile. Nothing was done: look again, then decide.');
  if (into.head.warehouse !== from.head.warehouse || into.head.ship_to_id !== from.head.ship_to_id)
    throw new Refusal('conflict', `Both must leave ${into.head.warehouse} for the same address.`);
  for (const consignment of [into, from])
    if (!consignment.shipments.some((row) => row.state === 'picking')) throw new Refusal('conflict', 'One of them has left already, or was cancelled.');
  await voidLabelOf(context, id);
  await voidLabelOf(context, other);
  let number = Math.max(0, ...into.cartons.map((carton) => carton.number));
  for (const carton of from.cartons) await trx.updateTable('carton').set({ consignment_id: id, number: ++number }).where('id', '=', carton.id).execute();
  await trx
    .updateTable('shipment')
    .set({ consignment_id: id, carrier_service: into.head.service })
    .where('consignment_id', '=', other)
    .where('state', '=', 'picking')
    .execute();
  await touchConsignment(trx, id, other);
  return readConsignment(trx, now, id);
}

/** Sends a shipment by itself. What of it is packed with others must be taken out first; cartons that hold nothing else go with it. */
export async function splitShipment(context: CommandContext, id: number, version: number, shipmentId: ShipmentId): Promise<ConsignmentView> {
  const { trx, now } = context;
  const shipments = leaving(await lockWhole(trx, [id], version));
  const consignment = await loadConsignment(trx, id);
  if (!shipments.some((row) => row.id === shipmentId)) throw invalid('body.shipment', `shipment ${shipmentId} is not in this consignment`);
  if (shipments.length < 2) throw new Refusal('conflict', 'It is the only shipment already.');
  const own = new Set(consignment.parts.filter((part) => part.shipment === shipmentId).map((part) => part.id));
  const moved = consignment.cartons.filter((carton) => carton.contents.length > 0 && carton.contents.every(({ part }) => own.has(part)));
  const mixed = consignment.cartons.find((carton) => carton.contents.some(({ part }) => own.has(part)) && !moved.includes(carton));
  if (mixed) throw new Refusal('conflict', `Carton ${mixed.number} holds goods of several shipments. Take them out first.`);
  await voidLabelOf(context, id);
  const { head } = consignment;
  const { id: made } = await trx
    .insertInto('consignment')
    .values({ warehouse: head.warehouse, customer_id: head.customer_id, ship_to_id: head.ship_to_id, carrier_service: head.service })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const [at, carton] of moved.entries())
    await trx
      .updateTable('carton')
      .set({ consignment_id: made, number: at + 1 })
      .where('id', '=', carton.id)
      .execute();
  await trx.updateTable('shipment').set({ consignment_id: made }).where('id', '=', shipmentId).execute();
  await touchConsignment(trx, id, made);
  return readConsignment(trx, now, id);
}
