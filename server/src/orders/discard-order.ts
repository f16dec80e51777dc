import type { OrderId } from '@nockwright/core/ids';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { lockDraft } from './lock-order';

/** Throws a draft away: it stays in the history, and nowhere else. */
export async function discardOrder(context: CommandContext, orderId: OrderId, version: number): Promise<{ discarded: boolean }> {
  const { trx, now } = context;
  await lockDraft(trx, orderId, version);
  await trx
    .updateTable('sales_order')
    .set({ state: 'discarded', saved_at: now.instant, version: version + 1 })
    .where('id', '=', orderId)
    .execute();
  await recordEvent(context, { kind: 'draft.discarded', facts: { id: orderId }, subjects: [{ kind: 'order', key: orderId }] });
  return { discarded: true };
}
