import type { OrderId } from '@nockwright/core/ids';
import { type LiveBook } from '@nockwright/core/book';
import { type HoldView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { exposureOf, passesLimit, type CreditFacts } from '@nockwright/core/credit';
import { compareDecimal, divide, minus, plus, priceInWords, roundMoney, sum } from '@nockwright/core/money';
import { belowFloor, costOfOne, isCovered, perStockingUnit, type SoldAt } from '@nockwright/core/pricing';
import { promiseBook, type DemandPromise } from '@nockwright/core/promise';
import { unitName } from '@nockwright/core/units';
import type { Now } from '../clock';
import { anyOf, type Db, type Trx } from '../database';
import { loadBook } from '../promise';
import { floorMargin } from './floor-margin';
import { loadHolds } from './load-holds';
import { loadLineFacts, type LineFacts, type OrderLineRecord } from './load-order';
import { costOf, lineMoney } from './line-view';

type HoldKind = HoldView['kind'];

/** A line that is sold below the floor margin, at a price set by hand: what an approval covers, and who asked for it. */
export interface BelowFloor extends SoldAt {
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

/** A line at a price set by hand, and what it is sold for and costs. */
export interface SoldLine {
  readonly line: OrderLineRecord;
  readonly sold: SoldAt;
  readonly below: boolean;
}

/** What lines are judged by whose price was set by hand. */
interface JudgedBy {
  /** The least margin, in percent; null: any. */
  readonly floor: string | null;
  readonly live: LiveBook;
  readonly promiseOf: ReadonlyMap<string, DemandPromise>;
  readonly routes: LineFacts['routes'];
  readonly currency: string;
}

/**
 * The lines among these whose price was set by hand, at the cost of the supply their goods come from, as the margin is shown.
 * None where no floor is set.
 */
export function judgeByHand(lines: readonly OrderLineRecord[], { floor, live, promiseOf, routes, currency }: JudgedBy): SoldLine[] {
  if (floor === null) return [];
  return lines.filter(isByHand).map((line) => {
    const { amount, cost } = lineMoney(
      line,
      routes.filter((route) => route.line_id === line.id),
      currency,
      costOf({ line, live, promiseOf }),
    );
    const quantity = minus(line.stock_quantity, line.cancelled);
    return {
      line,
      sold: { unitPrice: perStockingUnit(line.price, line), quantity, unitCost: costOfOne(cost, quantity) },
      below: compareDecimal(quantity, '0') > 0 && belowFloor(amount, cost, floor),
    };
  });
}

/** The same with what it takes, of lines of one draft (`draft`), or of released orders. */
export async function soldByHand(db: Db, now: Now, lines: readonly OrderLineRecord[], currency: string, draft?: number): Promise<SoldLine[]> {
  const floor = await floorMargin(db);
  const byHand = lines.filter(isByHand);
  if (floor === null || byHand.length === 0) return [];
  const live = await loadBook(db, now, { items: [...new Set(lines.map((line) => line.item))], ...(draft === undefined ? {} : { draft }) });
  const promiseOf = new Map(promiseBook(live.book).promises.map((promise) => [promise.id, promise]));
  const { routes } = await loadLineFacts(
    db,
    byHand.map((line) => line.id),
  );
  return judgeByHand(byHand, { floor, live, promiseOf, routes, currency });
}

function isByHand(line: OrderLineRecord): boolean {
  return line.price_pin?.kind === 'manual';
}

type HoldRecord = Awaited<ReturnType<typeof loadHolds>>[number];

/** What a manager let go, by these holds. */
export function approvalsIn(holds: readonly Pick<HoldRecord, 'kind' | 'cleared_at' | 'facts'>[]): readonly BelowFloor[] {
  return holds.flatMap((hold) => (hold.kind === 'below_floor' && hold.cleared_at !== null ? (hold.facts as BelowFloor[]) : []));
}

/** What a manager let go, of these orders. */
export async function approvalsOf(db: Db, orders: readonly number[]): Promise<readonly BelowFloor[]> {
  return approvalsIn(await db.selectFrom('order_hold').select(['kind', 'cleared_at', 'facts']).where(anyOf('order_id', orders)).execute());
}

/** The hold that lines sold below the floor need; null where there are none, or they are approved so. */
export function floorHoldOf(sold: readonly SoldLine[], approved: readonly BelowFloor[], floor: string | null): NeededHold | null {
  const open = sold.filter(
    ({ line, sold: at, below }) => below && !approved.some((row) => row.line === line.id && row.unitPrice !== undefined && isCovered(at, row)),
  );
  if (open.length === 0) return null;
  return {
    kind: 'below_floor',
    why: `${open.map(({ line, sold: at }) => floorWords(line, at)).join(', ')}: below the floor margin of ${floor} %`,
    facts: open.map(({ line, sold: at }): BelowFloor => ({
      line: line.id,
      ...at,
      askedBy: line.price_set_by,
      reason: line.price_pin?.kind === 'manual' ? line.price_pin.reason : '',
    })),
  };
}

/** What of a quote is sold below the floor and not let go at such a price yet. */
export async function neededFloorHold(
  db: Db,
  now: Now,
  order: { readonly id: number; readonly currency: string },
  lines: readonly OrderLineRecord[],
): Promise<NeededHold | null> {
  return floorHoldOf(await soldByHand(db, now, lines, order.currency, order.id), await approvalsOf(db, [order.id]), await floorMargin(db));
}

/** `line 1 (JAR): 240 each at 0.32, cost 0.31 each`. */
function floorWords(line: OrderLineRecord, { quantity, unitCost }: SoldAt): string {
  const goods = `${quantity} ${unitName(line.stock_unit, quantity)}`;
  return `line ${line.line_no} (${line.item}): ${goods} at ${forOne(line.price, line.unit)}, cost ${forOne(divide(unitCost, 1, 4), line.stock_unit)}`;
}

/** `0.32 each`, `10.70 a tray`. */
function forOne(price: string, unit: string): string {
  const name = unitName(unit);
  return `${priceInWords(price)} ${name === 'each' ? name : `a ${name}`}`;
}

/** The hold that an order needs which would take its customer over their limit, further than was let go already; null where it does not. */
export function creditHoldOf(
  order: { readonly currency: string },
  lines: readonly OrderLineRecord[],
  credit: CreditFacts,
  holds: readonly Pick<HoldRecord, 'kind' | 'cleared_at' | 'facts'>[],
  today: string,
): NeededHold | null {
  const amount = sum(lines.map((line) => lineMoney(line, [], order.currency).amount));
  if (!passesLimit(credit, amount)) return null;
  const total = plus(exposureOf(credit), amount);
  const approved = holds.flatMap((hold) => (hold.kind === 'credit' && hold.cleared_at !== null ? [(hold.facts as OverLimit).total] : []));
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
export async function copyApprovals(trx: Trx, quoteId: OrderId, orderId: OrderId, copies: ReadonlyMap<number, number>): Promise<void> {
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
