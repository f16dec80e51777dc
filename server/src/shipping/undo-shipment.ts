import type { LineId } from '@nockwright/core/ids';
import { minus, plus, sum, type Quantity } from '@nockwright/core/money';
import type { ConsignmentView } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';
import { recordEvents } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { takeLocks, touchOrders } from '../locks';
import { storePromises } from '../promise';
import { bringSerialsBack } from '../serials';
import { lockWhole, touchConsignment, type LockedShipment } from './lock-consignment';
import { loadConsignment, readConsignment } from './read-consignment';
import { goodsOf, moveGoods, storeLines, subjectsOf } from './ship';
import { tellUndone } from './tell-despatch';

/**
 * Takes back that a consignment has left, while the carrier does not have it and nothing of it is billed: the goods are in their bins
 * and lots again, allocated and packed as before, what was promised is promised again, and a customer who was told is told.
 */
export async function undoShipment(context: CommandContext, id: number, reason: string): Promise<ConsignmentView> {
  const { trx, now } = context;
  const all = await lockWhole(trx, [id]);
  const shipments = all.filter((row) => row.state === 'shipped');
  if (shipments.length === 0) throw new Refusal('conflict', 'This consignment has not left.');
  const consignment = await loadConsignment(trx, id);
  const billed = shipments.find((row) => row.invoice_id !== null);
  if (billed) throw new Refusal('conflict', `Shipment ${billed.number} is billed already. Take the goods back as a return.`);
  if (consignment.label?.events?.some((event) => event.kind === 'picked_up'))
    throw new Refusal('conflict', 'The carrier has picked it up already. Recall it with the carrier, or take the goods back as a return.');
  await takeLocks(trx, { pools: consignment.parts.map(({ item }) => ({ item, warehouse: consignment.head.warehouse })) });
  await moveGoods(context, consignment, shipments, 'back');
  await bringSerialsBack(
    context,
    shipments.map((row) => row.id),
  );
  await restoreLines(context, shipments);
  await trx
    .updateTable('shipment')
    .set({ state: 'picking', shipped_day: null, tracking: '', freight_charge: null })
    .where(
      anyOf(
        'id',
        shipments.map((row) => row.id),
      ),
    )
    .execute();
  await touchConsignment(trx, id);
  await touchOrders(
    context,
    shipments.map((row) => row.order_id),
  );
  await recordEvents(
    context,
    shipments.map((row) => ({
      kind: 'shipment.undone' as const,
      facts: { number: row.number, goods: goodsOf(consignment, row.id) },
      why: reason,
      subjects: subjectsOf(row, consignment),
    })),
  );
  await tellUndone(context, consignment, shipments);
  return readConsignment(trx, now, id);
}

/** What the shipments met is promised again, on the same days; what had come in for a line alone is again. */
async function restoreLines(context: CommandContext, shipments: readonly LockedShipment[]): Promise<void> {
  const { trx } = context;
  const ids = shipments.map((row) => row.id);
  const met = await trx.selectFrom('shipment_met').select(['order_line_id', 'day', 'quantity']).where(anyOf('shipment_id', ids)).execute();
  const shipped = await loadShipped(trx, ids);
  await storeLines(
    trx,
    shipped.map((line) => ({
      id: line.id,
      shipped: minus(line.shipped, line.quantity),
      reserved: plus(line.reserved, sum(met.filter((row) => row.order_line_id === line.id && row.day === null).map((row) => row.quantity))),
    })),
  );
  await storePromises(
    context,
    met.flatMap((row) => (row.day === null ? [] : [{ lineId: row.order_line_id, day: row.day, quantity: row.quantity }])),
  );
  await trx.deleteFrom('shipment_met').where(anyOf('shipment_id', ids)).execute();
}

async function loadShipped(trx: Trx, shipments: readonly number[]) {
  const { rows } = await sql<{ id: LineId; shipped: Quantity; reserved: Quantity; quantity: Quantity }>`
    select l.id, trim_scale(l.shipped)::text as shipped, trim_scale(l.reserved)::text as reserved, trim_scale(sum(x.quantity))::text as quantity
    from shipment_line x join order_line l on l.id = x.order_line_id where ${anyOf('x.shipment_id', shipments)} group by l.id order by l.id`.execute(trx);
  return rows;
}
