import type { Trx } from '../database';
import type { PurchaseId, ShipmentId } from '@nockwright/core/ids';
import { takeLocks, touchOrders } from '../locks';
import type { PurchaseView } from '@nockwright/contract/supply';
import { plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { shipmentNumber } from '../numbers';

import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase } from './load-purchase';
import { checkReceived } from './receive';

/** Confirms the supplier's notice that a drop shipment has left: the order line is shipped, our stock never moves. */
export async function confirmDespatch(
  context: CommandContext,
  purchaseId: PurchaseId,
  notice: { readonly version: number; readonly tracking: string; readonly lines: readonly { readonly line: number; readonly quantity: string }[] },
): Promise<PurchaseView> {
  const { trx, now } = context;
  const known = await trx.selectFrom('purchase_order').select('order_id').where('id', '=', purchaseId).executeTakeFirst();
  if (known?.order_id) await takeLocks(trx, { orders: [known.order_id] });
  const purchase = await lockPurchase(trx, purchaseId, notice.version);
  if (purchase.kind !== 'drop_ship') throw new Refusal('conflict', `Purchase ${purchase.number} comes to ${purchase.warehouse}: receive it there.`);
  if (purchase.state === 'draft') throw new Refusal('conflict', `Purchase ${purchase.number} is not sent yet.`);
  const lines = checkReceived(await loadPurchaseLines(trx, purchaseId), notice.lines);
  const order = await trx.selectFrom('sales_order').select(['id', 'number', 'carrier_service']).where('id', '=', purchase.order_id!).executeTakeFirstOrThrow();

  const { id, number } = await trx
    .insertInto('shipment')
    .values({
      number: shipmentNumber(order),
      order_id: order.id,
      warehouse: null,
      purchase_id: purchaseId,
      state: 'shipped',
      carrier_service: order.carrier_service,
      tracking: notice.tracking,
      shipped_day: now.today,
    })
    .returning(['id', 'number'])
    .executeTakeFirstOrThrow();
  for (const row of lines) await storeLeft(trx, id, row);
  await touchPurchase(trx, purchaseId);
  await touchOrders(context, [order.id]);
  await recordEvent(context, {
    kind: 'drop_ship.shipped',
    facts: { order: order.number!, shipment: number, goods: lines.map(({ line, quantity }) => ({ quantity, item: line.item })) },
    after: { tracking: notice.tracking },
    subjects: [
      { kind: 'purchase', key: purchaseId },
      { kind: 'order', key: order.id },
      { kind: 'shipment', key: id },
    ],
  });
  return readPurchase(trx, now, purchaseId);
}

/** Books what has left the supplier on its purchase, its order and the shipment. */
async function storeLeft(trx: Trx, shipment: ShipmentId, { line, quantity }: ReturnType<typeof checkReceived>[number]): Promise<void> {
  // The purchase first: shipped and still awaited must not add up to more than was ordered in between.
  await trx
    .updateTable('purchase_line')
    .set({ received: plus(line.received, quantity) })
    .where('id', '=', line.id)
    .execute();
  await trx
    .updateTable('order_line')
    // What was set aside for it and is needed no more is anyone's.
    .set({ shipped: sql`shipped + ${quantity}`, reserved: sql`least(reserved, stock_quantity - shipped - cancelled - ${quantity}::numeric)` })
    .where('id', '=', line.order_line_id!)
    .execute();
  await trx
    .insertInto('shipment_line')
    .values({ shipment_id: shipment, order_line_id: line.order_line_id!, quantity })
    .onConflict((conflict) => conflict.columns(['shipment_id', 'order_line_id']).doUpdateSet({ quantity: sql`shipment_line.quantity + excluded.quantity` }))
    .execute();
}
