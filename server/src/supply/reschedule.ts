import type { Decision } from '@nockwright/contract/promise';
import type { PurchaseView, SupplyRipple } from '@nockwright/contract/supply';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadLocked, lockMoving, lockPools, settleRipple, viewRipple } from '../promise';
import { checkCosts } from './check-costs';
import { closeOpenQuantity } from './close-open-quantity';
import { marginsAt } from './cost-ripple';
import { ordersDroppedBy, settleDropShipments, viewDropRipple } from './drop-ripple';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase } from './load-purchase';
import { changedTo, dayAvailable, movingBook, planOfSupply, supplyIdOf } from './supply-plan';

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
  purchaseId: number,
  lineId: number,
  wish: LineWish,
  accept: readonly number[],
): Promise<SupplyRipple> {
  const { number, line } = await findLine(db, purchaseId, lineId);
  checkWish(line, wish, now, 'query');
  const margins = wish.cost === undefined ? {} : { margins: await marginsAt(db, now, number, line, wish.cost) };
  if (line.warehouse === null) {
    const change = { line, day: wish.expectedDay ?? line.expected_day, open: wish.open ?? line.open };
    return { availableDay: null, ripple: await viewDropRipple(db, now, [change]), ...margins };
  }
  const live = await movingBook(db, now, [line.item]);
  const plan = planOfSupply(live, new Map([[supplyIdOf(number, line), changedTo(wish.expectedDay, wish.open)]]));
  const availableDay = await dayAvailable(db, now, line.warehouse, wish.expectedDay ?? line.expected_day);
  return { availableDay, ripple: await viewRipple(db, plan, accept, now.today), ...margins };
}

/**
 * Records the day the supplier now expects, the quantity that is still to come, or what it costs now. With a decision the promises that it
 * reaches too late are moved as was seen; without one they stand as told, and show as at risk from now on; what has no
 * supply left waits again.
 */
export async function reschedule(
  context: CommandContext,
  purchaseId: number,
  lineId: number,
  change: LineWish & { readonly version: number; readonly note?: string; readonly decision?: Decision },
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

  const changes = describe(line, { expectedDay, open, cost }, now.today);
  const why = `purchase ${purchase.number} line ${line.line_no}: ${changes}${change.note ? `, ${change.note}` : ''}`;
  const record = async () => {
    if (compareDecimal(open, line.open) < 0) await closeOpenQuantity(context, lineId, minus(line.open, open), change.note ?? 'the supplier sends less');
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
  if (line.warehouse === null) await settleDropShipments(context, [{ line, day: expectedDay, open }], change.decision, why, record);
  else if (change.decision) {
    const live = await loadLocked(context, [line.item]);
    const plan = planOfSupply(live, new Map([[supplyIdOf(purchase.number, line), changedTo(expectedDay, open)]]));
    await settleRipple(context, plan, change.decision, why, record);
  } else {
    await lockPools(trx, [{ item: line.item, warehouse: line.warehouse }]);
    await record();
  }
  if (purchase.state === 'sent') await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchaseId).execute();
  await touchPurchase(trx, purchaseId);
  const order =
    line.order_line_id === null ? null : await trx.selectFrom('order_line').select('order_id').where('id', '=', line.order_line_id).executeTakeFirstOrThrow();
  await recordEvent(context, {
    what: `purchase ${purchase.number} line ${line.line_no} (${line.item}) ${changes}`,
    why: change.note ?? '',
    before: { expectedDay: line.expected_day, open: line.open, cost: line.cost },
    after: { expectedDay, open, cost },
    subjects: [{ kind: 'purchase', key: purchaseId }, { kind: 'item', key: line.item }, ...(order ? [{ kind: 'order' as const, key: order.order_id }] : [])],
  });
  return readPurchase(trx, now, purchaseId);
}

/** A change of a line in words: `now due Tue 30 Mar, was Mon 15 Mar`. */
export function describe(
  line: { readonly expected_day: string; readonly open: string; readonly cost: string },
  { expectedDay: day, open, cost }: { readonly expectedDay: string; readonly open: string; readonly cost: string },
  today: string,
): string {
  return [
    ...(day === line.expected_day ? [] : [`now due ${shortDay(day, today)}, was ${shortDay(line.expected_day, today)}`]),
    ...(compareDecimal(open, line.open) === 0 ? [] : [`${open} to come, was ${line.open}`]),
    ...(compareDecimal(cost, line.cost) === 0 ? [] : [`${cost} each, was ${line.cost}`]),
  ].join(', ');
}

/** Whose promises would move if what is still awaited of a line is closed. */
export async function previewClose(db: Db, now: Now, purchaseId: number, lineId: number, accept: readonly number[]): Promise<SupplyRipple> {
  const { number, line } = await findLine(db, purchaseId, lineId);
  if (line.warehouse === null) return { availableDay: null, ripple: await viewDropRipple(db, now, [{ line, day: line.expected_day, open: '0' }]) };
  const plan = planOfSupply(await movingBook(db, now, [line.item]), new Map([[supplyIdOf(number, line), changedTo(undefined, '0')]]));
  return { availableDay: null, ripple: await viewRipple(db, plan, accept, now.today) };
}

async function findLine(db: Db, purchaseId: number, lineId: number) {
  const purchase = await db.selectFrom('purchase_order').select('number').where('id', '=', purchaseId).executeTakeFirst();
  const line = (await loadPurchaseLines(db, purchaseId)).find((row) => row.id === lineId);
  if (!purchase || !line) throw notFound(`line ${lineId} on purchase order ${purchaseId}`);
  return { number: purchase.number, line };
}

/** What is shipped to the customer is never more than they ordered: our stock could not take the rest. A day that stands may have passed. */
function checkWish(
  line: { readonly line_no: number; readonly warehouse: string | null; readonly open: string; readonly expected_day: string },
  wish: LineWish,
  { today }: Now,
  place: 'body' | 'query',
) {
  if (line.open === '0') throw new Refusal('conflict', `Nothing more is awaited of line ${line.line_no}.`);
  const day = wish.expectedDay ?? line.expected_day;
  if (day !== line.expected_day && day < today)
    throw invalid(place === 'body' ? 'body.expectedDay' : 'query.day', `${day} has passed; expected ${today} or later`);
  if (line.warehouse === null && wish.open !== undefined && compareDecimal(wish.open, line.open) > 0)
    throw invalid(`${place}.open`, `line ${line.line_no} is shipped to the customer, who ordered no more than the ${line.open} awaited; raise the order first`);
}
