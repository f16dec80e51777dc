import type { PurchaseId, WarehouseCode } from '@nockwright/core/ids';
import type { Cause, FactsOf } from '@nockwright/contract/history';
import type { Decision } from '@nockwright/contract/promise';
import type { PurchaseView, SupplyRipple } from '@nockwright/contract/supply';
import { compareDecimal, minus, plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { lockMoving } from '../promise';
import { checkCosts } from './check-costs';
import { closeOpenQuantity } from './close-open-quantity';
import { marginsAt } from './cost-ripple';
import { ordersDroppedBy } from './drop-ripple';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase } from './load-purchase';
import { dayAvailable } from './supply-plan';
import { nothingMore } from './awaited-change';
import { settleSupplyChange, viewSupplyChange } from './supply-change';

/** Another day, quantity or cost of what is awaited of a line. */
export interface LineWish {
  readonly expectedDay?: string;
  /** What is still to come, in stocking units. */
  readonly open?: string;
  /** Of one stocking unit. */
  readonly cost?: string;
}

/** Whose promises another day or quantity of a purchase line would move, and whose margin another cost. */
export async function previewReschedule(
  db: Db,
  now: Now,
  purchaseId: PurchaseId,
  lineId: number,
  wish: LineWish,
  accept: readonly number[],
): Promise<SupplyRipple> {
  const { number, line } = await findLine(db, purchaseId, lineId);
  checkWish(line, wish, now, 'query');
  const margins = wish.cost === undefined ? {} : { margins: await marginsAt(db, now, number, line, wish.cost) };
  const change = { line, day: wish.expectedDay ?? line.expected_day, open: wish.open ?? line.open };
  const availableDay = line.warehouse === null ? null : await dayAvailable(db, now, line.warehouse, change.day);
  return { availableDay, ripple: await viewSupplyChange(db, now, number, [change], accept), ...margins };
}

/**
 * Records the day the supplier now expects, the quantity that is still to come, or what it costs now. With a decision the promises that it
 * reaches too late are moved as was seen; without one they stand as told, and show as at risk from now on; what has no
 * supply left waits again.
 */
export async function reschedule(
  context: CommandContext,
  purchaseId: PurchaseId,
  lineId: number,
  change: LineWish & { readonly version: number; readonly note?: string; readonly decision?: Decision; readonly cause?: Cause },
): Promise<PurchaseView> {
  const { trx, now } = context;
  await lockMoving(trx, change.decision, await ordersDroppedBy(trx, purchaseId));
  const purchase = await lockPurchase(trx, purchaseId, change.version);
  const line = (await loadPurchaseLines(trx, purchaseId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this purchase order`);
  checkWish(line, change, now, 'body');
  const { expectedDay = line.expected_day, open = line.open, cost = line.cost } = change;
  if (change.expectedDay === undefined && change.open === undefined && change.cost === undefined)
    throw invalid('body', 'expected another day (expectedDay), quantity (open) or cost');
  if (compareDecimal(cost, line.cost) !== 0) await checkCosts(context, purchase.supplier, [{ item: line.item, cost, field: 'body.cost' }]);

  const changes = changeOf(line, { expectedDay, open, cost });
  const facts = { number: purchase.number, lineNo: line.line_no, item: line.item, ...changes };
  const cause = change.cause ?? { kind: 'purchase.rescheduled' as const, facts, ...(change.note ? { note: change.note } : {}) };
  const record = async () => {
    if (compareDecimal(open, line.open) < 0) await closeOpenQuantity(context, lineId, minus(line.open, open), { cause });
    const more = compareDecimal(open, line.open) > 0 ? { quantity: plus(line.quantity, minus(open, line.open)) } : {};
    await trx
      .updateTable('purchase_line')
      .set({ expected_day: expectedDay, cost, ...more })
      .where('id', '=', lineId)
      .execute();
    // What a route costs in all follows what is bought for it.
    await trx
      .updateTable('line_route')
      .set({ unit_cost: sql`greatest(0, unit_cost + ${minus(cost, line.cost)}::numeric)` })
      .where('purchase_line_id', '=', lineId)
      .execute();
  };
  await settleSupplyChange(context, purchase.number, [{ line, day: expectedDay, open }], change.decision, cause, record);
  if (purchase.state === 'sent') await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchaseId).execute();
  await touchPurchase(trx, purchaseId);
  const order =
    line.order_line_id === null ? null : await trx.selectFrom('order_line').select('order_id').where('id', '=', line.order_line_id).executeTakeFirstOrThrow();
  await recordEvent(context, {
    kind: 'purchase.rescheduled',
    facts,
    ...(change.cause ? { cause } : { why: change.note ?? '' }),
    before: { expectedDay: line.expected_day, open: line.open, cost: line.cost },
    after: { expectedDay, open, cost },
    subjects: [{ kind: 'purchase', key: purchaseId }, { kind: 'item', key: line.item }, ...(order ? [{ kind: 'order' as const, key: order.order_id }] : [])],
  });
  return readPurchase(trx, now, purchaseId);
}

/** What differs of an awaited line, as its event keeps it. */
export function changeOf(
  line: { readonly expected_day: string; readonly open: string; readonly cost: string },
  { expectedDay: day, open, cost }: { readonly expectedDay: string; readonly open: string; readonly cost: string },
): Omit<FactsOf<'purchase.rescheduled'>, 'number' | 'lineNo' | 'item'> {
  return {
    due: day === line.expected_day ? null : { day, was: line.expected_day },
    open: compareDecimal(open, line.open) === 0 ? null : { open, was: line.open },
    cost: compareDecimal(cost, line.cost) === 0 ? null : { cost, was: line.cost },
  };
}

/** Whose promises would move if what is still awaited of a line is closed. */
export async function previewClose(db: Db, now: Now, purchaseId: PurchaseId, lineId: number, accept: readonly number[]): Promise<SupplyRipple> {
  const { number, line } = await findLine(db, purchaseId, lineId);
  return { availableDay: null, ripple: await viewSupplyChange(db, now, number, [nothingMore(line)], accept) };
}

async function findLine(db: Db, purchaseId: PurchaseId, lineId: number) {
  const purchase = await db.selectFrom('purchase_order').select('number').where('id', '=', purchaseId).executeTakeFirst();
  const line = (await loadPurchaseLines(db, purchaseId)).find((row) => row.id === lineId);
  if (!purchase || !line) throw notFound(`line ${lineId} on purchase order ${purchaseId}`);
  return { number: purchase.number, line };
}

/** What is shipped to the customer is never more than they ordered: our stock could not take the rest. A day that stands may have passed. */
function checkWish(
  line: { readonly line_no: number; readonly warehouse: WarehouseCode | null; readonly open: string; readonly expected_day: string },
  wish: LineWish,
  { today }: Now,
  place: 'body' | 'query',
) {
  if (line.open === '0') throw new Refusal('conflict', `Nothing more is expected on line ${line.line_no}.`);
  const day = wish.expectedDay ?? line.expected_day;
  if (day !== line.expected_day && day < today)
    throw invalid(place === 'body' ? 'body.expectedDay' : 'query.day', `${day} has passed; expected ${today} or later`);
  if (line.warehouse === null && wish.open !== undefined && compareDecimal(wish.open, line.open) > 0)
    throw invalid(
      `${place}.open`,
      `line ${line.line_no} is shipped to the customer, who ordered no more than the ${line.open} expected; increase the order line first`,
    );
}
