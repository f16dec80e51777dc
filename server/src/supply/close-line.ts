import type { Decision } from '@nockwright/contract/promise';
import type { PurchaseView } from '@nockwright/contract/supply';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { loadLocked, lockMoving, lockPools, settleRipple } from '../promise';
import { closeOpenQuantity } from './close-open-quantity';
import { loadPurchaseLines, lockPurchase, readPurchase } from './load-purchase';
import { changedTo, planOfSupply, supplyIdOf } from './supply-plan';

/**
 * Closes what has not come of a purchase line. With a decision the promises it takes goods from move as was seen;
 * without one those that lose their goods wait again.
 */
export async function closeLine(
  context: CommandContext,
  purchaseId: number,
  lineId: number,
  version: number,
  reason: string,
  decision?: Decision,
): Promise<PurchaseView> {
  const { trx, now } = context;
  await lockMoving(trx, decision);
  const purchase = await lockPurchase(trx, purchaseId, version);
  const known = (await loadPurchaseLines(trx, purchaseId)).find((row) => row.id === lineId);
  if (!known) throw notFound(`line ${lineId} on this purchase order`);
  if (known.open === '0') throw new Refusal('conflict', `Nothing more is awaited of line ${known.line_no}.`);
  if (known.warehouse !== null) {
    if (decision) {
      const plan = planOfSupply(await loadLocked(context, [known.item]), new Map([[supplyIdOf(purchase.number, known), changedTo(undefined, '0')]]));
      await settleRipple(context, plan, decision, `purchase ${purchase.number} line ${known.line_no}: ${reason}`);
    } else await lockPools(trx, [{ item: known.item, warehouse: known.warehouse }]);
  }
  await closeOpenQuantity(context, lineId, known.open, reason);
  return readPurchase(trx, now, purchaseId);
}
