import { HOLD_CLEARED_BY, type HoldView, type OrderView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { exposureOf, passesLimit, type CreditFacts } from '@nockwright/core/credit';
import { compareDecimal, divide, minus, plus, roundMoney, sum } from '@nockwright/core/money';
import { belowFloor, costOfOne, isCovered, perStockingUnit, type SoldAt } from '@nockwright/core/pricing';
import { promiseBook } from '@nockwright/core/promise';
import { unitName } from '@nockwright/core/units';
import type { Now } from '../clock';
import type { Db, Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { loadBook } from '../promise';
import { floorMargin } from './floor-margin';
import { loadHolds } from './load-holds';
import { loadLineFacts, type OrderLineRecord } from './load-order';
import { costOf, lineMoney } from './line-view';
import { lockDraft, orderLabel, touchOrder } from './lock-order';
import { readOrder } from './read-order';

type HoldKind = HoldView['kind'];

/** A line that is sold below the floor margin, at a price set by hand: what an approval covers, and who asked for it. */
interface BelowFloor extends SoldAt {
  readonly line: number;
  readonly askedBy: number | null;
  readonly reason: string;
}

/** What the customer would owe with the order. */
interface OverLimit {
  readonly total: string;
}

/** A reason to hold an order that nobody has let go yet. */
export interface NeededHold {
  readonly kind: HoldKind;
  readonly why: string;
  readonly facts: unknown;
}

/** What of an order is sold below the floor and not let go at such a price yet. */
export async function neededFloorHold(
  db: Db,
  now: Now,
  order: { readonly id: number; readonly currency: string },
  lines: readonly OrderLineRecord[],
): Promise<NeededHold | null> {
  const floor = await floorMargin(db);
  const byHand = lines.filter((line) => line.price_pin?.kind === 'manual');
  if (floor === null || byHand.length === 0) return null;
  // At the cost of the supply the goods would come from, as the margin is shown.
  const live = await loadBook(db, now, { items: [...new Set(lines.map((line) => line.item))], draft: order.id });
  const promiseOf = new Map(promiseBook(live.book).promises.map((promise) => [promise.id, promise]));
  const { routes } = await loadLineFacts(
    db,
    lines.map((line) => line.id),
  );
  const approved = (await loadHolds(db, order.id)).flatMap((hold) =>
    hold.kind === 'below_floor' && hold.cleared_at !== null ? (hold.facts as BelowFloor[]) : [],
  );
  const below = byHand.flatMap((line): { readonly line: OrderLineRecord; readonly sold: SoldAt }[] => {
    const { amount, cost } = lineMoney(
      line,
      routes.filter((route) => route.line_id === line.id),
      order.currency,
      costOf({ line, live, promiseOf }),
    );
    const quantity = minus(line.stock_quantity, line.cancelled);
    const sold = { unitPrice: perStockingUnit(line.price, line), quantity, unitCost: costOfOne(cost, quantity) };
    const covered = approved.some((row) => row.line === line.id && row.unitPrice !== undefined && isCovered(sold, row));
    return compareDecimal(quantity, '0') > 0 && belowFloor(amount, cost, floor) && !covered ? [{ line, sold }] : [];
  });
  if (below.length === 0) return null;
  return {
    kind: 'below_floor',
    why: `${below.map(({ line, sold }) => floorWords(line, sold)).join(', ')}: below the floor margin of ${floor} %`,
    facts: below.map(({ line, sold }): BelowFloor => ({
      line: line.id,
      ...sold,
      askedBy: line.price_set_by,
      reason: line.price_pin?.kind === 'manual' ? line.price_pin.reason : '',
    })),
  };
}

/** `line 1 (JAR): 240 each at 0.32, cost 0.31 each`. */
function floorWords(line: OrderLineRecord, { quantity, unitCost }: SoldAt): string {
  return `line ${line.line_no} (${line.item}): ${quantity} ${line.stock_unit} at ${line.price} ${unitName(line.unit)}, cost ${divide(unitCost, 1, 4)} each`;
}

/** Whether the order would take its customer over their limit, further than was let go already. */
export async function neededCreditHold(
  db: Db,
  order: { readonly id: number; readonly currency: string },
  lines: readonly OrderLineRecord[],
  credit: CreditFacts,
  today: string,
): Promise<NeededHold | null> {
  const amount = sum(lines.map((line) => lineMoney(line, [], order.currency).amount));
  if (!passesLimit(credit, amount)) return null;
  const total = plus(exposureOf(credit), amount);
  const approved = (await loadHolds(db, order.id)).flatMap((hold) =>
    hold.kind === 'credit' && hold.cleared_at !== null ? [(hold.facts as OverLimit).total] : [],
  );
  if (approved.some((most) => compareDecimal(total, most) <= 0)) return null;
  const money = (value: string) => roundMoney(value, order.currency);
  const late = credit.overdueSince === null ? '' : `; ${money(credit.overdue)} overdue since ${shortDay(credit.overdueSince, today)}`;
  return {
    kind: 'credit',
    why: `with this order they would owe ${money(total)}, their limit is ${money(credit.limit!)} (unpaid ${money(credit.unpaid)}, shipped and not billed ${money(credit.shippedNotBilled)}, open orders ${money(credit.openOrders)}${late})`,
    facts: { total } satisfies OverLimit,
  };
}

/** What a manager let go on a quote is let go on the order it led to. `copies`: from lines of the one to those of the other. */
export async function copyApprovals(trx: Trx, quoteId: number, orderId: number, copies: ReadonlyMap<number, number>): Promise<void> {
  for (const hold of await loadHolds(trx, quoteId)) {
    if (hold.kind !== 'below_floor' || hold.cleared_at === null) continue;
    const facts = (hold.facts as BelowFloor[]).flatMap((row) => (copies.has(row.line) ? [{ ...row, line: copies.get(row.line)! }] : []));
    if (facts.length === 0) continue;
    const { why, placed_at, placed_by, cleared_at, cleared_by, cleared_why } = hold;
    await trx
      .insertInto('order_hold')
      .values({ order_id: orderId, kind: 'below_floor', why, facts: JSON.stringify(facts), placed_at, placed_by, cleared_at, cleared_by, cleared_why })
      .execute();
  }
}

/** Takes back what an earlier try to release held and nobody has let go: it is judged anew. */
export async function forgetHolds({ trx }: CommandContext, orderId: number): Promise<void> {
  await trx.deleteFrom('order_hold').where('order_id', '=', orderId).where('kind', '<>', 'customer').where('cleared_at', 'is', null).execute();
}

/** Holds an order for these reasons; the ones of the same kind that were open are replaced. */
export async function placeHolds(context: CommandContext, orderId: number, needed: readonly NeededHold[]): Promise<void> {
  const { trx, now, user } = context;
  for (const { kind, why, facts } of needed) {
    await trx.deleteFrom('order_hold').where('order_id', '=', orderId).where('kind', '=', kind).where('cleared_at', 'is', null).execute();
    await trx
      .insertInto('order_hold')
      .values({ order_id: orderId, kind, why, facts: JSON.stringify(facts), placed_at: now.instant, placed_by: user.id })
      .execute();
  }
  await touchOrder(context, orderId);
  await recordEvent(context, {
    what: `held draft ${orderId}`,
    why: needed.map((hold) => hold.why).join('; '),
    subjects: [{ kind: 'order', key: orderId }],
  });
}

/** Holds a draft until the customer has answered. */
export async function holdOrder(context: CommandContext, orderId: number, version: number, why: string): Promise<OrderView> {
  await lockDraft(context.trx, orderId, version);
  await placeHolds(context, orderId, [{ kind: 'customer', why, facts: [] }]);
  return readOrder(context.trx, context.now, orderId);
}

/** Who asked, or set the price that is asked for, does not approve it. */
function checkAnother(hold: { readonly kind: HoldKind; readonly facts: unknown; readonly placed_by: number }, user: number): void {
  const asked = hold.kind === 'below_floor' ? (hold.facts as BelowFloor[]).map((row) => row.askedBy) : [];
  if (hold.placed_by === user || asked.includes(user)) throw new Refusal('not-allowed', 'You asked for this yourself: somebody else approves it.');
}

/** Lets a held order go, for a reason; it is released by the desk when it is in order otherwise. */
export async function clearHold(context: CommandContext, orderId: number, holdId: number, version: number, why: string): Promise<OrderView> {
  const { trx, now, user } = context;
  const order = await lockDraft(trx, orderId, version);
  const hold = (await loadHolds(trx, orderId)).find((row) => row.id === holdId);
  if (!hold) throw notFound(`hold ${holdId} of this order`);
  if (hold.cleared_at !== null) throw new Refusal('conflict', `${orderLabel(order)} was let go by ${hold.clearer} already.`);
  if (!HOLD_CLEARED_BY[hold.kind].includes(user.role))
    throw new Refusal('not-allowed', `This hold is cleared by ${HOLD_CLEARED_BY[hold.kind].join(' or ')}; you are logged in as ${user.role}.`);
  if (hold.kind !== 'customer') checkAnother(hold, user.id);
  await trx.updateTable('order_hold').set({ cleared_at: now.instant, cleared_by: user.id, cleared_why: why }).where('id', '=', holdId).execute();
  await touchOrder(context, orderId);
  await recordEvent(context, { what: `let ${orderLabel(order)} go: ${hold.why}`, why, subjects: [{ kind: 'order', key: orderId }] });
  return readOrder(trx, now, orderId);
}
