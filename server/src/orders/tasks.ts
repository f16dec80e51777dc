import type { OrderId } from '@nockwright/core/ids';
import type { OrderTask } from '@nockwright/contract/orders';
import type { Db, Trx } from '../database';
import type { CommandContext } from '../http/context';

/** What the customer's text asks for that is no line of the order, the oldest first, also what was dealt with. */
export async function loadTasks(db: Db, orderId: OrderId): Promise<OrderTask[]> {
  const rows = await db
    .selectFrom('order_task')
    .innerJoin('app_user as noter', 'noter.id', 'order_task.noted_by')
    .leftJoin('app_user as closer', 'closer.id', 'order_task.closed_by')
    .selectAll('order_task')
    .select(['noter.name as noter', 'closer.name as closer'])
    .where('order_id', '=', orderId)
    .orderBy('order_task.id')
    .execute();
  return rows.map(({ id, words, noter, noted_at, closer, closed_at, how }) => ({
    id,
    words,
    by: noter,
    at: noted_at.toISOString(),
    closed: closed_at === null ? null : { by: closer!, at: closed_at.toISOString(), how },
  }));
}

/** Notes what is to be dealt with on an order that is locked. */
export async function noteTasks({ now, user }: CommandContext, trx: Trx, orderId: OrderId, tasks: readonly string[]): Promise<void> {
  if (tasks.length === 0) return;
  await trx
    .insertInto('order_task')
    .values(tasks.map((words) => ({ order_id: orderId, words, noted_by: user.id, noted_at: now.instant, closed_by: null, closed_at: null })))
    .execute();
}
