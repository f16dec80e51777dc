import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { QueueRow } from '@nockwright/contract/items';
import { promiseBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { invalid, notFound } from '../http/refusal';
import { decimal, loadBook } from '../promise';

/** Who has their turn for an item at a warehouse, in sequence, with what each was promised. */
export async function readQueue(db: Db, now: Now, item: ItemCode, warehouse: WarehouseCode): Promise<QueueRow[]> {
  const known = await db.selectFrom('item').select('code').where('code', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item}`);
  const place = await db.selectFrom('warehouse').select('code').where('code', '=', warehouse).executeTakeFirst();
  if (!place) throw invalid('query.warehouse', `there is no warehouse ${warehouse}`);
  const live = await loadBook(db, now, { items: [item] });
  const promises = promiseBook(live.book).promises;
  const turn = new Map(
    [...live.turns].sort(([a, x], [b, y]) => x.priority - y.priority || x.place - y.place || (a < b ? -1 : 1)).map(([number], at) => [number, at]),
  );
  const rows = live.book.demand.flatMap((demand, at) =>
    demand.item === item && demand.warehouse === warehouse ? [{ demand, promise: promises[at]!, info: live.demands.get(demand.id)! }] : [],
  );
  rows.sort((a, b) => turn.get(a.demand.order)! - turn.get(b.demand.order)! || a.info.lineNo - b.info.lineNo);
  const orders = await db
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['sales_order.id', 'sales_order.place', 'sales_order.entered', 'sales_order.version', 'customer.name', 'customer.id as customer_id'])
    .where(anyOf('sales_order.id', [...new Set(rows.map((row) => row.info.orderId))]))
    .execute();
  const byId = new Map(orders.map((order) => [order.id, order]));
  return rows.map(({ demand, promise, info }): QueueRow => {
    const order = byId.get(info.orderId)!;
    const kept = promise.schedule.filter((entry) => entry.kept);
    const promised = kept.reduce((sum, entry) => sum + Math.round(entry.quantity * 10_000), 0);
    return {
      order: info.orderId,
      version: order.version,
      number: info.orderNumber,
      line: info.lineId,
      lineNo: info.lineNo,
      customer: order.name,
      customerId: order.customer_id,
      priority: live.turns.get(demand.order)!.priority,
      placed: order.place !== null,
      entered: order.entered.slice(0, 10),
      quantity: decimal(demand.quantity),
      requested: demand.requested,
      promised: kept.map((entry) => ({ day: entry.date, quantity: decimal(entry.quantity) })),
      waiting: decimal((Math.round(demand.quantity * 10_000) - promised) / 10_000),
      daysLate: promised === Math.round(demand.quantity * 10_000) ? promise.daysLate : null,
    };
  });
}
