import type { ItemCode, LineId } from '@nockwright/core/ids';
import { type DemandInfo, type LiveBook } from '@nockwright/core/book';
import type { Decision, Mover, PromisePart, RippleView } from '@nockwright/contract/promise';
import { compareDecimal, divide, lineAmount, times } from '@nockwright/core/money';
import { decimal, ripple, sayChange, withChanged, type Moved, type OrderBook, type Ripple } from '@nockwright/core/promise';
import { anyOf, type Db } from '../database';
import { invalid } from '../http/refusal';

import { mapInTurns } from '../work';
import { toldParts } from './told-parts';

/** A change that may move promises: the book before and after it, and the demands that take their turn anew. */
export interface RipplePlan {
  readonly live: LiveBook;
  readonly after: OrderBook;
  readonly claims?: ReadonlySet<string>;
  /** The order that is changed, where it is one. */
  readonly order?: number;
}

/** What a change does, with the offers that are taken done. */
export function rippleOf({ live, after, claims }: RipplePlan, accept: readonly number[]): Ripple {
  const accepted = new Set(accept.flatMap((line) => live.demandOfLine.get(line) ?? []));
  return ripple(live.book, after, claims, accepted);
}

/** The same in words: whose promises move, how far, what it is worth and what to say to each. */
export async function viewRipple(db: Db, plan: RipplePlan, accept: readonly number[], today: string): Promise<RippleView> {
  const { later, earlier, offers } = rippleOf(plan, accept);
  const describe = await describer(db, plan, [...later, ...earlier, ...offers], today);
  const views = later.map(describe);
  // Worst first: no supply at all, then the most days, then the most money.
  views.sort((a, b) => (b.days ?? Infinity) - (a.days ?? Infinity) || compareDecimal(b.value, a.value));
  return { later: views, earlier: earlier.map(describe), offers: offers.filter((row) => !isAccepted(plan, row, accept)).map(describe) };
}

/** Moves in words, in the order given. */
export async function describeMoved(db: Db, plan: RipplePlan, rows: readonly Moved[], today: string): Promise<Mover[]> {
  return mapInTurns(rows, await describer(db, plan, rows, today));
}

/** Line ids as a query carries them: `12,15`. */
export function readAccepted(text: string | undefined): number[] {
  if (!text) return [];
  const ids = text.split(',').map(Number);
  if (ids.some((id) => !Number.isInteger(id) || id < 1 || id > 2_147_483_647))
    throw invalid('query.accept', `expected line ids with commas between, got ${text.slice(0, 80)}`);
  return ids;
}

/** What was decided, in the shape of the ripple that was seen. */
export function decisionOf(view: RippleView, accept: readonly number[] = []): Decision {
  return { seen: [...view.later, ...view.earlier].map(({ line, after }) => ({ line, after })), accept };
}

export function partsOf(parts: Moved['after']): PromisePart[] {
  return parts.map(({ day, quantity }) => ({ day, quantity: decimal(quantity) }));
}

function isAccepted({ live }: RipplePlan, row: Moved, accept: readonly number[]): boolean {
  return accept.includes(live.demands.get(row.id)!.lineId);
}

async function describer(db: Db, { live, order }: RipplePlan, rows: readonly Moved[], today: string): Promise<(row: Moved) => Mover> {
  const infoOf = (row: Moved) => live.demands.get(row.id)!;
  const describe = await describeLines(
    db,
    rows.map((row) => infoOf(row).lineId),
    today,
  );
  const toldById = new Map(live.book.demand.map((demand) => [demand.id, (demand.promised ?? []).length > 0]));
  return (row) => describe(infoOf(row), row, { own: infoOf(row).orderId === order, told: toldById.get(row.id) ?? row.before.length > 0 });
}

type Describe = (info: Omit<DemandInfo, 'warehouse'>, row: Moved, flags: { readonly own: boolean; readonly told: boolean }) => Mover;

/** Says moves of some lines in words: whose they are, what they are worth and what to say to each. */
export async function describeLines(db: Db, lineIds: readonly number[], today: string): Promise<Describe> {
  const [lines, holding, calls] = await Promise.all([
    db
      .selectFrom('order_line')
      .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
      .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
      .select([
        'order_line.id',
        'customer.name',
        'customer.phone',
        'order_line.price',
        'order_line.numerator',
        'order_line.denominator',
        'sales_order.currency',
      ])
      .where(anyOf('order_line.id', lineIds))
      .execute(),
    toldParts(db, lineIds),
    db.selectFrom('customer_call').select(['line_id', 'told']).where('done_at', 'is', null).where(anyOf('line_id', lineIds)).execute(),
  ]);
  const byId = new Map(lines.map((line) => [line.id, line]));
  // Where a call is still to be made, the customer knows what that one says they were told, and nothing since.
  const open = new Map(calls.map((call) => [call.line_id, call.told]));
  const say = (row: Moved, { lineId, item }: { readonly lineId: LineId; readonly item: ItemCode }, told: boolean) => {
    const [before, after] = [partsOf(row.before), partsOf(row.after)];
    const holds = holding.get(lineId);
    return told && holds ? sayChange(open.get(lineId) ?? holds, withChanged(holds, before, after), item, today) : sayChange(before, after, item, today);
  };
  return (info, row, { own, told }) => {
    const line = byId.get(info.lineId)!;
    return {
      line: info.lineId,
      order: info.orderId,
      number: info.orderNumber,
      lineNo: info.lineNo,
      customer: line.name,
      phone: line.phone,
      item: info.item,
      moves: row.moves.map((move) => ({ ...move, quantity: decimal(move.quantity) })),
      quantity: decimal(row.quantity),
      from: row.from,
      to: row.to,
      days: row.days,
      before: partsOf(row.before),
      after: partsOf(row.after),
      value: lineAmount(decimal(row.quantity), divide(times(line.price, line.denominator), line.numerator, 6), line.currency),
      own,
      told,
      instead: row.instead ?? false,
      say: say(row, info, told),
    };
  };
}
