import type { OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import type { LostReason } from '@nockwright/core/orders';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { lockQuote, readOrder, touchOrder } from '../orders';

/** Closes a quote that came to nothing, with the reason the customer gave. */
export async function loseQuote(
  context: CommandContext,
  quoteId: OrderId,
  { version, reason, note }: { readonly version: number; readonly reason: LostReason; readonly note: string },
): Promise<OrderView> {
  const { trx, now } = context;
  const quote = await lockQuote(trx, quoteId, version, ['quoted']);
  await trx.updateTable('sales_order').set({ state: 'lost', lost_reason: reason, lost_note: note }).where('id', '=', quoteId).execute();
  await touchOrder(context, quoteId);
  await recordEvent(context, {
    kind: 'quote.lost',
    facts: { number: quote.number!, reason },
    why: note,
    subjects: [
      { kind: 'order', key: quoteId },
      { kind: 'customer', key: quote.customer_id },
    ],
  });
  return readOrder(trx, now, quoteId);
}
