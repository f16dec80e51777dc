import type { SupplierCode } from '../ids';
import { type Amount, type Quantity, type UnitPrice, compareDecimal, divide, minus, plus, times, type Decimal } from '../money';
import { CARRIER_WEEK, dayNumber, type DayNumber, deliveryDay, isoDay, type IsoDay, parseClock, parseLocalTime, workCalendar } from '../calendar';
import type { ArrivalOdds } from '../supply';

/** When a supplier takes orders and how long they take. */
export interface SupplierTimes {
  /** Supplier's working days from the order until it leaves them. */
  readonly leadDays: number;
  /** ISO weekdays on which they work; Monday to Friday where not said. */
  readonly workdays?: readonly number[];
  /** ISO weekdays on which they take orders; every working day where not said. */
  readonly orderDays?: readonly number[];
  /** `HH:MM`: what is ordered later counts from the next order day. */
  readonly cutoff?: string | null;
  readonly closed?: readonly IsoDay[];
  /** From their house to ours, in the carrier's working days. */
  readonly transitDays?: number;
  /**
   * They are late with the same goods and now say this day: what is ordered after does not overtake what they owe (common
   * practice).
   */
  readonly notBefore?: IsoDay | null;
}

/** A supplier's terms for one item. Costs and quantities are for one stocking unit. */
export interface SupplierOffer extends SupplierTimes {
  readonly supplier: SupplierCode;
  readonly name: string;
  readonly cost: UnitPrice;
  /** Cheaper from a quantity on, ascending. */
  readonly breaks?: readonly CostBreak[];
  readonly minimum: Quantity;
  readonly multiple: Quantity;
  /** They take the item back. */
  readonly returnable?: boolean;
  readonly dropShips: boolean;
  /** Charged once for each drop shipment. */
  readonly dropShipFee: Decimal;
  /** The least a purchase order should come to. */
  readonly minimumValue?: Amount;
  /** Charged once for a purchase order to us, unless it comes to so much (null: always). */
  readonly freight?: Amount;
  readonly freightFreeFrom?: Amount | null;
  /** A draft purchase order to the same warehouse that would be joined. */
  readonly draft?: OpenDraft | null;
  readonly odds?: ArrivalOdds;
}

export interface CostBreak {
  readonly from: Decimal;
  readonly cost: UnitPrice;
}

export interface OpenDraft {
  readonly number: string;
  /** What it comes to so far. */
  readonly value: Amount;
  /** Of the item: what is needed on it, and what is bought to meet minimum and multiple. */
  readonly needed: Quantity;
  readonly bought: Quantity;
}

const WEEK = [1, 2, 3, 4, 5] as const;

/** What must be bought to get `quantity`: at least the minimum, in whole multiples. */
export function purchaseQuantity(quantity: Quantity, offer: Pick<SupplierOffer, 'minimum' | 'multiple'>): Decimal {
  const wanted = compareDecimal(quantity, offer.minimum) < 0 ? offer.minimum : quantity;
  if (compareDecimal(offer.multiple, '0') <= 0) return wanted;
  const lots = Math.ceil(Number(divide(wanted, offer.multiple, 6)));
  return times(offer.multiple, lots);
}

/** What one stocking unit costs of so many bought: the last break that is reached, else the plain cost. */
export function costFor(bought: Quantity, offer: Pick<SupplierOffer, 'cost' | 'breaks'>): Decimal {
  return (offer.breaks ?? []).reduce((cost, step) => (compareDecimal(bought, step.from) >= 0 ? step.cost : cost), offer.cost);
}

/** The day an order placed at `localTime` is taken: an order day of the supplier's, before its cut-off. */
export function orderDay(localTime: string, times: SupplierTimes): IsoDay {
  return isoDay(takenOn(localTime, times));
}

function takenOn(localTime: string, times: SupplierTimes): DayNumber {
  const { day, minute } = parseLocalTime(localTime) ?? { day: dayNumber(localTime.slice(0, 10)), minute: 0 };
  const takes = workCalendar(orderWeekdays(times), (times.closed ?? []).map(dayNumber));
  const cutoff = times.cutoff ? parseClock(times.cutoff) : null;
  const first = takes.ceil(day);
  return first === day && cutoff !== null && minute >= cutoff ? takes.ceil(day + 1) : first;
}

/** A supplier who takes orders only on days they do not work takes them on working days. */
function orderWeekdays({ workdays = WEEK, orderDays = workdays }: SupplierTimes): readonly number[] {
  const both = orderDays.filter((weekday) => workdays.includes(weekday));
  return both.length > 0 ? both : workdays;
}

/** The day what is ordered at `localTime` leaves the supplier's house. */
export function supplierShipDay(localTime: string, times: SupplierTimes): IsoDay {
  return notBefore(leavesThem(localTime, times), times);
}

