import { promiseBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { invalid } from '../http/refusal';
import { loadBook, slippedDropShipments } from '../promise';

const MOST_ORDERS = 200;

/** Released orders whose supply comes later than promised: the day it comes, or null where none is left. */
export async function orderRisks(db: Db, now: Now, ids: readonly number[]): Promise<{ order: number; day: string | null }[]> {
  if (ids.length > MOST_ORDERS) throw invalid('query.orders', `expected at most ${MOST_ORDERS}, got ${ids.length}`);
  const items = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select('item')
    .distinct()
    .where(anyOf('order_id', ids))
    .where('sales_order.state', '=', 'released')
    .where((eb) => eb(eb('shipped', '+', eb.ref('cancelled')), '<', eb.ref('stock_quantity')))
    .execute();
  if (items.length === 0) return [];
  const codes = items.map((row) => row.item);
  const live = await loadBook(db, now, { items: codes });
  const late = promiseBook(live.book).atRisk.map(({ id, arrives }) => ({ order: live.demands.get(id)!.orderId, day: arrives }));
  const slipped = (await slippedDropShipments(db, now.today, { items: codes })).map(({ order, leaves }) => ({ order, day: leaves }));
  const wanted = new Set(ids);
  const days = new Map<number, string | null>();
  for (const { order, day } of [...late, ...slipped]) {
    if (!wanted.has(order)) continue;
    const known = days.get(order);
    days.set(order, day === null || known === null ? null : known === undefined || day > known ? day : known);
  }
  return [...days].map(([order, day]) => ({ order, day }));
}
