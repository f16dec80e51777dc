import type { PurchaseId } from '@nockwright/core/ids';
import type { Decision } from '@nockwright/contract/promise';
import type { PurchaseView, SupplyRipple } from '@nockwright/contract/supply';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { lockMoving } from '../promise';
import { closeOpenQuantity } from './close-open-quantity';
import { tellTakenBack, type TakenBack } from './exchange/tell-supplier';
import { loadPurchaseLines, lockPurchase, readPurchase, type PurchaseLineRecord } from './load-purchase';
import { nothingMore } from './awaited-change';
import { settleSupplyChange, viewSupplyChange } from './supply-change';

/** Whose promises would move if nothing more comes of a purchase order. */
export async function previewCancel(db: Db, now: Now, purchaseId: PurchaseId, accept: readonly number[]): Promise<SupplyRipple> {
  const purchase = await db.selectFrom('purchase_order').select('number').where('id', '=', purchaseId).executeTakeFirst();
  if (!purchase) throw notFound(`purchase order ${purchaseId}`);
  const open = openLines(await loadPurchaseLines(db, purchaseId));
  return { availableDay: null, ripple: await viewSupplyChange(db, now, purchase.number, open.map(nothingMore), accept) };
}

/**
 * Cancels what is open of a purchase order. What has come in stays. With a decision the promises it takes goods from move
 * as was seen; without one those that lose their goods wait again. What the supplier would have shipped waits in any case.
 * Whoever loses goods is to be called.
 */
export async function cancelPurchase(
  context: CommandContext,
  purchaseId: PurchaseId,
  { version, by, reason, decision }: { readonly version: number; readonly by: 'us' | 'supplier'; readonly reason: string; readonly decision?: Decision },
): Promise<PurchaseView> {
  const { trx, now } = context;
  const bound = await trx
    .selectFrom('purchase_line')
    .innerJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select('order_line.order_id')
    .where('purchase_id', '=', purchaseId)
    .execute();
  await lockMoving(
    trx,
    decision,
    bound.map((row) => row.order_id),
  );
  const purchase = await lockPurchase(trx, purchaseId, version);
  const open = openLines(await loadPurchaseLines(trx, purchaseId));
  if (open.length === 0) throw new Refusal('conflict', `Nothing more is expected on purchase ${purchase.number}.`);
  const facts = { number: purchase.number, by };
  const cause = { kind: 'purchase.cancelled' as const, facts, note: reason };
  const items = [...new Set(open.map((line) => line.item))];
  const close = async () => {
    for (const line of open) await closeOpenQuantity(context, line.id, line.open, { cause });
  };
  await settleSupplyChange(context, purchase.number, open.map(nothingMore), decision, cause, close);
  if (by === 'us' && purchase.state !== 'draft') await tellTakenBack(context, await readPurchase(trx, now, purchaseId), open.map(takenBack), true, reason);
  await recordEvent(context, {
    kind: 'purchase.cancelled',
    facts,
    why: reason,
    subjects: [{ kind: 'purchase', key: purchaseId }, ...items.map((item) => ({ kind: 'item' as const, key: item }))],
  });
  return readPurchase(trx, now, purchaseId);
}

function takenBack(line: PurchaseLineRecord): TakenBack {
  return { lineNo: line.line_no, item: line.item, quantity: line.open };
}

function openLines(lines: readonly PurchaseLineRecord[]): readonly PurchaseLineRecord[] {
  return lines.filter((line) => line.open !== '0');
}
