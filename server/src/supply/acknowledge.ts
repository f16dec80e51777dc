import type { PurchaseId } from '@nockwright/core/ids';
import type { PurchaseView } from '@nockwright/contract/supply';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { lockPurchase, readPurchase, touchPurchase } from './load-purchase';

/** The supplier confirms a purchase order as it was sent; what they confirm otherwise is changed line by line. */
export async function acknowledge(context: CommandContext, purchaseId: PurchaseId, version: number, note: string): Promise<PurchaseView> {
  const { trx, now } = context;
  const purchase = await lockPurchase(trx, purchaseId, version);
  if (purchase.state !== 'sent')
    throw new Refusal('conflict', `Purchase ${purchase.number} is ${purchase.state === 'draft' ? 'a draft: it was never sent' : `${purchase.state} already`}.`);
  await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchaseId).execute();
  await touchPurchase(trx, purchaseId);
  await recordEvent(context, {
    kind: 'purchase.confirmed',
    facts: { number: purchase.number },
    why: note,
    subjects: [{ kind: 'purchase', key: purchaseId }],
  });
  return readPurchase(trx, now, purchaseId);
}
