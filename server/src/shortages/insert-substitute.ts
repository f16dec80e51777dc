import { divide, times } from '@nockwright/core/money';
import type { Trx } from '../database';
import type { OrderLineRecord } from '../orders';

/**
 * Adds the line that goes instead of `quantity` (stocking units) of another, behind the last of its order. The price that
 * was agreed stands, whatever the other item costs: it is our shortage. Gives its id.
 */
export async function insertSubstitute(
  trx: Trx,
  line: OrderLineRecord,
  item: string,
  quantity: string,
  ratio: string,
  standsFor: number | null = line.id,
): Promise<number> {
  const { unit } = await trx.selectFrom('item').select('unit').where('code', '=', item).executeTakeFirstOrThrow();
  const { last } = await trx
    .selectFrom('order_line')
    .select(({ fn }) => fn.max<number>('line_no').as('last'))
    .where('order_id', '=', line.order_id)
    .executeTakeFirstOrThrow();
  const stock = times(quantity, ratio);
  const price = divide(divide(times(line.price, line.denominator), line.numerator, 8), ratio, 4);
  const source = `as line ${line.line_no}`;
  const why = `goes instead of line ${line.line_no} (${line.item}), at its price`;
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
