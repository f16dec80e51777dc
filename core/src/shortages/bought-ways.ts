import { type Amount, type Decimal, minus, compareDecimal, plus, lineAmount, times, divide } from '../money';
import { daysBetween, isoDay, dayNumber, leavesAgain, calendarOf, type IsoDay } from '../calendar';
import { USUALLY_SURE } from '../orders';
import { CARRIER_DOCK, safeDay as safeDayOf, type Dock } from '../supply';
import type { Obligation, Remark } from './remark';
import type { Shortage } from './shortage';
import {
  type Joined,
  type MoreForLess,
  type SupplierOffer,
  costFor,
  freightShare,
  join,
  moreForLess,
  purchaseQuantity,
  supplierArrival,
  supplierShipDay,
} from './supplier-terms';
import { given, COST_DECIMALS, least, NONE, type Way, way } from './way';

/** When goods ordered now leave our house again, as surely as is asked, and how often that day holds. */
export function arrival({ now, warehouse, confidence = null }: Shortage, offer: SupplierOffer) {
  const expected = supplierArrival(now, offer);
  const today = now.slice(0, 10);
  const waited = daysBetween(expected, today);
  const late = confidence === null ? 0 : Math.max(0, offer.odds?.daysFor(confidence, waited) ?? 0);
  const counted = late === 0 ? expected : isoDay(dayNumber(expected) + late);
  const day = leavesAgain(counted, warehouse);
  const dock = { calendar: calendarOf(warehouse), receivingDays: warehouse.receivingDays };
  return { expected, day, ...sureOf(offer, expected, day, dock, today, confidence) };
}

/** How often a day holds that rests on this supplier, and the day from it on that holds as often as is asked. */
function sureOf(offer: SupplierOffer, expected: IsoDay, day: IsoDay, dock: Dock, today: IsoDay, confidence: number | null) {
  if (!offer.odds) return { holds: 100, safeDay: day };
  const { holds, safe } = safeDayOf([{ expected, odds: offer.odds }], day, dock, today, confidence ?? USUALLY_SURE / 100);
  return { holds: Math.round(holds * 100), safeDay: safe };
}

export function stepsOf({ minimum, breaks = [], draft }: SupplierOffer): Decimal[] {
  const spare = draft ? minus(draft.bought, draft.needed) : '0';
  return [minimum, ...breaks.map((step) => step.from), ...(compareDecimal(spare, '0') > 0 ? [spare] : [])];
}

export function belowMinimum({ minimumValue = '0', name }: SupplierOffer, value: Amount, sofar: Decimal, currency: string): readonly Obligation[] {
  const comes = plus(value, sofar);
  if (compareDecimal(comes, minimumValue) >= 0) return NONE;
  return [{ kind: 'below_minimum', supplier: name, minimum: minimumValue, comes: lineAmount('1', comes, currency) }];
}

export function notReturnable({ returnable = true, name }: SupplierOffer): readonly Obligation[] {
  return returnable ? NONE : [{ kind: 'not_returnable', supplier: name }];
}

/** Why an order of today comes no sooner. */
export function owing({ notBefore, name }: SupplierOffer, day: IsoDay): readonly Remark[] {
  return notBefore === day ? [{ kind: 'owed_before', supplier: name }] : [];
}

/** The draft it joins, and its share of the freight. */
function joining({ draft }: SupplierOffer, freight: Decimal, { currency }: Shortage): readonly Remark[] {
  return [
    ...(draft ? [{ kind: 'joins', draft: draft.number } as const] : []),
    ...(compareDecimal(freight, '0') > 0 ? [{ kind: 'freight', amount: lineAmount('1', freight, currency) } as const] : []),
  ];
}

/** What is bought with it and nobody needs, at what it costs. */
export function surplusCostOf({ buys, unitCost, surplus }: Joined): number {
  return compareDecimal(surplus, '0') > 0 && compareDecimal(buys, '0') > 0 ? Number(times(least(surplus, buys), unitCost)) : 0;
}

