import type { Decision } from '@nockwright/contract/promise';
import type { PurchaseView } from '@nockwright/contract/supply';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { loadLocked, lockMoving, lockPools, settleRipple } from '../promise';
import { closeOpenQuantity } from './close-open-quantity';
import { ordersDroppedBy, settleDropShipments } from './drop-ripple';
import { loadPurchaseLines, lockPurchase, readPurchase } from './load-purchase';
import { changedTo, planOfSupply, supplyIdOf } from './supply-plan';

/**
 * Closes what has not come of a purchase line. With a decision the promises it takes goods from move as was seen;
 * without one those that lose their goods wait again, and their customers are to be called.
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
  await lockMoving(trx, decision, await ordersDroppedBy(trx, purchaseId));
  const purchase = await lockPurchase(trx, purchaseId, version);
  const known = (await loadPurchaseLines(trx, purchaseId)).find((row) => row.id === lineId);
  if (!known) throw notFound(`line ${lineId} on this purchase order`);
  if (known.open === '0') throw new Refusal('conflict', `Nothing more is awaited of line ${known.line_no}.`);
  const close = () => closeOpenQuantity(context, lineId, known.open, reason);
  const why = `purchase ${purchase.number} line ${known.line_no}: ${reason}`;
  if (known.warehouse === null) await settleDropShipments(context, [{ line: known, day: known.expected_day, open: '0' }], decision, why, close);
  else {
    if (decision) {
      const plan = planOfSupply(await loadLocked(context, [known.item]), new Map([[supplyIdOf(purchase.number, known), changedTo(undefined, '0')]]));
      await settleRipple(context, plan, decision, why);
    } else await lockPools(trx, [{ item: known.item, warehouse: known.warehouse }]);
    await close();
  }
  return readPurchase(trx, now, purchaseId);
}
