import type { PurchaseView } from '@nockwright/contract/supply';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { lockPools } from '../promise';
import { closeOpenQuantity } from './close-open-quantity';
import { loadPurchaseLines, lockPurchase, readPurchase } from './load-purchase';

/** Closes what has not come of a purchase line; promises that lose their goods by it wait again. */
export async function closeLine(context: CommandContext, purchaseId: number, lineId: number, version: number, reason: string): Promise<PurchaseView> {
  const { trx, now } = context;
  await lockPurchase(trx, purchaseId, version);
  const known = (await loadPurchaseLines(trx, purchaseId)).find((row) => row.id === lineId);
  if (!known) throw notFound(`line ${lineId} on this purchase order`);
  if (known.warehouse !== null) await lockPools(trx, [{ item: known.item, warehouse: known.warehouse }]);
  if (known.open === '0') throw new Refusal('conflict', `Nothing more is awaited of line ${known.line_no}.`);
  await closeOpenQuantity(context, lineId, known.open, reason);
  return readPurchase(trx, now, purchaseId);
}