/** Bought for this line: the purchase order line is bound to it. */
export function specialOrder(shortage: Shortage, offer: SupplierOffer): Way {
  const { expected, day, holds, safeDay } = arrival(shortage, offer);
  return way(stepsOf(offer), null, null, (quantity) => {
    const bought = join(quantity, offer);
    const { buys, unitCost, freight, surplus } = bought;
    const cost = plus(times(quantity, unitCost), freight);
    const left = compareDecimal(surplus, '0') > 0 && compareDecimal(buys, '0') > 0;
    const remarks: readonly Remark[] = [{ kind: 'due', day: expected, bound: true }, ...owing(offer, expected), ...joining(offer, freight, shortage)];
    return given(shortage, {
      kind: 'special_order',
      supplier: offer.supplier,
      label: `Special order from ${offer.name}`,
      quantity,
      buys,
      leaves: [{ day, quantity }],
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      safeDay,
      surplusCost: surplusCostOf(bought),
      obliges: [
        ...(left ? [{ kind: 'surplus' as const, buys, surplus, wanted: false }] : NONE),
        ...belowMinimum(offer, times(buys, unitCost), offer.draft?.value ?? '0', shortage.currency),
        ...notReturnable(offer),
      ],
      remarks,
    });
  });
}

export function orderMore(shortage: Shortage, offer: SupplierOffer, { more, whole, without }: MoreForLess): Way {
  const { expected, day, holds, safeDay } = arrival(shortage, offer);
  const money = (value: Amount) => lineAmount('1', value, shortage.currency);
  return way([], null, null, (quantity) => {
    const { buys, unitCost } = join(plus(quantity, more), offer);
    const freight = freightShare(quantity, buys, unitCost, offer);
    const cost = plus(times(quantity, unitCost), freight);
    return given(shortage, {
      kind: 'special_order',
      supplier: offer.supplier,
      label: `Special order from ${offer.name}, ${more} more for stock`,
      quantity,
      buys,
      more,
      leaves: [{ day, quantity }],
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      safeDay,
      obliges: [
        { kind: 'surplus' as const, buys, surplus: more, wanted: true },
        ...belowMinimum(offer, times(buys, unitCost), offer.draft?.value ?? '0', shortage.currency),
        ...notReturnable(offer),
      ],
      remarks: [
        { kind: 'more_for_less', whole: money(whole), without: money(without), more },
        { kind: 'due', day: expected, bound: true },
        ...owing(offer, expected),
        ...joining(offer, freight, shortage),
      ],
    });
  });
}

/**
 * Bought for this line, and more of it for stock: up to a break, or to free freight, where the whole purchase comes to less so.
 * It is for the whole of a shortage, not for a part of it: what is shared out is bought as needed.
 */
export function moreForLessOrders(shortage: Shortage): Way[] {
  return shortage.offers.flatMap((offer) => {
    const found = moreForLess(shortage.quantity, offer);
    return found === null ? [] : [orderMore(shortage, offer, found)];
  });
}

/** The supplier sends it to the customer: it never touches our stock. */
export function dropShip(shortage: Shortage, offer: SupplierOffer): Way {
  const leaves = supplierShipDay(shortage.now, offer);
  const { holds, safeDay } = sureOf(offer, leaves, leaves, CARRIER_DOCK, shortage.now.slice(0, 10), shortage.confidence ?? null);
  return way(stepsOf(offer), offer.multiple, null, (quantity) => {
    const exact = compareDecimal(purchaseQuantity(quantity, offer), quantity) === 0;
    const buyCost = costFor(quantity, offer);
    const cost = plus(times(quantity, buyCost), offer.dropShipFee);
    return given(shortage, {
      kind: 'drop_ship',
      supplier: offer.supplier,
      label: `Drop ship from ${offer.name}`,
      quantity,
      buys: quantity,
      leaves: [{ day: leaves, quantity }],
      barred: !exact,
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      safeDay,
      from: offer.supplier,
      obliges: [...belowMinimum(offer, times(quantity, buyCost), '0', shortage.currency), ...notReturnable(offer)],
      remarks: [
        { kind: 'not_our_stock' },
        ...owing(offer, leaves),
        ...(exact ? [] : [{ kind: 'lots', supplier: offer.name, minimum: offer.minimum, multiple: offer.multiple } as const]),
      ],
    });
  });
}
