import type { ItemCode } from '../ids';
import { type Quantity, compareDecimal, minus, plus, sum, type Decimal } from '../money';
import { shortDay, type IsoDay } from '../calendar';

/** What is known of a draft when it is released, with all that it touches locked. */
export interface ReleaseFacts {
  readonly kind: 'order' | 'quote';
  readonly customer: { readonly name: string; readonly prospect: boolean };
  /** Whether a line stands at another price than is looked up for it, or the contract that must be named is not. */
  readonly otherPrices: boolean;
  /** Why the order waits for its customer; null: it does not. */
  readonly waitsFor: string | null;
  readonly lines: readonly ReleaseLine[];
  /** What the order is to be held for and nobody has let go: a price below the floor, the customer's limit. */
  readonly holds: number;
}

/** A line that is released. Quantities in stocking units. */
export interface ReleaseLine {
  readonly id: number;
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly stockQuantity: Quantity;
  readonly promised: readonly { readonly day: IsoDay; readonly quantity: Quantity }[];
  readonly uncovered: Quantity;
  /** How it is served that does not come from stock or known supply. */
  readonly routes: readonly { readonly kind: string; readonly quantity: Quantity }[];
}

/** What the coordinator saw of a line when they decided. */
export interface SeenLine {
  readonly line: number;
  readonly schedule: readonly { readonly day: IsoDay; readonly quantity: Quantity }[];
  readonly uncovered: Quantity;
}

/** A line whose promise is no longer what was seen, both in words. */
export interface ChangedLine {
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly saw: string;
  readonly now: string;
}

/** A line of which so much has no cover and no route. */
export interface UnroutedLine {
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly open: Quantity;
}

export type Release =
  | { readonly does: 'release' }
  /** It is held for somebody; nothing is promised. */
  | { readonly does: 'hold' }
  | { readonly does: 'refuse'; readonly why: string }
  | { readonly does: 'refuse_empty' }
  | { readonly does: 'tell_prices' }
  | { readonly does: 'tell_changes'; readonly lines: readonly ChangedLine[] }
  | { readonly does: 'ask_routes'; readonly lines: readonly UnroutedLine[] };

/**
 * Whether a draft is released. A quote, an order of a prospect, one without lines, at other prices than hold now, or that waits
 * for its customer is not; one that somebody has to let go is held; a promise that is no longer what was seen is told; what has
 * no cover needs a route.
 */
export function decideRelease(facts: ReleaseFacts, seen: readonly SeenLine[], today: IsoDay): Release {
  const { kind, customer, otherPrices, waitsFor, lines, holds } = facts;
  if (kind === 'quote') return { does: 'refuse', why: 'A quote is sent, and accepted by the customer; then its order is released.' };
  if (customer.prospect) return { does: 'refuse', why: `${customer.name} is a prospect: make them a customer first.` };
  if (lines.length === 0) return { does: 'refuse_empty' };
  if (otherPrices) return { does: 'tell_prices' };
  if (waitsFor !== null) return { does: 'refuse', why: `It waits for the customer: ${waitsFor}. Release the hold first.` };
  if (holds > 0) return { does: 'hold' };
  const changed = changedLines(lines, seen, today);
  if (changed.length > 0) return { does: 'tell_changes', lines: changed };
  const unrouted = lines.flatMap(({ lineNo, item, ...line }): UnroutedLine[] => {
    const open = unroutedOf(line);
    return compareDecimal(open, '0') > 0 ? [{ lineNo, item, open }] : [];
  });
  return unrouted.length > 0 ? { does: 'ask_routes', lines: unrouted } : { does: 'release' };
}

/** The lines whose promise is no longer what was seen. */
export function changedLines(
  lines: readonly Pick<ReleaseLine, 'id' | 'lineNo' | 'item' | 'promised' | 'uncovered'>[],
  seen: readonly SeenLine[],
  today: IsoDay,
): readonly ChangedLine[] {
  return lines.flatMap(({ id, lineNo, item, promised, uncovered }) => {
    const found = seen.find((row) => row.line === id);
    const saw = found ? promiseInWords(found.schedule, found.uncovered, today) : 'nothing';
    const now = promiseInWords(promised, uncovered, today);
    return saw === now ? [] : [{ lineNo, item, saw, now }];
  });
}

/** What of a line has no cover and no route. Waiting is a route too, where it is chosen. */
function unroutedOf({ stockQuantity, uncovered, routes }: Pick<ReleaseLine, 'stockQuantity' | 'uncovered' | 'routes'>): Decimal {
  const routed = (...kinds: readonly string[]) => sum(routes.filter((route) => kinds.includes(route.kind)).map((route) => route.quantity));
  // A line that must leave whole is short as a whole, what will be bought for it included.
  const brought = routed('special_order', 'transfer', 'assemble');
  const bought = compareDecimal(plus(uncovered, brought), stockQuantity) > 0 ? brought : '0';
  return minus(minus(uncovered, routed('backorder')), bought);
}

function promiseInWords(schedule: SeenLine['schedule'], uncovered: Quantity, today: IsoDay): string {
  const parts = schedule.map(({ day, quantity }) => `${quantity} on ${shortDay(day, today)}`);
  if (compareDecimal(uncovered, '0') > 0) parts.push(`${uncovered} backordered`);
  return parts.join(', ') || 'nothing from stock';
}
