import { type DemandInfo } from '@nockwright/core/book';
import { compareDecimal, minus } from '@nockwright/core/money';
import { lineStandings } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { decimal, loadBook } from '../promise';

/** What of a line is on hand for it and not being picked yet. */
export interface ReadyLine {
  readonly demand: DemandInfo;
  readonly quantity: string;
}

/**
 * What of which promised line of an order is on hand and pegged to it, computed now. Of an order that must leave complete
 * nothing is ready until all of it is.
 */
export async function readyLines(
  db: Db,
  now: Now,
  order: { readonly id: number; readonly ship_complete: boolean },
  items: readonly string[],
): Promise<ReadyLine[]> {
  const live = await loadBook(db, now, { items });
  const own = lineStandings(live.book).filter((row) => live.demands.get(row.id)!.orderId === order.id);
  if (order.ship_complete && own.some((row) => !row.whole)) return [];
  const picking = await db
    .selectFrom('shipment_line')
    .innerJoin('shipment', 'shipment.id', 'shipment_line.shipment_id')
    .select(({ fn }) => ['order_line_id', fn.sum<string>('quantity').as('quantity')])
    .where('shipment.state', '=', 'picking')
    .where(
      anyOf(
        'order_line_id',
        own.map((row) => live.demands.get(row.id)!.lineId),
      ),
    )
    .groupBy('order_line_id')
    .execute();
  const picked = new Map(picking.map((row) => [row.order_line_id, row.quantity]));
  return own.flatMap((row): ReadyLine[] => {
    const demand = live.demands.get(row.id)!;
    const quantity = minus(decimal(row.onHand), picked.get(demand.lineId) ?? '0');
    return compareDecimal(quantity, '0') > 0 ? [{ demand, quantity }] : [];
  });
}
