import type { OrderId } from '@nockwright/core/ids';
import type { HoldView } from '@nockwright/contract/orders';
import type { Db } from '../database';

/** What an order is or was held for, in the sequence it happened. */
export async function loadHolds(db: Db, orderId: OrderId) {
  return db
    .selectFrom('order_hold')
    .innerJoin('app_user as placer', 'placer.id', 'order_hold.placed_by')
    .leftJoin('app_user as clearer', 'clearer.id', 'order_hold.cleared_by')
    .selectAll('order_hold')
    .select(['placer.name as placer', 'clearer.name as clearer'])
    .where('order_id', '=', orderId)
    .orderBy('order_hold.id')
    .execute();
}

export function holdView(row: Awaited<ReturnType<typeof loadHolds>>[number]): HoldView {
  return {
    id: row.id,
    kind: row.kind,
    why: row.why,
    by: row.placer,
    at: row.placed_at.toISOString(),
    cleared: row.cleared_at === null ? null : { by: row.clearer!, at: row.cleared_at.toISOString(), why: row.cleared_why! },
  };
}
