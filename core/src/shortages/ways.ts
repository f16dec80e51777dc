import { calendarOf, CARRIER_WEEK, dayNumber, daysBetween, daysLate, deliveryDay, isoDay, type IsoDay, leavesAgain, shortDay } from '../calendar';
import { compareDecimal, divide, lineAmount, minus, plus, sum, times, type Decimal } from '../money';
import { daysToSpare } from '../supply';
import { priceInstead, sentInstead } from './instead';
import type { Leaving, Obligation, RoutePart } from './route';
import type { AssemblyOffer, Shortage, SubstituteOffer, TransferOffer } from './shortage';
import {
  costFor,
  freightShare,
  join,
  type Joined,
  moreForLess,
  type MoreForLess,
  purchaseQuantity,
  supplierArrival,
  type SupplierOffer,
  supplierShipDay,
} from './supplier-terms';

/** What a way does for a quantity: the part of a route it would be, and what is weighed of it. */
export interface Given {
  readonly part: RoutePart;
  /** Selling amount and landed cost in all, in the order's currency, not rounded. */
  readonly amount: Decimal;
  readonly cost: Decimal;
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
  readonly most: Decimal | null;
  give(quantity: Decimal): Given;
}

const COST_DECIMALS = 4;
const NONE: readonly Obligation[] = [];

/** Every way there is for a shortage; see the kinds of a route. */
export function waysFor(shortage: Shortage): Way[] {
  const { offers, transfers = [], substitutes = [], assembly = null, mayWait = true } = shortage;
  return [
    ...(mayWait ? [backorder(shortage)] : []),
    ...offers.map((offer) => specialOrder(shortage, offer)),
    ...offers.filter((offer) => offer.dropShips).map((offer) => dropShip(shortage, offer)),
    ...transfers.map((offer) => transfer(shortage, offer)),
    ...(assembly ? [assemble(shortage, assembly)] : []),
    ...substitutes.map((offer) => substitute(shortage, offer)),
    cut(shortage),
  ];
}

