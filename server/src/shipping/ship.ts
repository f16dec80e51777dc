import { lastsUntil } from '@nockwright/core/book';
import type { ItemCode, LineId, OrderId, ShipmentId } from '@nockwright/core/ids';
import { minus, sum, type Quantity } from '@nockwright/core/money';
import { shipLine, type PromisedDay } from '@nockwright/core/orders';
import { leaveWords } from '@nockwright/core/shipping';
import type { ConsignmentView, PickView } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import { anyOf, insertRows, type Trx } from '../database';
import { recordEvents } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { takeLocks, touchOrders } from '../locks';
import { storeRemains } from '../promise';
import { shipSerials } from '../serials';
import { chargeFreight } from './charge-freight';
import { lockWhole, touchConsignment, type LockedShipment } from './lock-consignment';
import { leaveFaults, loadConsignment, readConsignment, type Consignment } from './read-consignment';
import { readShipments } from './read-shipment';
import { tellDespatch } from './tell-despatch';

/** The goods of a shipment have left, with all that goes with it. */
export async function ship(context: CommandContext, shipmentId: ShipmentId, tracking: string): Promise<PickView> {
  await leave(context, await consignmentOf(context.trx, shipmentId), tracking);
  return (await readShipments(context.trx, [shipmentId]))[0]!;
}

async function consignmentOf(trx: Trx, shipmentId: ShipmentId): Promise<number> {
  const row = await trx.selectFrom('shipment').select(['consignment_id', 'number', 'state', 'warehouse']).where('id', '=', shipmentId).executeTakeFirst();
  if (!row || row.warehouse === null) throw notFound(`pick ${shipmentId}`);
  if (row.state !== 'picking' || row.consignment_id === null) throw new Refusal('conflict', `Shipment ${row.number} is ${row.state} already.`);
  return row.consignment_id;
}

/** A consignment has left: stock falls, the promises it meets are done, the rest of its orders stays owed, the customer is told. */
export async function shipConsignment(context: CommandContext, id: number, tracking: string, version?: number): Promise<ConsignmentView> {
  await leave(context, id, tracking, version);
  return readConsignment(context.trx, context.now, id);
}

/** The same without an answer. `tells`: whether the customer is told by mail; whoever stands at the counter is not. */
export async function leave(context: CommandContext, id: number, tracking: string, version?: number, tells = true): Promise<void> {
  const { trx, now } = context;
  const shipments = leaving(await lockWhole(trx, [id], version));
  const first = await loadConsignment(trx, id);
  await takeLocks(trx, { pools: first.parts.map(({ item }) => ({ item, warehouse: first.head.warehouse })) });
  const consignment = await loadConsignment(trx, id);
  const number = tracking || consignment.head.tracking;
  const faults = leaveFaults(consignment, now, number);
  if (faults.length > 0) throw new Refusal('conflict', `${faults.map((fault) => leaveWords(fault, now.today)).join('. ')}. Nothing was done.`);

  const carried = number || (consignment.label?.tracking ?? '');
  await trx
    .updateTable('shipment')
    .set({ state: 'shipped', tracking: carried, shipped_day: now.today })
    .where(
      anyOf(
        'id',
        shipments.map((row) => row.id),
      ),
    )
    .execute();
  await chargeFreight(trx, consignment, shipments);
  await storeLeft(context, consignment, shipments);
  await sql`update consignment set tracking = ${number}, cost = ${consignment.label?.cost ?? null}::numeric where id = ${id}`.execute(trx);
  await touchConsignment(trx, id);
  await touchOrders(
    context,
    shipments.map((row) => row.order_id),
  );
  await recordEvents(
    context,
    shipments.map((row) => ({
      kind: 'shipment.left' as const,
      facts: { number: row.number, goods: goodsOf(consignment, row.id) },
      after: { tracking: carried },
      subjects: subjectsOf(row, consignment),
    })),
  );
  await tellDespatch(context, consignment, shipments, carried, tells);
}

/** Those that are still in the house. */
export function leaving(shipments: readonly LockedShipment[]): readonly LockedShipment[] {
  const open = shipments.filter((row) => row.state === 'picking');
  if (open.length === 0) {
    const last = shipments.at(-1);
    throw new Refusal('conflict', last ? `Shipment ${last.number} is ${last.state} already.` : 'Nothing is in this consignment.');
  }
  return open;
}

interface LineRow {
  readonly id: LineId;
  readonly stockQuantity: Quantity;
  shipped: Quantity;
  readonly cancelled: Quantity;
  reserved: Quantity;
  promises: readonly PromisedDay[];
}

