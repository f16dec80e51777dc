import { dayNumber, isoDay, shortDay, workCalendar, type IsoDay, type WorkCalendar } from '../calendar';
import { compareDecimal, divide, lineAmount, marginPercent, minus, plus, times, type Decimal } from '../money';

export type RouteKind = 'backorder' | 'special_order' | 'drop_ship';

/** A supplier's terms for one item. Costs are for one stocking unit. */
export interface SupplierOffer {
  readonly supplier: string;
  readonly name: string;
  readonly cost: Decimal;
  /** Supplier's working days (Monday to Friday) from order until it leaves them. */
  readonly leadDays: number;
  readonly minimum: Decimal;
  readonly multiple: Decimal;
  readonly dropShips: boolean;
  /** Charged once for each drop shipment. */
  readonly dropShipFee: Decimal;
}

export interface Shortage {
  readonly today: IsoDay;
  /** What is short, in stocking units. */
  readonly quantity: Decimal;
  /** The ship day asked for, at the line's warehouse. */
  readonly requested: IsoDay;
  readonly warehouse: { readonly workdays: readonly number[]; readonly closed: readonly IsoDay[]; readonly receivingDays: number };
  /** Carrier's working days from leaving to the customer. */
  readonly transitDays: number;
  /** What the customer pays for one stocking unit. */
  readonly unitPrice: Decimal;
  /** What one stocking unit from stock costs. */
  readonly unitCost: Decimal;
  readonly currency: string;
  /** What known supply gives, by day; `uncovered` is what it never gives. */
  readonly inbound: { readonly days: readonly { readonly day: IsoDay; readonly quantity: Decimal }[]; readonly uncovered: Decimal };
  readonly offers: readonly SupplierOffer[];
}

/** One way to serve what is short, with all that decides between them. */
export interface Route {
  readonly kind: RouteKind;
  readonly supplier: string | null;
  readonly label: string;
  readonly quantity: Decimal;
  /** What must be bought for it: the quantity, lifted to the supplier's minimum and multiple; 0 where nothing is bought. */
  readonly buys: Decimal;
  /** The day the last of it leaves; null where no day is known. */
  readonly shipDay: IsoDay | null;
  readonly deliveryDay: IsoDay | null;
  readonly daysLate: number | null;
  /** Landed cost of one stocking unit. */
  readonly unitCost: Decimal;
  readonly marginPercent: Decimal | null;
  readonly marginAmount: Decimal;
  /** What the coordinator should know before choosing it. */
  readonly remarks: readonly string[];
}

const WEEK = workCalendar([1, 2, 3, 4, 5], []);
const COST_DECIMALS = 4;

/** Every way to serve the shortage: backorder, then special order and drop ship from each supplier; the earliest first. */
export function routesFor(shortage: Shortage): Route[] {
  const ownWeek = workCalendar(shortage.warehouse.workdays, shortage.warehouse.closed.map(dayNumber));
  const routes = [
    backorder(shortage, ownWeek),
    ...shortage.offers.map((offer) => specialOrder(shortage, ownWeek, offer)),
    ...shortage.offers.filter((offer) => offer.dropShips).map((offer) => dropShip(shortage, offer)),
  ];
  // A stable sort: between equals the order above stands. Days compare as text; no day comes last.
  return routes.sort((a, b) => compareDays(a.shipDay, b.shipDay));
}

/** What must be bought to get `quantity`: at least the minimum, in whole multiples. */
export function purchaseQuantity(quantity: Decimal, offer: Pick<SupplierOffer, 'minimum' | 'multiple'>): Decimal {
  const wanted = compareDecimal(quantity, offer.minimum) < 0 ? offer.minimum : quantity;
  if (compareDecimal(offer.multiple, '0') <= 0) return wanted;
  const lots = Math.ceil(Number(divide(wanted, offer.multiple, 6)));
  return times(offer.multiple, lots);
}

/** The day goods bought today of this supplier can leave the warehouse again. */
export function specialOrderDay(today: IsoDay, leadDays: number, warehouse: Shortage['warehouse']): { readonly arrives: IsoDay; readonly ships: IsoDay } {
  return bought(today, leadDays, workCalendar(warehouse.workdays, warehouse.closed.map(dayNumber)), warehouse.receivingDays);
}

/** The day a supplier hands over what is ordered today: `leadDays` working days from the first working day. */
export function supplierDay(today: IsoDay, leadDays: number): IsoDay {
  return isoDay(WEEK.offset(WEEK.ceil(dayNumber(today)), leadDays));
}

