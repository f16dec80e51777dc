import type { LineId, OrderId, RouteId } from '@nockwright/core/ids';
import { Refusal } from '../http/refusal';
import type { Db } from '../database';

export type RouteRow = Awaited<ReturnType<typeof loadRoute>>;

export async function loadRoute(db: Db, orderId: OrderId, lineId: LineId, routeId: RouteId) {
  const route = await db
    .selectFrom('line_route')
    .innerJoin('order_line', 'order_line.id', 'line_route.line_id')
    .selectAll('line_route')
    .where('line_route.id', '=', routeId)
    .where('line_route.line_id', '=', lineId)
    .where('order_line.order_id', '=', orderId)
    .executeTakeFirst();
  // Nearly always somebody else was first.
  if (!route) throw new Refusal('conflict', 'This route is no longer on the line: somebody has undone it already.');
  return route;
}
