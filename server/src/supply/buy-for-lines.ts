import { purchaseQuantity, supplierDay } from '@nockwright/core/shortages';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { nextNumber } from '../numbers';

/** A quantity of an order line to be bought for it alone. */
export interface Buy {
  readonly route: number;
  readonly line: { readonly id: number; readonly item: string; readonly warehouse: string };
  /** Where it goes, on one line: a drop shipment for each address. */
  readonly shipTo: string;
  readonly kind: 'special_order' | 'drop_ship';
  readonly supplier: string;
  readonly quantity: string;
}

export interface Bought {
  readonly purchaseId: number;
  readonly number: string;
}

/**
 * Makes the purchase orders that routes need: one for each supplier and destination, every line bound to its order line.
 * They are drafts, to be looked at and sent; being bound, they count as supply for their line from now on.
 */
export async function buyForLines(context: CommandContext, order: { readonly id: number }, buys: readonly Buy[]): Promise<Bought[]> {
  const { trx } = context;
  const made = new Map<string, Bought & { lines: number }>();
  for (const buy of [...buys].sort((a, b) => a.route - b.route)) {
    const offer = await offerOf(context, buy);
    const warehouse = buy.kind === 'drop_ship' ? null : buy.line.warehouse;
    const key = `${buy.supplier}/${warehouse ?? buy.shipTo}`;
    const purchase = made.get(key) ?? { ...(await createPurchase(context, order, buy, warehouse)), lines: 0 };
    made.set(key, purchase);
    purchase.lines += 1;
    const { id } = await trx
      .insertInto('purchase_line')
      .values({
        purchase_id: purchase.purchaseId,
        line_no: purchase.lines,
        item: buy.line.item,
        warehouse,
        quantity: warehouse === null ? buy.quantity : purchaseQuantity(buy.quantity, offer),
        cost: offer.cost,
        expected_day: supplierDay(context.now.today, offer.leadDays),
        order_line_id: buy.line.id,
        firm: true,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await trx.updateTable('line_route').set({ purchase_line_id: id }).where('id', '=', buy.route).execute();
  }
  return [...made.values()].map(({ purchaseId, number }) => ({ purchaseId, number }));
}

async function createPurchase(
  { trx, now }: CommandContext,
  order: { readonly id: number },
  { supplier, shipTo }: Buy,
  warehouse: string | null,
): Promise<Bought> {
  const address =
    warehouse === null ? null : await trx.selectFrom('warehouse').select(['name', 'address']).where('code', '=', warehouse).executeTakeFirstOrThrow();
  const number = await nextNumber(trx, 'purchase');
  const { id } = await trx
    .insertInto('purchase_order')
    .values({
      number,
      supplier,
      kind: warehouse === null ? 'drop_ship' : 'stock',
      state: 'draft',
      warehouse,
      order_id: order.id,
      ship_to: address ? `${address.name}, ${address.address}` : shipTo,
      created_day: now.today,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { purchaseId: id, number };
}

async function offerOf({ trx }: CommandContext, buy: Buy) {
  const row = await trx
    .selectFrom('supplier_item')
    .innerJoin('supplier', 'supplier.code', 'supplier_item.supplier')
    .select(['supplier_item.cost', 'supplier_item.lead_days as item_lead_days', 'supplier.lead_days', 'minimum', 'multiple', 'drop_ships'])
    .where('supplier_item.supplier', '=', buy.supplier)
    .where('supplier_item.item', '=', buy.line.item)
    .executeTakeFirst();
  if (!row) throw invalid('body.supplier', `${buy.supplier} does not sell ${buy.line.item}`);
  if (buy.kind === 'drop_ship' && !row.drop_ships) throw invalid('body.supplier', `${buy.supplier} does not ship to customers`);
  return { cost: row.cost, leadDays: row.item_lead_days ?? row.lead_days, minimum: row.minimum, multiple: row.multiple };
}
