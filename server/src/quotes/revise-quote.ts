import type { OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import { dayNumber, isoDay } from '@nockwright/core/calendar';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { lockQuote, QUOTE_DAYS, readOrder, touchOrder } from '../orders';

/** Writes a quote anew that is out or was lost. What was told stays as it was told; the next revision has the same number. */
export async function reviseQuote(context: CommandContext, quoteId: OrderId, version: number): Promise<OrderView> {
  const { trx, now } = context;
  const quote = await lockQuote(trx, quoteId, version, ['quoted', 'lost']);
  const revision = quote.revision + 1;
  const valid_until = quote.valid_until < now.today ? isoDay(dayNumber(now.today) + QUOTE_DAYS) : quote.valid_until;
  const requested_day = quote.requested_day < now.today ? now.today : quote.requested_day;
  await trx
    .updateTable('sales_order')
    .set({ state: 'draft', revision, valid_until, requested_day, lost_reason: null, lost_note: '' })
    .where('id', '=', quoteId)
    .execute();
  await touchOrder(context, quoteId);
  await recordEvent(context, { kind: 'quote.revised', facts: { number: quote.number!, revision }, subjects: [{ kind: 'order', key: quoteId }] });
  return readOrder(trx, now, quoteId);
}
