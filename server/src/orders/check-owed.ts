import { passesLimit, type CreditFacts } from '@nockwright/core/credit';
import { compareDecimal, minus, roundMoney, sum } from '@nockwright/core/money';
import type { SoldAt } from '@nockwright/core/pricing';
import { lockCredits } from '../customers';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { floorMargin } from './floor-margin';
import { approvalsOf, creditHoldOf, floorHoldOf, soldByHand, type NeededHold } from './holds';
import { mayApprove, storeApproval } from './store-holds';
import { loadHolds } from './load-holds';
import { linesOfOrders, type OrderLineRecord } from './load-order';
import { lineMoney } from './line-view';

interface OwedOrder {
  readonly id: number;
  readonly number: string | null;
  readonly customer: number;
  readonly currency: string;
  readonly worth: string;
}

/** What customers owe for released orders, and what lines at a price set by hand are sold for, before an act. */
export interface OwedBefore {
  readonly orders: readonly OwedOrder[];
  readonly credit: ReadonlyMap<number, CreditFacts>;
  readonly sold: ReadonlyMap<number, SoldAt>;
}

/** An order that an act would take over a limit, or lines of it below the floor. */
interface OwedFault {
  readonly order: OwedOrder;
  readonly hold: NeededHold;
  readonly why: string;
}

/**
 * How released orders stand before an act that may raise what their customers owe or lower a margin. Locks the credit of the
 * customers, in the sequence of their numbers; comes after the orders, before contracts and pools.
 */
export async function owedBefore({ trx, now }: CommandContext, orderIds: readonly number[]): Promise<OwedBefore> {
  const rows = await trx
    .selectFrom('sales_order')
    .select(['id', 'number', 'customer_id as customer', 'currency'])
    .where(anyOf('id', [...new Set(orderIds)]))
    .where('state', '=', 'released')
    .orderBy('id')
    .execute();
  const credit = await lockCredits(trx, [...new Set(rows.map((row) => row.customer))], now.today);
  const lines = await linesOfOrders(
    trx,
    rows.map((row) => row.id),
  );
  const sold = rows.length === 0 ? [] : await soldByHand(trx, now, lines, rows[0]!.currency);
  return {
    orders: rows.map((row) => ({ ...row, worth: worthOf(lines, row) })),
    credit,
    sold: new Map(sold.map((row) => [row.line.id, row.sold])),
  };
}

/** What the act has made of it that somebody else has to approve. Its changes are in the database. */
export async function owedFaults({ trx, now }: CommandContext, before: OwedBefore): Promise<OwedFault[]> {
  if (before.orders.length === 0) return [];
  const ids = before.orders.map((order) => order.id);
  const lines = await linesOfOrders(trx, ids);
  const faults: OwedFault[] = [];
  const more = new Map<number, string>();
  for (const order of before.orders) {
    const grown = minus(worthOf(lines, order), order.worth);
    if (compareDecimal(grown, '0') <= 0) continue;
    more.set(order.customer, sum([more.get(order.customer) ?? '0', grown]));
    const credit = before.credit.get(order.customer)!;
    if (!passesLimit(credit, more.get(order.customer)!)) continue;
    const after = { ...credit, openOrders: sum([credit.openOrders, more.get(order.customer)!]) };
    const hold = creditHoldOf(order, [], after, await loadHolds(trx, order.id), now.today);
    if (hold) faults.push({ order, hold, why: `It would be ${roundMoney(grown, order.currency)} more: ${hold.why}. Finance decides` });
  }
  const worse = (await soldByHand(trx, now, lines, before.orders[0]!.currency)).filter(
    ({ line, sold, below }) => below && isWorse(sold, before.sold.get(line.id)),
  );
  if (worse.length > 0) {
    const approved = await approvalsOf(trx, ids);
    const floor = await floorMargin(trx);
    for (const order of before.orders) {
      const own = worse.filter(({ line }) => line.order_id === order.id);
      const hold = floorHoldOf(own, approved, floor);
      if (hold) faults.push({ order, hold, why: `${hold.why}. Nobody has approved that` });
    }
  }
  return faults;
}

/**
 * Refuses an act on released orders that takes a customer over their limit, or sells below the floor what nobody has approved
 * so. Who may approve it does it by themselves; that is kept as their approval.
 */
export async function checkOwed(context: CommandContext, before: OwedBefore): Promise<void> {
  const open = await letGo(context, await owedFaults(context, before));
  if (open.length > 0) throw new Refusal('conflict', `${open.map((fault) => fault.why).join('; ')}: enter it as an order of its own, which is held.`);
}

/** Keeps as approved what this user may approve, and gives the rest. */
export async function letGo(context: CommandContext, faults: readonly OwedFault[]): Promise<OwedFault[]> {
  const open = faults.filter(({ hold }) => !mayApprove(hold, context.user));
  if (open.length > 0) return open;
  for (const { order, hold } of faults) await storeApproval(context, order.id, hold, `done by ${context.user.name}`);
  return [];
}

function isWorse(now: SoldAt, before: SoldAt | undefined): boolean {
  return (
    !before ||
    compareDecimal(now.unitPrice, before.unitPrice) < 0 ||
    compareDecimal(now.quantity, before.quantity) > 0 ||
    compareDecimal(now.unitCost, before.unitCost) > 0
  );
}

function worthOf(lines: readonly OrderLineRecord[], order: { readonly id: number; readonly currency: string }): string {
  return sum(lines.filter((line) => line.order_id === order.id).map((line) => lineMoney(line, [], order.currency).amount));
}
