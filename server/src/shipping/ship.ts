import type { ItemCode, OrderId, ShipmentId } from '@nockwright/core/ids';
import { noteLock, takeLocks } from '../locks';
import { lastsUntil } from '@nockwright/core/book';
import type { PickView } from '@nockwright/contract/shipping';
import { minus } from '@nockwright/core/money';
import { shipLine } from '@nockwright/core/orders';
import { sql } from 'kysely';
import { anyOf, insertRows, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { checkLasting } from '../items';
import { storeRemains } from '../promise';
import { touchOrder } from '../orders';
import { readShipments } from './read-shipment';

/** The goods of a pick have left: stock falls, the promises they meet are done, the rest of the order stays owed. */
export async function ship(context: CommandContext, shipmentId: ShipmentId, tracking: string): Promise<PickView> {
  const { trx, now } = context;
  const { shipment, lines } = await lockPick(trx, shipmentId);
  await checkLasting(
    trx,
    lines.map((line) => ({
      item: line.item,
      warehouse: line.warehouse,
      quantity: line.picked,
      until: lastsUntil(line, now.today),
      label: `Line ${line.line_no}`,
    })),
    now.today,
  );
  await trx.updateTable('shipment').set({ state: 'shipped', tracking, shipped_day: now.today }).where('id', '=', shipmentId).execute();
  await storeLeft(context, shipment.number, lines);
  await touchOrder(context, shipment.order_id);
  await recordEvent(context, {
    kind: 'shipment.left',
    facts: { number: shipment.number, goods: lines.map(({ picked, item }) => ({ quantity: picked, item })) },
    after: { tracking },
    subjects: subjectsOf(shipment, lines),
  });
  return (await readShipments(trx, [shipmentId]))[0]!;
}

/** Writes that the goods of lines have left: what remains of their promises, how the lines stand, and the movements. */
async function storeLeft({ trx, now }: CommandContext, reference: string, lines: Awaited<ReturnType<typeof lockPick>>['lines']): Promise<void> {
  const promises = await trx
    .selectFrom('line_promise')
    .select(['line_id', 'day', 'quantity'])
    .where(
      anyOf(
        'line_id',
        lines.map((line) => line.id),
      ),
    )
    .execute();
  const left = lines.map((line) => {
    const own = promises.filter((row) => row.line_id === line.id);
    return { line, ...shipLine({ ...line, stockQuantity: line.stock_quantity, promises: own }, line.picked) };
  });
  await storeRemains(
    trx,
    left.flatMap(({ line, remains }) => remains.map((row) => ({ line: line.id, ...row }))),
  );
  await sql`update order_line l set shipped = k.shipped, reserved = k.reserved
    from unnest(${left.map(({ line }) => line.id)}::int[], ${left.map((row) => row.shipped)}::numeric[], ${left.map((row) => row.reserved)}::numeric[])
      as k(id, shipped, reserved)
    where l.id = k.id`.execute(trx);
  await insertRows(
    trx,
    'stock_movement',
    lines.map((line) => ({
      at: now.instant,
      item: line.item,
      warehouse: line.warehouse,
      quantity: minus('0', line.picked),
      kind: 'shipment' as const,
      reference,
      status: 'available' as const,
      lasts_until: lastsUntil(line, now.today),
    })),
  );
}

/** Puts the goods of a pick back: they are promised as before, and ready again. */
export async function cancelPick(context: CommandContext, shipmentId: ShipmentId, reason: string): Promise<PickView> {
  const { trx } = context;
  const { shipment, lines } = await lockPick(trx, shipmentId);
  await trx.updateTable('shipment').set({ state: 'cancelled' }).where('id', '=', shipmentId).execute();
  await touchOrder(context, shipment.order_id);
  await recordEvent(context, { kind: 'pick.cancelled', facts: { number: shipment.number }, why: reason, subjects: subjectsOf(shipment, lines) });
  return (await readShipments(trx, [shipmentId]))[0]!;
}

async function lockPick(trx: Trx, shipmentId: ShipmentId) {
  const known = await trx.selectFrom('shipment').select(['order_id', 'warehouse', 'number']).where('id', '=', shipmentId).executeTakeFirst();
  if (!known || known.warehouse === null) throw notFound(`pick ${shipmentId}`);
  await takeLocks(trx, { orders: [known.order_id] });
  const shipment = await trx.selectFrom('shipment').selectAll().where('id', '=', shipmentId).forNoKeyUpdate().executeTakeFirstOrThrow();
  noteLock(trx, 'shipments', shipmentId);
  if (shipment.state !== 'picking') throw new Refusal('conflict', `Shipment ${shipment.number} is ${shipment.state} already.`);
  const load = () =>
    trx
      .selectFrom('shipment_line')
      .innerJoin('order_line', 'order_line.id', 'shipment_line.order_line_id')
      .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
      .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
      .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
      .innerJoin('item', 'item.code', 'order_line.item')
      .select([
        'order_line.id',
        'order_line.line_no',
        'carrier_service.transit_days',
        'order_line.item',
        'order_line.warehouse',
        'order_line.stock_quantity',
        'order_line.shipped',
        'order_line.cancelled',
        'order_line.reserved',
        'shipment_line.quantity as picked',
      ])
      .select(({ eb, ref }) => [
        eb.case().when('item.tracks_expiry', '=', true).then(ref('item.least_life')).end().as('item_life'),
        eb.case().when('item.tracks_expiry', '=', true).then(ref('customer.least_life')).end().as('customer_life'),
      ])
      .where('shipment_line.shipment_id', '=', shipmentId)
      .orderBy('order_line.line_no')
      .execute();
  await takeLocks(trx, { pools: await load() });
  return { shipment, lines: await load() };
}

function subjectsOf(shipment: { readonly id: number; readonly order_id: OrderId }, lines: readonly { readonly item: ItemCode }[]) {
  return [
    { kind: 'order' as const, key: shipment.order_id },
    { kind: 'shipment' as const, key: shipment.id },
    ...lines.map((line) => ({ kind: 'item' as const, key: line.item })),
  ];
}
