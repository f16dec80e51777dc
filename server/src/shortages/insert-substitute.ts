import type { ItemCode } from '@nockwright/core/ids';
import { divide, times } from '@nockwright/core/money';
import { priceInstead, sentInstead } from '@nockwright/core/shortages';
import type { CommandContext } from '../http/context';
import { loadSoldItems, type OrderLineRecord } from '../orders';
import { ownPriceOf } from '@nockwright/core/routing';

/**
 * Adds the line that goes instead of `quantity` (stocking units) of another, behind the last of its order: a whole number of
 * the other item, at the price agreed or at its own where that is lower. It is our shortage. Gives its id.
 */
export async function insertSubstitute(
  { trx, now }: CommandContext,
  line: OrderLineRecord,
  item: ItemCode,
  quantity: string,
  ratio: string,
  standsFor: number | null = line.id,
): Promise<number> {
  const order = await trx
    .selectFrom('sales_order')
    .select(['id', 'customer_id', 'ship_to_id', 'contract_id'])
    .where('id', '=', line.order_id)
    .executeTakeFirstOrThrow();
  const [sold] = await loadSoldItems(trx, [item], { ...order, ship_to_id: line.ship_to_id ?? order.ship_to_id }, now.today);
  const { last } = await trx
    .selectFrom('order_line')
    .select(({ fn }) => fn.max<number>('line_no').as('last'))
    .where('order_id', '=', line.order_id)
    .executeTakeFirstOrThrow();
  const { sent: stock } = sentInstead(quantity, { ratio, step: sold!.step });
  const own = ownPriceOf(sold!, stock, now.today);
  const instead = priceInstead(divide(times(line.price, line.denominator), line.numerator, 8), ratio, own);
  const { price } = instead;
  const unit = sold!.unit;
  const source = instead.own ? own!.source : `as line ${line.line_no}`;
  const why = `goes instead of line ${line.line_no} (${line.item}), at ${instead.own ? 'its own price, which is lower' : 'its price'}`;
  const { id } = await trx
    .insertInto('order_line')
    .values({
      order_id: line.order_id,
      line_no: last + 1,
      item,
      warehouse: line.warehouse,
      unit,
      numerator: 1,
      denominator: 1,
      quantity: stock,
      stock_quantity: stock,
      price,
      price_source: source,
      price_trail: JSON.stringify([{ source, price, why, chosen: true }]),
      price_pin: JSON.stringify({ kind: 'manual', price, reason: why }),
      requested_day: line.requested_day,
      ship_to_id: line.ship_to_id,
      stands_for: standsFor,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}
