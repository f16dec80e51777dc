import type { PurchaseView, ReschedulePreview } from '@nockwright/contract/supply';
import { dayNumber, isoDay, shortDay, workCalendar } from '@nockwright/core/calendar';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadWarehouses, lockPools } from '../promise';
import { bookOf, effectOf } from './broken-promises';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase } from './load-purchase';

/** Which promises another expected day of a purchase line would break, and which it would mend. */
export async function previewReschedule(db: Db, now: Now, purchaseId: number, lineId: number, day: string): Promise<ReschedulePreview> {
  const { number, line } = await findLine(db, purchaseId, lineId);
  if (line.warehouse === null) return { availableDay: null, breaks: [], mends: [] };
  const { live, supplyId } = await bookOf(db, now, line.item, number, line.line_no);
  const warehouse = (await loadWarehouses(db)).find((row) => row.code === line.warehouse)!.book;
  const calendar = workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber));
  const ready = calendar.offset(calendar.ceil(dayNumber(day)), warehouse.receivingDays ?? 0);
  return { availableDay: isoDay(ready), ...(await effectOf(db, now, live, supplyId, (supply) => ({ ...supply, date: day }))) };
}

/** Which promises would lose their goods if what is still awaited of a line is closed. */
export async function previewClose(db: Db, now: Now, purchaseId: number, lineId: number): Promise<ReschedulePreview> {
  const { number, line } = await findLine(db, purchaseId, lineId);
  if (line.warehouse === null) return { availableDay: null, breaks: [], mends: [] };
  const { live, supplyId } = await bookOf(db, now, line.item, number, line.line_no);
  return { availableDay: null, ...(await effectOf(db, now, live, supplyId, () => null)) };
}

/** Records the day the supplier now expects. Promises stand as told; those it breaks show as late from now on. */
export async function reschedule(
  context: CommandContext,
  purchaseId: number,
  lineId: number,
  change: { readonly version: number; readonly expectedDay: string; readonly note?: string },
): Promise<PurchaseView> {
  const { trx, now } = context;
  const purchase = await lockPurchase(trx, purchaseId, change.version);
  const line = (await loadPurchaseLines(trx, purchaseId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this purchase order`);
  if (line.open === '0') throw new Refusal('conflict', `Nothing more is awaited of line ${line.line_no}.`);
  if (change.expectedDay < now.today) throw invalid('body.expectedDay', `${change.expectedDay} has passed; expected ${now.today} or later`);
  if (line.warehouse !== null) await lockPools(trx, [{ item: line.item, warehouse: line.warehouse }]);
  await trx.updateTable('purchase_line').set({ expected_day: change.expectedDay }).where('id', '=', lineId).execute();
  if (purchase.state === 'sent') await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchaseId).execute();
  await touchPurchase(trx, purchaseId);
  const order =
    line.order_line_id === null ? null : await trx.selectFrom('order_line').select('order_id').where('id', '=', line.order_line_id).executeTakeFirstOrThrow();
  await recordEvent(context, {
    what: `purchase ${purchase.number} line ${line.line_no} (${line.item}) now due ${shortDay(change.expectedDay, now.today)}, was ${shortDay(line.expected_day, now.today)}`,
    why: change.note ?? '',
    before: { expectedDay: line.expected_day },
    after: { expectedDay: change.expectedDay },
    subjects: [{ kind: 'purchase', key: purchaseId }, { kind: 'item', key: line.item }, ...(order ? [{ kind: 'order' as const, key: order.order_id }] : [])],
  });
  return readPurchase(trx, now, purchaseId);
}

async function findLine(db: Db, purchaseId: number, lineId: number) {
  const purchase = await db.selectFrom('purchase_order').select('number').where('id', '=', purchaseId).executeTakeFirst();
  const line = (await loadPurchaseLines(db, purchaseId)).find((row) => row.id === lineId);
  if (!purchase || !line) throw notFound(`line ${lineId} on purchase order ${purchaseId}`);
  return { number: purchase.number, line };
}