function bought(today: IsoDay, leadDays: number, ownWeek: WorkCalendar, receivingDays: number) {
  const arrives = ownWeek.ceil(dayNumber(supplierDay(today, leadDays)));
  return { arrives: isoDay(arrives), ships: isoDay(ownWeek.offset(arrives, receivingDays)) };
}

function backorder(shortage: Shortage, ownWeek: WorkCalendar): Route {
  const { inbound, offers, today } = shortage;
  const nothingComes = compareDecimal(inbound.uncovered, '0') > 0;
  const next = nothingComes ? soonest(offers) : null;
  const last = inbound.days[inbound.days.length - 1]?.day ?? null;
  const remarks: string[] = [];
  let shipDay = nothingComes ? null : last;
  if (nothingComes && next) {
    shipDay = bought(today, next.leadDays, ownWeek, shortage.warehouse.receivingDays).ships;
    if (last && last > shipDay) shipDay = last;
    remarks.push(`${inbound.uncovered} wait for the next purchase; the day holds if ${next.name} is ordered from today`);
  } else if (nothingComes) {
    remarks.push(`${inbound.uncovered} have no supply and no supplier: no day can be given`);
  } else {
    remarks.push('known supply covers it');
  }
  return route(shortage, {
    kind: 'backorder',
    supplier: null,
    label: nothingComes ? 'wait for the next purchase' : 'wait for what is due',
    buys: '0',
    shipDay,
    unitCost: next?.cost ?? shortage.unitCost,
    remarks,
  });
}

function specialOrder(shortage: Shortage, ownWeek: WorkCalendar, offer: SupplierOffer): Route {
  const { arrives, ships } = bought(shortage.today, offer.leadDays, ownWeek, shortage.warehouse.receivingDays);
  const buys = purchaseQuantity(shortage.quantity, offer);
  const surplus = minus(buys, shortage.quantity);
  const remarks = [`due in ${shortDay(arrives, shortage.today)}, bound to this line`];
  if (compareDecimal(surplus, '0') > 0) remarks.push(`buys ${buys}: ${surplus} more than needed go to stock`);
  return route(shortage, {
    kind: 'special_order',
    supplier: offer.supplier,
    label: `buy from ${offer.name}`,
    buys,
    shipDay: ships,
    unitCost: offer.cost,
    remarks,
  });
}

function dropShip(shortage: Shortage, offer: SupplierOffer): Route {
  const buys = purchaseQuantity(shortage.quantity, offer);
  const exact = compareDecimal(buys, shortage.quantity) === 0;
  const remarks = ['never touches our stock'];
  if (!exact) remarks.push(`${offer.name} sells at least ${offer.minimum} in lots of ${offer.multiple}: not for this quantity`);
  const unitCost = plus(offer.cost, divide(offer.dropShipFee, shortage.quantity, COST_DECIMALS));
  return route(shortage, {
    kind: 'drop_ship',
    supplier: offer.supplier,
    label: `${offer.name} ships to the customer`,
    buys,
    shipDay: exact ? supplierDay(shortage.today, offer.leadDays) : null,
    unitCost,
    remarks,
  });
}

function route(shortage: Shortage, found: Pick<Route, 'kind' | 'supplier' | 'label' | 'buys' | 'shipDay' | 'unitCost' | 'remarks'>): Route {
  const amount = lineAmount(shortage.quantity, shortage.unitPrice, shortage.currency);
  const cost = times(shortage.quantity, found.unitCost);
  const shipDay = found.shipDay === null ? null : dayNumber(found.shipDay);
  return {
    ...found,
    quantity: shortage.quantity,
    deliveryDay: shipDay === null ? null : isoDay(WEEK.offset(WEEK.ceil(shipDay), shortage.transitDays)),
    daysLate: shipDay === null ? null : Math.max(0, shipDay - dayNumber(shortage.requested)),
    marginPercent: marginPercent(amount, cost),
    marginAmount: lineAmount('1', minus(amount, cost), shortage.currency),
  };
}

function soonest(offers: readonly SupplierOffer[]): SupplierOffer | null {
  return offers.reduce<SupplierOffer | null>((best, offer) => (!best || offer.leadDays < best.leadDays ? offer : best), null);
}

function compareDays(a: IsoDay | null, b: IsoDay | null) {
  if (a === b) return 0;
  if (a === null) return 1;
  if (b === null) return -1;
  return a < b ? -1 : 1;
}