/** Writes that the goods of shipments have left: what remains of their promises, how the lines stand, the movements, and what is undone where it is taken back. */
async function storeLeft(context: CommandContext, consignment: Consignment, shipments: readonly LockedShipment[]): Promise<void> {
  const { trx } = context;
  const lines = await loadLines(trx, consignment);
  const met: { shipment_id: ShipmentId; order_line_id: LineId; day: string | null; quantity: Quantity }[] = [];
  const remains = new Map<string, { line: number; day: string; remains: string }>();
  for (const { id: shipment } of shipments)
    for (const [lineId, quantity] of byLine(consignment, shipment)) {
      const line = lines.get(lineId)!;
      const left = shipLine(line, quantity);
      const freed = minus(line.reserved, left.reserved);
      if (freed !== '0') met.push({ shipment_id: shipment, order_line_id: lineId, day: null, quantity: freed });
      for (const row of left.remains) {
        const before = line.promises.find((promise) => promise.day === row.day)!.quantity;
        met.push({ shipment_id: shipment, order_line_id: lineId, day: row.day, quantity: minus(before, row.remains) });
        remains.set(`${lineId}/${row.day}`, { line: lineId, ...row });
      }
      const after = new Map(left.remains.map((row) => [row.day, row.remains]));
      line.promises = line.promises.map(({ day, quantity: promised }) => ({ day, quantity: after.get(day) ?? promised })).filter((row) => row.quantity !== '0');
      line.shipped = left.shipped;
      line.reserved = left.reserved;
    }
  await storeRemains(trx, [...remains.values()]);
  await storeLines(trx, [...lines.values()]);
  await insertRows(trx, 'shipment_met', met);
  await shipSerials(
    context,
    consignment.parts.filter((part) => part.tracks_serials).map((part) => part.id),
  );
  await moveGoods(context, consignment, shipments, 'out');
}

/** Books the goods of shipments out of their bins and lots, or back into them. */
export async function moveGoods(
  { trx, now }: CommandContext,
  { head, parts }: Consignment,
  shipments: readonly LockedShipment[],
  way: 'out' | 'back',
): Promise<void> {
  const numberOf = new Map(shipments.map((row) => [row.id, row.number]));
  await insertRows(
    trx,
    'stock_movement',
    parts
      .filter((part) => numberOf.has(part.shipment))
      .map((part) => ({
        at: now.instant,
        item: part.item,
        warehouse: head.warehouse,
        quantity: way === 'out' ? minus('0', part.quantity) : part.quantity,
        kind: 'shipment' as const,
        reference: numberOf.get(part.shipment)!,
        status: 'available' as const,
        bin: part.bin,
        lot: part.lot,
        ...(way === 'out' ? { lasts_until: lastsUntil(part, now.today) } : {}),
      })),
  );
}

async function loadLines(trx: Trx, { parts }: Consignment): Promise<ReadonlyMap<LineId, LineRow>> {
  const ids = [...new Set(parts.map((part) => part.line))];
  const { rows } = await sql<LineRow>`
    select l.id, trim_scale(l.stock_quantity)::text as "stockQuantity", trim_scale(l.shipped)::text as shipped, trim_scale(l.cancelled)::text as cancelled,
      trim_scale(l.reserved)::text as reserved,
      (select coalesce(json_agg(json_build_object('day', p.day::text, 'quantity', trim_scale(p.quantity)::text) order by p.day), '[]')
        from line_promise p where p.line_id = l.id) as promises
    from order_line l where ${anyOf('l.id', ids)} order by l.id`.execute(trx);
  return new Map(rows.map((row) => [row.id, row]));
}

/** How lines stand from now on. */
export async function storeLines(trx: Trx, lines: readonly Pick<LineRow, 'id' | 'shipped' | 'reserved'>[]): Promise<void> {
  await sql`update order_line l set shipped = k.shipped, reserved = k.reserved
    from unnest(${lines.map((row) => row.id)}::int[], ${lines.map((row) => row.shipped)}::numeric[], ${lines.map((row) => row.reserved)}::numeric[])
      as k(id, shipped, reserved)
    where l.id = k.id`.execute(trx);
}

/** What of each line is in a shipment. */
function byLine({ parts }: Consignment, shipment: ShipmentId): ReadonlyMap<LineId, Quantity> {
  const own = parts.filter((part) => part.shipment === shipment);
  return new Map(own.map(({ line }) => [line, sum(own.filter((part) => part.line === line).map((part) => part.quantity))]));
}

/** What is in a shipment, by item. */
export function goodsOf({ parts }: Consignment, shipment: ShipmentId): { readonly item: ItemCode; readonly quantity: Quantity }[] {
  const own = parts.filter((part) => part.shipment === shipment);
  const items = [...new Set(own.map((part) => part.item))];
  return items.map((item) => ({ item, quantity: sum(own.filter((part) => part.item === item).map((part) => part.quantity)) }));
}

export function subjectsOf(shipment: { readonly id: ShipmentId; readonly order_id: OrderId }, consignment: Consignment) {
  return [
    { kind: 'order' as const, key: shipment.order_id },
    { kind: 'shipment' as const, key: shipment.id },
    ...goodsOf(consignment, shipment.id).map(({ item }) => ({ kind: 'item' as const, key: item })),
  ];
}