function leavesThem(localTime: string, times: SupplierTimes): IsoDay {
  const works = workCalendar(times.workdays ?? WEEK, (times.closed ?? []).map(dayNumber));
  return isoDay(works.offset(works.ceil(takenOn(localTime, times)), times.leadDays));
}

/** The day it reaches us: the carrier's working days later. This is the day expected of a purchase order line. */
export function supplierArrival(localTime: string, times: SupplierTimes): IsoDay {
  const left = dayNumber(leavesThem(localTime, times));
  return notBefore((times.transitDays ?? 0) === 0 ? isoDay(left) : deliveryDay(isoDay(left), times.transitDays!, CARRIER_WEEK), times);
}

function notBefore(day: IsoDay, times: SupplierTimes): IsoDay {
  return times.notBefore && times.notBefore > day ? times.notBefore : day;
}

/** Where goods come in and leave again. */
export interface ReceivingPlace {
  readonly workdays: readonly number[];
  readonly closed: readonly IsoDay[];
  readonly receivingDays: number;
}

/** What is bought of an item when it joins a draft, and what each costs then. */
export interface Joined {
  /** More than the draft has so far. */
  readonly buys: Quantity;
  readonly unitCost: UnitPrice;
  /** Freight that falls on what is needed, in all. */
  readonly freight: Amount;
  /** What is bought and nobody needs. */
  readonly surplus: Decimal;
}

const COST_DECIMALS = 4;

/** Buys `quantity` more of an item, on the open draft where there is one: minimum, multiple and breaks are met by the whole of it. */
export function join(quantity: Quantity, offer: SupplierOffer): Joined {
  const { draft } = offer;
  const needed = plus(draft?.needed ?? '0', quantity);
  const before = draft?.bought ?? '0';
  const lifted = purchaseQuantity(needed, offer);
  const bought = compareDecimal(lifted, before) > 0 ? lifted : before;
  const unitCost = costFor(bought, offer);
  const buys = plus(bought, `-${before}`);
  return { buys, unitCost, freight: freightShare(quantity, buys, unitCost, offer), surplus: plus(bought, `-${needed}`) };
}

/** More bought than is needed, because the whole purchase comes to less so. */
export interface MoreForLess {
  /** For stock, beyond what is needed. */
  readonly more: Quantity;
  /** What the purchase comes to with it and without it, freight included. */
  readonly whole: Decimal;
  readonly without: Decimal;
}

/** The least that a purchase of `quantity` can come to where more is bought: up to a break, or up to free freight. Null where more costs more. */
export function moreForLess(quantity: Quantity, offer: SupplierOffer): MoreForLess | null {
  const { freight = '0', freightFreeFrom = null, draft } = offer;
  const needed = plus(draft?.needed ?? '0', quantity);
  const plain = purchaseQuantity(needed, offer);
  const base = compareDecimal(draft?.bought ?? '0', plain) > 0 ? draft!.bought : plain;
  const others = minus(draft?.value ?? '0', draft ? times(draft.bought, costFor(draft.bought, offer)) : '0');
  const goods = (bought: Quantity) => plus(others, times(bought, costFor(bought, offer)));
  const whole = (bought: Quantity) => {
    const value = goods(bought);
    return plus(value, freightFreeFrom !== null && compareDecimal(value, freightFreeFrom) >= 0 ? '0' : freight);
  };
  const steps = (offer.breaks ?? []).map((step) => step.from);
  if (freightFreeFrom !== null)
    for (const cost of [offer.cost, ...(offer.breaks ?? []).map((step) => step.cost)])
      if (compareDecimal(cost, '0') > 0) steps.push(up(divide(minus(freightFreeFrom, others), cost, 6)));
  const without = whole(base);
  let best: MoreForLess | null = null;
  for (const step of steps) {
    if (compareDecimal(step, base) <= 0) continue;
    const bought = purchaseQuantity(step, offer);
    const comesTo = whole(bought);
    if (compareDecimal(comesTo, best?.whole ?? without) < 0) best = { more: minus(bought, needed), whole: comesTo, without };
  }
  return best;
}

/** The next whole number. */
function up(quantity: Quantity): Decimal {
  return String(Math.ceil(Number(quantity)));
}

export function freightShare(
  quantity: Quantity,
  buys: Quantity,
  unitCost: UnitPrice,
  { freight = '0', freightFreeFrom = null, draft }: SupplierOffer,
): Decimal {
  if (compareDecimal(freight, '0') <= 0) return '0';
  const own = times(quantity, unitCost);
  const whole = plus(draft?.value ?? '0', times(buys, unitCost));
  if (freightFreeFrom !== null && compareDecimal(whole, freightFreeFrom) >= 0) return '0';
  const shared = compareDecimal(whole, own) > 0 ? whole : own;
  return compareDecimal(shared, '0') > 0 ? divide(times(freight, own), shared, COST_DECIMALS) : freight;
}
