import { type Amount, type Quantity, type UnitPrice, compareDecimal, minus, plus, sum, times, type Decimal } from '../money';
import { CARRIER_WEEK, daysLate, deliveryDay, type IsoDay } from '../calendar';
import type { Obligation } from './remark';
import type { Leaving, RoutePart } from './route';
import type { Shortage } from './shortage';

/** What a way does for a quantity: the part of a route it would be, and what is weighed of it. */
export interface Given {
  readonly part: RoutePart;
  /** Selling amount and landed cost in all, in the order's currency, not rounded. */
  readonly amount: Amount;
  readonly cost: UnitPrice;
  /** Whose house each consignment leaves, and when. */
  readonly consignments: readonly string[];
  readonly lateValueDays: number;
  readonly surplusCost: number;
  readonly cutValue: number;
  /** It can be chosen. */
  readonly possible: boolean;
}

/** A way there is, for any quantity up to what it has. */
export interface Way {
  /** Quantities at which what it gives changes: days, prices, the end of what there is. */
  readonly steps: readonly Decimal[];
  /** Quantities in which it deals; null: any. */
  readonly lot: Decimal | null;
  readonly most: Quantity | null;
  give(quantity: Quantity): Given;
}

export const COST_DECIMALS = 4;
export const NONE: readonly Obligation[] = [];

/** Remembers what was given: splits ask for the same quantities again and again. */
export function way(steps: readonly Decimal[], lot: Decimal | null, most: Quantity | null, give: (quantity: Quantity) => Given): Way {
  const known = new Map<Decimal, Given>();
  return {
    steps,
    lot,
    most,
    give: (quantity) => {
      let given = known.get(quantity);
      if (!given) known.set(quantity, (given = give(quantity)));
      return given;
    },
  };
}

export function given(shortage: Shortage, found: Found): Given {
  const { cost = times(found.quantity, found.unitCost), unitPrice = shortage.unitPrice, from = '', surplusCost = 0, barred = false, ...rest } = found;
  const isCut = found.kind === 'cut';
  const covered = compareDecimal(sum(found.leaves.map((leaving) => leaving.quantity)), found.quantity) === 0;
  const shipDay = covered && !isCut ? found.leaves[found.leaves.length - 1]!.day : null;
  const late = shipDay !== null && shipDay > shortage.requested;
  const value = Number(times(found.quantity, unitPrice));
  const asks = !isCut && found.kind !== 'substitute' && late && shortage.asksWhenLate === true;
  const part: RoutePart = {
    supplier: null,
    warehouse: null,
    item: null,
    buys: '0',
    more: '0',
    holds: 100,
    safeDay: shipDay,
    unbought: false,
    remarks: [],
    ...rest,
    shipDay,
    deliveryDay: shipDay === null ? null : deliveryDay(shipDay, shortage.transitDays, CARRIER_WEEK),
    obliges: [...(rest.obliges ?? NONE), ...(asks ? [{ kind: 'consent' as const, to: 'later' as const }] : NONE)],
  };
  return {
    part,
    amount: isCut ? '0' : times(found.quantity, unitPrice),
    cost: isCut ? '0' : cost,
    consignments: isCut ? [] : found.leaves.map((leaving) => `${from}/${leaving.day}`),
    lateValueDays: found.leaves.reduce((total, { day, quantity }) => total + daysLate(shortage.requested, day) * Number(quantity) * Number(unitPrice), 0),
    surplusCost,
    cutValue: isCut ? value : 0,
    possible: (isCut || covered) && !barred,
  };
}

/** The first so many of what comes by day. */
export function firstOf<L extends Leaving>(days: readonly L[], quantity: Quantity): L[] {
  const taken: L[] = [];
  let missing = quantity;
  for (const entry of days) {
    if (compareDecimal(missing, '0') <= 0) break;
    const part = compareDecimal(entry.quantity, missing) < 0 ? entry.quantity : missing;
    taken.push({ ...entry, quantity: part });
    missing = minus(missing, part);
  }
  return taken;
}

/** Running sums: the quantities at which another day begins. */
export function sumsOf(days: readonly Leaving[]): Decimal[] {
  let total = '0';
  return days.map((entry) => (total = plus(total, entry.quantity)));
}

export function least(left: Decimal, right: Decimal): Decimal {
  return compareDecimal(left, right) <= 0 ? left : right;
}

export function byDay(leaves: readonly Leaving[]): Leaving[] {
  const days = new Map<IsoDay, Decimal>();
  for (const { day, quantity } of leaves) days.set(day, plus(days.get(day) ?? '0', quantity));
  return [...days].sort(([a], [b]) => (a < b ? -1 : 1)).map(([day, quantity]) => ({ day, quantity }));
}

export type Found = Pick<RoutePart, 'kind' | 'label' | 'quantity' | 'leaves' | 'unitCost'> &
  Partial<Omit<RoutePart, 'kind' | 'label' | 'quantity' | 'leaves' | 'unitCost'>> & {
    /** Landed cost in all, where it is not quantity × unit cost. */
    readonly cost?: UnitPrice;
    readonly unitPrice?: UnitPrice;
    /** Whose house it leaves; ours where not said. */
    readonly from?: string;
    readonly surplusCost?: number;
    /** Not possible, though a day may be known. */
    readonly barred?: boolean;
  };
