import type { OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import { storePaper } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { nextNumber } from '../numbers';
import { checkPrices, checkSeen, forgetHolds, loadOrderLines, lockQuote, neededFloorHold, placeHolds, readOrder, touchOrder, type SeenLine } from '../orders';
import { loadBook, newPromises } from '../promise';

/**
 * Sends a quote: it gets its number, and what is offered is kept as it was told. It commits no goods; that the days are
 * those on the screen is checked all the same. A price by hand below the floor holds it until a manager lets it go.
 */
export async function sendQuote(context: CommandContext, quoteId: OrderId, version: number, seen: readonly SeenLine[]): Promise<OrderView> {
  const { trx, now } = context;
  const quote = await lockQuote(trx, quoteId, version, ['draft']);
  const lines = await loadOrderLines(trx, quoteId);
  if (!lines.some((line) => !line.alternative)) throw invalid('body', lines.length === 0 ? 'the quote has no lines' : 'the quote has alternatives only');
  if (quote.valid_until < now.today) throw invalid('body.validUntil', `it was valid until ${quote.valid_until}; set a day to come`);
  await checkPrices(trx, quote, lines, now.today);
  await forgetHolds(context, quoteId);
  const held = await neededFloorHold(trx, now, quote, lines);
  if (held) {
    await placeHolds(context, quoteId, [held]);
    return readOrder(trx, now, quoteId);
  }
  const ids = lines.map((line) => line.id);
  const live = await loadBook(trx, now, { items: lines.map((line) => line.item), draft: quoteId });
  const { promises, uncovered } = newPromises(live, ids);
  await checkSeen(trx, { id: quoteId, savedAt: quote.saved_at }, lines, seen, promises, uncovered, now.today);

  const number = quote.number ?? (await nextNumber(trx, 'quote'));
  await trx.updateTable('sales_order').set({ number, state: 'quoted' }).where('id', '=', quoteId).execute();
  await touchOrder(context, quoteId);
  const view = await readOrder(trx, now, quoteId);
  await storePaper(context, 'quote', view);
  await recordEvent(context, {
    kind: 'quote.sent',
    facts: { number, revision: quote.revision, validUntil: quote.valid_until },
    after: {
      amount: view.amount,
      marginPercent: view.marginPercent,
      lines: view.lines.map(({ lineNo, item, quantity, unit, price }) => ({ lineNo, item, quantity, unit, price })),
    },
    subjects: [
      { kind: 'order', key: quoteId },
      { kind: 'customer', key: quote.customer_id },
    ],
  });
  return readOrder(trx, now, quoteId);
}
