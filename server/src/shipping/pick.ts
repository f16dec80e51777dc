import type { ShipmentId } from '@nockwright/core/ids';
import { compareDecimal, minus } from '@nockwright/core/money';
import { readScan } from '@nockwright/core/scans';
import { decideScan, scanWords } from '@nockwright/core/shipping';
import type { ConsignmentView, pickRoutes, WalkView } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import type { WarehouseCode } from '@nockwright/core/ids';
import type { Now } from '../clock';
import { anyOf, type Db, type Trx } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { loadScanned } from './load-scanned';
import { lockConsignment, touchConsignment } from './lock-consignment';
import { loadConsignment, loadConsignments, partsOf, readConsignment, viewPart, type Consignment } from './read-consignment';
import type { PartRow } from './load-consignment';

/** What is to be picked at a warehouse, in the sequence of its bins: of some shipments, or of all that are being picked. */
export async function readWalk(db: Db, warehouse: WarehouseCode, shipments: readonly number[] | null): Promise<WalkView> {
  const rows = await db
    .selectFrom('shipment')
    .select('consignment_id')
    .distinct()
    .where('state', '=', 'picking')
    .where('warehouse', '=', warehouse)
    .where('consignment_id', 'is not', null)
    .$if(shipments !== null, (query) => query.where(anyOf('id', shipments!)))
    .execute();
  const consignments = await loadConsignments(
    db,
    rows.map((row) => row.consignment_id!),
  );
  const parts = consignments.flatMap((consignment) =>
    consignment.parts.flatMap((row) => {
      const shipment = consignment.shipments.find(({ id }) => id === row.shipment)!;
      if (shipment.state !== 'picking' || (shipments !== null && !shipments.includes(shipment.id))) return [];
      return [
        { part: viewPart(row), shipmentNumber: shipment.number, customer: consignment.head.customer, tote: shipment.tote, consignment: consignment.head.id },
      ];
    }),
  );
  parts.sort((a, b) => a.part.walk - b.part.walk || compare(a.part.bin, b.part.bin) || compare(a.part.item, b.part.item) || a.part.id - b.part.id);
  return { warehouse, parts };
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** Into which tote a shipment is picked. A tote holds one shipment at a time. */
export async function setTote(context: CommandContext, shipmentId: ShipmentId, tote: string): Promise<ConsignmentView> {
  const { trx, now } = context;
  const row = await trx.selectFrom('shipment').select(['consignment_id', 'warehouse']).where('id', '=', shipmentId).executeTakeFirst();
  if (!row || row.consignment_id === null) throw notFound(`pick ${shipmentId}`);
  await lockConsignment(trx, row.consignment_id);
  await takeLocks(trx, { shipments: [shipmentId] });
  const taken =
    tote === ''
      ? undefined
      : await trx
          .selectFrom('shipment')
          .select('number')
          .where('tote', '=', tote)
          .where('state', '=', 'picking')
          .where('warehouse', '=', row.warehouse)
          .where('id', '<>', shipmentId)
          .executeTakeFirst();
  if (taken) throw new Refusal('conflict', `Tote ${tote} holds shipment ${taken.number}. Take another tote.`);
  await trx.updateTable('shipment').set({ tote }).where('id', '=', shipmentId).execute();
  await touchConsignment(trx, row.consignment_id);
  return readConsignment(trx, now, row.consignment_id);
}

/** So much of a part is in the tote from now on. Where a label was scanned, it must be the item and lot of the part. Doing it twice does nothing more. */
export async function pick(context: CommandContext, partId: number, { quantity, scan }: BodyOf<typeof pickRoutes.pick>): Promise<ConsignmentView> {
  const { trx, now } = context;
  const { consignment, part } = await lockPart(trx, partId);
  if (compareDecimal(quantity, part.quantity) > 0) throw invalid('body.quantity', `${quantity} are more than the ${part.quantity} to be picked`);
  if (compareDecimal(quantity, part.packed) < 0) throw invalid('body.quantity', `${part.packed} are packed already: take them out of the carton first`);
  if (scan !== undefined) await checkLabel(trx, now, consignment, part, scan);
  await trx.updateTable('pick_part').set({ picked: quantity }).where('id', '=', partId).execute();
  await touchConsignment(trx, consignment.head.id);
  return readConsignment(trx, now, consignment.head.id);
}

async function checkLabel(trx: Trx, now: Now, consignment: Consignment, part: PartRow, text: string): Promise<void> {
  const read = readScan(text, now.today);
  if (!read.ok) throw invalid('body.scan', read.fault);
  const { scan: named, facts } = await loadScanned(trx, now, consignment, read.scan);
  const own = partsOf(consignment, 'picked', now).filter((row) => row.id === part.id);
  const { count: _, ...scan } = named;
  // Which piece it is, is said where it is packed.
  const items = facts.items.map((row) => ({ ...row, tracksSerials: false }));
  const decision = decideScan(scan, '0', { ...facts, items, parts: own.map((row) => ({ ...row, done: '0' })) });
  if (!decision.ok) throw new Refusal('conflict', scanWords(decision.refusal, now.today));
}

/** Locks the consignment a part is of; gives both as they are then. */
export async function lockPart(trx: Trx, partId: number): Promise<{ readonly consignment: Consignment; readonly part: PartRow }> {
  const id = await consignmentOfPart(trx, partId);
  await lockConsignment(trx, id);
  const consignment = await loadConsignment(trx, id);
  const part = consignment.parts.find((row) => row.id === partId);
  if (!part) throw notFound(`part ${partId}`);
  const shipment = consignment.shipments.find((row) => row.id === part.shipment)!;
  if (shipment.state !== 'picking') throw new Refusal('conflict', `Shipment ${shipment.number} is ${shipment.state} already.`);
  return { consignment, part };
}

export async function consignmentOfPart(db: Db, partId: number): Promise<number> {
  const row = await db
    .selectFrom('pick_part')
    .innerJoin('shipment', 'shipment.id', 'pick_part.shipment_id')
    .select('shipment.consignment_id')
    .where('pick_part.id', '=', partId)
    .executeTakeFirst();
  if (!row || row.consignment_id === null) throw notFound(`part ${partId}`);
  return row.consignment_id;
}

/** What of a part is still in its bin. */
export function unpicked(part: Pick<PartRow, 'quantity' | 'picked'>): string {
  return minus(part.quantity, part.picked);
}
