import type { PurchaseId } from '@nockwright/core/ids';
import { takeLocks } from '../locks';
import type { PurchaseView } from '@nockwright/contract/supply';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';

import { tellOrdered } from './exchange/tell-supplier';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase } from './load-purchase';

/** Sends a draft to the supplier. From then on its goods are due and can be promised. */
export async function sendPurchase(context: CommandContext, purchaseId: PurchaseId, version: number): Promise<PurchaseView> {
  const { trx, now } = context;
  const purchase = await lockPurchase(trx, purchaseId, version);
  if (purchase.state !== 'draft') throw new Refusal('conflict', `Purchase ${purchase.number} is ${purchase.state} already.`);
  const lines = await loadPurchaseLines(trx, purchaseId);
  await takeLocks(trx, { pools: lines.flatMap(({ item, warehouse }) => (warehouse === null ? [] : [{ item, warehouse }])) });
  await trx.updateTable('purchase_line').set({ firm: true }).where('purchase_id', '=', purchaseId).execute();
  await trx.updateTable('purchase_order').set({ state: 'sent' }).where('id', '=', purchaseId).execute();
  await touchPurchase(trx, purchaseId);
  const how = await tellOrdered(context, await readPurchase(trx, now, purchaseId));
  await recordEvent(context, {
    kind: 'purchase.sent',
    facts: { number: purchase.number, ...how },
    subjects: [{ kind: 'purchase', key: purchaseId }, ...lines.map((line) => ({ kind: 'item' as const, key: line.item }))],
  });
  return readPurchase(trx, now, purchaseId);
}
