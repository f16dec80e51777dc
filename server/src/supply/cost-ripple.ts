import type { MarginMove } from '@nockwright/contract/supply';
import { compareDecimal, divide, lineAmount, marginPercent, minus, plus, times } from '@nockwright/core/money';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { loadBook } from '../promise';
import { customersOfLines, pegsOf, type PurchaseLineRecord } from './load-purchase';

/**
 * What another cost of a purchase line makes of the margin on the goods that are owed from it: of those alone, not of all
 * of an order line. Goods bought for a line cost what its route does, freight and all. Worst first.
 */
export async function marginsAt(db: Db, now: Now, purchaseNumber: string, line: PurchaseLineRecord, cost: string): Promise<MarginMove[]> {
  const more = minus(cost, line.cost);
  if (compareDecimal(more, '0') === 0) return [];
  const pegs = pegsOf(await loadBook(db, now, { items: [line.item] }), purchaseNumber, [line]);
  const owed = new Map<number, string>();
  for (const peg of pegs) owed.set(peg.orderLine, plus(owed.get(peg.orderLine) ?? '0', peg.quantity));
  const names = await customersOfLines(db, [...owed.keys()]);
  const sold = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .leftJoin('line_route', (join) => join.onRef('line_route.line_id', '=', 'order_line.id').on('line_route.purchase_line_id', '=', line.id))
    .select(['order_line.id', 'order_line.price', 'order_line.numerator', 'order_line.denominator', 'sales_order.currency', 'line_route.unit_cost'])
    .where(anyOf('order_line.id', [...owed.keys()]))
    .orderBy('order_line.id')
    .execute();
  return sold
    .map((row) => {
      const quantity = owed.get(row.id)!;
      const amount = lineAmount(quantity, divide(times(row.price, row.denominator), row.numerator, 10), row.currency);
      const marginWith = (unitCost: string) => marginPercent(amount, times(quantity, unitCost));
      const before = row.unit_cost ?? line.cost;
      const lost = lineAmount(quantity, more, row.currency);
      return { ...names.get(row.id)!, quantity, before: marginWith(before), after: marginWith(plus(before, more)), lost, currency: row.currency };
    })
    .sort((a, b) => compareDecimal(b.lost, a.lost));
}