/** Remembers what was given: splits ask for the same quantities again and again. */
function way(steps: readonly Decimal[], lot: Decimal | null, most: Decimal | null, give: (quantity: Decimal) => Given): Way {
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

type Found = Pick<RoutePart, 'kind' | 'label' | 'quantity' | 'leaves' | 'unitCost'> &
  Partial<Omit<RoutePart, 'kind' | 'label' | 'quantity' | 'leaves' | 'unitCost'>> & {
    /** Landed cost in all, where it is not quantity × unit cost. */
    readonly cost?: Decimal;
    readonly unitPrice?: Decimal;
    /** Whose house it leaves; ours where not said. */
    readonly from?: string;
    readonly surplusCost?: number;
    /** Not possible, though a day may be known. */
    readonly barred?: boolean;
  };

function given(shortage: Shortage, found: Found): Given {
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
    unbought: false,
    remarks: [],
    ...rest,
    shipDay,
    deliveryDay: shipDay === null ? null : deliveryDay(shipDay, shortage.transitDays, CARRIER_WEEK),
    obliges: [...(rest.obliges ?? NONE), ...(asks ? [{ kind: 'consent' as const, words: 'the customer must agree to the later day' }] : NONE)],
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
function firstOf<L extends Leaving>(days: readonly L[], quantity: Decimal): L[] {
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
function sumsOf(days: readonly Leaving[]): Decimal[] {
  let total = '0';
  return days.map((entry) => (total = plus(total, entry.quantity)));
}

/** On the day known supply comes, and for what it never gives on the day of the next purchase. */
function backorder(shortage: Shortage): Way {
  const { inbound } = shortage;
  const next = nextPurchase(shortage);
  return way(sumsOf(inbound.days), null, null, (quantity) => {
    const known = firstOf(inbound.days, quantity);
    const covered = sum(known.map((entry) => entry.quantity));
    const rest = minus(quantity, covered);
    const waits = compareDecimal(rest, '0') > 0;
    const leaves: Leaving[] = known.map(({ day, quantity: part }) => ({ day, quantity: part }));
    const remarks: string[] = [];
    // What waits is bought as a purchase of its own would be: its minimum, its lots and its freight are no cheaper for waiting.
    const bought = waits && next ? join(rest, next.offer) : null;
    if (bought && next) {
      leaves.push({ day: next.day, quantity: rest });
      remarks.push(`${rest} wait for the next purchase: no day is promised until it is bought`);
      remarks.push(`${shortDay(next.day, shortage.now.slice(0, 10))} holds if ${next.offer.name} is ordered from today`);
      if (compareDecimal(bought.surplus, '0') > 0 && compareDecimal(bought.buys, '0') > 0)
        remarks.push(`that buys ${bought.buys}: ${bought.surplus} more than needed`);
      if (compareDecimal(bought.freight, '0') > 0) remarks.push(`freight ${lineAmount('1', bought.freight, shortage.currency)}`);
    } else if (waits) remarks.push(`${rest} have no supply and no supplier: no day can be given`);
    else remarks.push('known supply covers it');
    const holds = Math.min(100, ...known.map((entry) => entry.holds ?? 100), ...(waits && next ? [next.holds] : []));
    // No cost of its own: it is what is due costs, or stock, or the next purchase.
    const due = sum(known.map((entry) => times(entry.quantity, entry.unitCost ?? shortage.unitCost)));
    const cost = plus(due, bought ? plus(times(rest, bought.unitCost), bought.freight) : times(rest, shortage.unitCost));
    return given(shortage, {
      kind: 'backorder',
      label: waits ? 'wait for the next purchase' : 'wait for what is due',
      quantity,
      leaves: byDay(leaves),
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      unbought: waits,
      surplusCost: bought ? surplusCostOf(bought) : 0,
      remarks,
    });
  });
}

/** The supplier who would bring it soonest, the cheapest of these. */
function nextPurchase(shortage: Shortage) {
  let best: { readonly offer: SupplierOffer; readonly day: IsoDay; readonly holds: number; readonly cost: Decimal } | null = null;
  for (const offer of shortage.offers) {
    const { day, holds } = arrival(shortage, offer);
    const cost = costFor(purchaseQuantity(shortage.quantity, offer), offer);
    if (!best || day < best.day || (day === best.day && compareDecimal(cost, best.cost) < 0)) best = { offer, day, holds, cost };
  }
  return best;
}

function byDay(leaves: readonly Leaving[]): Leaving[] {
  const days = new Map<IsoDay, Decimal>();
  for (const { day, quantity } of leaves) days.set(day, plus(days.get(day) ?? '0', quantity));
  return [...days].sort(([a], [b]) => (a < b ? -1 : 1)).map(([day, quantity]) => ({ day, quantity }));
}

/** When goods ordered now leave our house again, as surely as is asked, and how often that day holds. */
function arrival({ now, warehouse, confidence = null }: Shortage, offer: SupplierOffer) {
  const expected = supplierArrival(now, offer);
  const today = now.slice(0, 10);
  const waited = daysBetween(expected, today);
  const late = confidence === null ? 0 : Math.max(0, offer.odds?.daysFor(confidence, waited) ?? 0);
  const counted = late === 0 ? expected : isoDay(dayNumber(expected) + late);
  const day = leavesAgain(counted, warehouse);
  const dock = { calendar: calendarOf(warehouse), receivingDays: warehouse.receivingDays };
  const holds = offer.odds ? Math.round(offer.odds.withinAfter(daysToSpare(expected, day, dock), waited) * 100) : 100;
  return { expected, day, holds };
}

/** Bought for this line: the purchase order line is bound to it. */
function specialOrder(shortage: Shortage, offer: SupplierOffer): Way {
  const { expected, day, holds } = arrival(shortage, offer);
  const today = shortage.now.slice(0, 10);
  return way(stepsOf(offer), null, null, (quantity) => {
    const bought = join(quantity, offer);
    const { buys, unitCost, freight, surplus } = bought;
    const cost = plus(times(quantity, unitCost), freight);
    const left = compareDecimal(surplus, '0') > 0 && compareDecimal(buys, '0') > 0;
    const remarks = [`due in ${shortDay(expected, today)}, bound to this line`, ...owing(offer, expected)];
    if (offer.draft) remarks.push(`joins the draft ${offer.draft.number}`);
    if (compareDecimal(freight, '0') > 0) remarks.push(`freight ${lineAmount('1', freight, shortage.currency)}`);
    return given(shortage, {
      kind: 'special_order',
      supplier: offer.supplier,
      label: `buy from ${offer.name}`,
      quantity,
      buys,
      leaves: [{ day, quantity }],
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      surplusCost: surplusCostOf(bought),
      obliges: [
        ...(left ? [{ kind: 'surplus' as const, words: `buys ${buys}: ${surplus} more than needed go to stock` }] : NONE),
        ...belowMinimum(offer, times(buys, unitCost), offer.draft?.value ?? '0', shortage.currency),
        ...notReturnable(offer),
      ],
      remarks,
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

function orderMore(shortage: Shortage, offer: SupplierOffer, { more, whole, without }: MoreForLess): Way {
  const { expected, day, holds } = arrival(shortage, offer);
  const money = (value: Decimal) => lineAmount('1', value, shortage.currency);
  return way([], null, null, (quantity) => {
    const { buys, unitCost } = join(plus(quantity, more), offer);
    const freight = freightShare(quantity, buys, unitCost, offer);
    const cost = plus(times(quantity, unitCost), freight);
    return given(shortage, {
      kind: 'special_order',
      supplier: offer.supplier,
      label: `buy from ${offer.name}, ${more} more for stock`,
      quantity,
      buys,
      more,
      leaves: [{ day, quantity }],
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      obliges: [
        { kind: 'surplus' as const, words: `buys ${more} more than needed, for stock` },
        ...belowMinimum(offer, times(buys, unitCost), offer.draft?.value ?? '0', shortage.currency),
        ...notReturnable(offer),
      ],
      remarks: [
        `the whole purchase comes to ${money(whole)} so, ${money(without)} without the ${more}`,
        `due in ${shortDay(expected, shortage.now.slice(0, 10))}, bound to this line`,
        ...owing(offer, expected),
        ...(offer.draft ? [`joins the draft ${offer.draft.number}`] : []),
        ...(compareDecimal(freight, '0') > 0 ? [`freight ${money(freight)}`] : []),
      ],
    });
  });
}

/** What is bought with it and nobody needs, at what it costs. */
function surplusCostOf({ buys, unitCost, surplus }: Joined): number {
  return compareDecimal(surplus, '0') > 0 && compareDecimal(buys, '0') > 0 ? Number(times(least(surplus, buys), unitCost)) : 0;
}

/** The supplier sends it to the customer: it never touches our stock. */
function dropShip(shortage: Shortage, offer: SupplierOffer): Way {
  const leaves = supplierShipDay(shortage.now, offer);
  const holds = offer.odds ? Math.round(offer.odds.withinAfter(0, daysBetween(leaves, shortage.now.slice(0, 10))) * 100) : 100;
  return way(stepsOf(offer), offer.multiple, null, (quantity) => {
    const exact = compareDecimal(purchaseQuantity(quantity, offer), quantity) === 0;
    const buyCost = costFor(quantity, offer);
    const cost = plus(times(quantity, buyCost), offer.dropShipFee);
    return given(shortage, {
      kind: 'drop_ship',
      supplier: offer.supplier,
      label: `${offer.name} ships to the customer`,
      quantity,
      buys: quantity,
      leaves: [{ day: leaves, quantity }],
      barred: !exact,
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      from: offer.supplier,
      obliges: [...belowMinimum(offer, times(quantity, buyCost), '0', shortage.currency), ...notReturnable(offer)],
      remarks: [
        'never touches our stock',
        ...owing(offer, leaves),
        ...(exact ? [] : [`${offer.name} sells at least ${offer.minimum} in lots of ${offer.multiple}: not for this quantity`]),
      ],
    });
  });
}

/** Why an order of today comes no sooner. */
function owing({ notBefore, name }: SupplierOffer, day: IsoDay): readonly string[] {
  return notBefore === day ? [`no sooner than what ${name} owe of it already`] : [];
}

function stepsOf({ minimum, breaks = [], draft }: SupplierOffer): Decimal[] {
  const spare = draft ? minus(draft.bought, draft.needed) : '0';
  return [minimum, ...breaks.map((step) => step.from), ...(compareDecimal(spare, '0') > 0 ? [spare] : [])];
}

function belowMinimum({ minimumValue = '0', name }: SupplierOffer, value: Decimal, sofar: Decimal, currency: string): readonly Obligation[] {
  const comes = plus(value, sofar);
  if (compareDecimal(comes, minimumValue) >= 0) return NONE;
  return [{ kind: 'below_minimum', words: `${name} wants orders of ${minimumValue} or more, this one comes to ${lineAmount('1', comes, currency)}` }];
}

function notReturnable({ returnable = true, name }: SupplierOffer): readonly Obligation[] {
  return returnable ? NONE : [{ kind: 'not_returnable', words: `${name} does not take it back` }];
}

function transfer(shortage: Shortage, offer: TransferOffer): Way {
  const expected = deliveryDay(offer.leaves, offer.transitDays, CARRIER_WEEK);
  const day = leavesAgain(expected, shortage.warehouse);
  return way([offer.free], null, offer.free, (quantity) =>
    given(shortage, {
      kind: 'transfer',
      warehouse: offer.warehouse,
      label: `bring over from ${offer.name}`,
      quantity,
      leaves: [{ day, quantity }],
      barred: compareDecimal(quantity, offer.free) > 0,
      unitCost: plus(shortage.unitCost, offer.unitCost),
      remarks: [
        compareDecimal(quantity, offer.free) > 0
          ? `${offer.name} has only ${offer.free} that nobody is promised`
          : `of ${offer.free} there that nobody is promised`,
        `due in ${shortDay(expected, shortage.now.slice(0, 10))}`,
      ],
    }),
  );
}

function assemble(shortage: Shortage, offer: AssemblyOffer): Way {
  const day = leavesAgain(offer.done, shortage.warehouse);
  return way([offer.most], '1', offer.most, (quantity) => {
    const whole = Number.isInteger(Number(quantity));
    return given(shortage, {
      kind: 'assemble',
      label: 'assemble here',
      quantity,
      leaves: [{ day, quantity }],
      barred: !whole || compareDecimal(quantity, offer.most) > 0,
      unitCost: offer.unitCost,
      remarks: [
        whole
          ? compareDecimal(quantity, offer.most) > 0
            ? `components for only ${offer.most} are free`
            : `components for ${offer.most} are free`
          : 'only whole ones can be assembled',
        `of ${offer.components}`,
        `done by ${shortDay(offer.done, shortage.now.slice(0, 10))}`,
      ],
    });
  });
}

function substitute(shortage: Shortage, offer: SubstituteOffer): Way {
  const most = sum(offer.days.map((entry) => entry.quantity));
  return way(sumsOf(offer.days), null, most, (quantity) => {
    const { sent, over } = sentInstead(quantity, { ratio: offer.ratio, step: offer.step ?? '1' });
    const own = offer.ownPrice?.(sent) ?? null;
    const instead = priceInstead(offer.unitPrice, offer.ratio, own);
    const whole = compareDecimal(over, '0') === 0;
    return given(shortage, {
      kind: 'substitute',
      item: offer.item,
      label: offer.successor ? `send the successor ${offer.item}` : `send ${offer.item} instead`,
      quantity,
      leaves: firstOf(offer.days, quantity).map(({ day, quantity: part }) => ({ day, quantity: part })),
      cost: times(sent, offer.unitCost),
      unitCost: perShort(sent, offer.unitCost, quantity),
      unitPrice: perShort(sent, instead.price, quantity),
      obliges: [{ kind: 'consent', words: 'the customer must agree to another item' }],
      remarks: [
        offer.description,
        ...(compareDecimal(quantity, most) > 0 ? [`only ${most} could be promised`] : []),
        ...(offer.ratio === '1' && whole ? [] : [`${sent} go for ${quantity}${whole ? '' : `, ${over} more than stand for them`}`]),
        ...(instead.own ? [`at ${own!.price} each, ${own!.source}: less than was agreed for what they replace`] : []),
      ],
    });
  });
}

/** For one of what is short, so that amounts are those of what is sent. */
function perShort(sent: Decimal, each: Decimal, quantity: Decimal): Decimal {
  return compareDecimal(quantity, '0') === 0 ? each : divide(times(sent, each), quantity, 8);
}

function cut(shortage: Shortage): Way {
  return way([], null, null, (quantity) =>
    given(shortage, {
      kind: 'cut',
      label: 'cut it from the order',
      quantity,
      leaves: [],
      unitCost: '0',
      obliges: [{ kind: 'consent', words: 'the customer must agree to do without' }],
      remarks: [`${lineAmount(quantity, shortage.unitPrice, shortage.currency)} less to bill`],
    }),
  );
}

function least(left: Decimal, right: Decimal): Decimal {
  return compareDecimal(left, right) <= 0 ? left : right;
}
