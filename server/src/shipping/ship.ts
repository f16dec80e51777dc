import type { PickView } from '@nockwright/contract/shipping';
import { compareDecimal, least, minus, plus } from '@nockwright/core/money';
import { meetPromises } from '@nockwright/core/orders';
import type { Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { checkLasting } from '../items';
import { lastsUntil, lockOrders, lockPools, storeRemains } from '../promise';
import { touchOrder } from '../orders';
import { readShipments } from './read-shipment';

/** The goods of a pick have left: stock falls, the promises they meet are done, the rest of the order stays owed. */
export async function ship(context: CommandContext, shipmentId: number, tracking: string): Promise<PickView> {
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
  for (const line of lines) {
    const promises = await trx.selectFrom('line_promise').select(['day', 'quantity']).where('line_id', '=', line.id).execute();
    await storeRemains(trx, line.id, meetPromises(promises, line.picked));
    const shipped = plus(line.shipped, line.picked);
    const open = minus(minus(line.stock_quantity, shipped), line.cancelled);
    // What came in for this line leaves first.
    const reserved = least(open, compareDecimal(line.reserved, line.picked) > 0 ? minus(line.reserved, line.picked) : '0');
    await trx.updateTable('order_line').set({ shipped, reserved }).where('id', '=', line.id).execute();
    await trx
      .insertInto('stock_movement')
      .values({
        at: now.instant,
        item: line.item,
        warehouse: line.warehouse,
        quantity: minus('0', line.picked),
        kind: 'shipment',
        reference: shipment.number,
        lasts_until: lastsUntil(line, now.today),
      })
      .execute();
  }
  await touchOrder(context, shipment.order_id);
  await recordEvent(context, {
    what: `shipped ${lines.map((line) => `${line.picked} ${line.item}`).join(', ')}, shipment ${shipment.number}`,
    after: { tracking },
    subjects: subjectsOf(shipment, lines),
  });
  return (await readShipments(trx, [shipmentId]))[0]!;
}

/** Puts the goods of a pick back: they are promised as before, and ready again. */
export async function cancelPick(context: CommandContext, shipmentId: number, reason: string): Promise<PickView> {
  const { trx } = context;
  const { shipment, lines } = await lockPick(trx, shipmentId);
  await trx.updateTable('shipment').set({ state: 'cancelled' }).where('id', '=', shipmentId).execute();
  await touchOrder(context, shipment.order_id);
  await recordEvent(context, { what: `put pick ${shipment.number} back`, why: reason, subjects: subjectsOf(shipment, lines) });
  return (await readShipments(trx, [shipmentId]))[0]!;
}

async function lockPick(trx: Trx, shipmentId: number) {
  const known = await trx.selectFrom('shipment').select(['order_id', 'warehouse', 'number']).where('id', '=', shipmentId).executeTakeFirst();
  if (!known || known.warehouse === null) throw notFound(`pick ${shipmentId}`);
  await lockOrders(trx, [known.order_id]);
  const shipment = await trx.selectFrom('shipment').selectAll().where('id', '=', shipmentId).forNoKeyUpdate().executeTakeFirstOrThrow();
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
  await lockPools(trx, await load());
  return { shipment, lines: await load() };
}

function subjectsOf(shipment: { readonly id: number; readonly order_id: number }, lines: readonly { readonly item: string }[]) {
  return [
    { kind: 'order' as const, key: shipment.order_id },
    { kind: 'shipment' as const, key: shipment.id },
    ...lines.map((line) => ({ kind: 'item' as const, key: line.item })),
  ];
}
