import type { PurchaseId } from '@nockwright/core/ids';
import type { Decision } from '@nockwright/contract/promise';
import type { PurchaseView } from '@nockwright/contract/supply';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { lockMoving } from '../promise';
import { closeOpenQuantity, type Because } from './close-open-quantity';
import { ordersDroppedBy } from './drop-ripple';
import { loadPurchaseLines, lockPurchase, readPurchase } from './load-purchase';
import { nothingMore } from './awaited-change';
import { settleSupplyChange } from './supply-change';

/**
 * Closes what has not come of a purchase line. With a decision the promises it takes goods from move as was seen;
 * without one those that lose their goods wait again, and their customers are to be called.
 */
export async function closeLine(
  context: CommandContext,
  purchaseId: PurchaseId,
  lineId: number,
  version: number,
  because: Because,
  decision?: Decision,
): Promise<PurchaseView> {
  const { trx, now } = context;
  await lockMoving(trx, decision, await ordersDroppedBy(trx, purchaseId));
  const purchase = await lockPurchase(trx, purchaseId, version);
  const known = (await loadPurchaseLines(trx, purchaseId)).find((row) => row.id === lineId);
  if (!known) throw notFound(`line ${lineId} on this purchase order`);
  if (known.open === '0') throw new Refusal('conflict', `Nothing more is expected on line ${known.line_no}.`);
  const close = () => closeOpenQuantity(context, lineId, known.open, because);
  const facts = { number: purchase.number, lineNo: known.line_no, item: known.item, quantity: known.open };
  const { cause = { kind: 'purchase.closed' as const, facts, note: because.why ?? '' } } = because;
  await settleSupplyChange(context, purchase.number, [nothingMore(known)], decision, cause, close);
  return readPurchase(trx, now, purchaseId);
}
