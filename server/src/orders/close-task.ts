import type { OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';
import { lockOrder, touchOrder } from './lock-order';
import { readOrder } from './read-order';

/** Closes what was dealt with, with how; whoever is second is told that it is closed. */
export async function closeTask(context: CommandContext, orderId: OrderId, taskId: number, how: string): Promise<OrderView> {
  const { trx, now, user } = context;
  await lockOrder(trx, orderId);
  const closed = await trx
    .updateTable('order_task')
    .set({ closed_by: user.id, closed_at: now.instant, how })
    .where('id', '=', taskId)
    .where('order_id', '=', orderId)
    .where('closed_at', 'is', null)
    .returning('words')
    .executeTakeFirst();
  if (!closed) throw notFound(`open task ${taskId} of this order`);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'task.closed',
    facts: { task: closed.words, how },
    before: closed,
    after: { how },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}
