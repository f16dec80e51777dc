import { askedOf, type LiveBook, type WarehouseRow } from '@nockwright/core/book';
import type { LineView } from '@nockwright/contract/orders';
import { CARRIER_WEEK, shortDay } from '@nockwright/core/calendar';
import { compareDecimal, divide, marginPercent, minus, plus, roundMoney, sum, times, type Quantity } from '@nockwright/core/money';
import {
  addCostPart,
  closedLineWords,
  costOfParts,
  type CostPart,
  howSure,
  linePromise,
  nextCarrierDay,
  offeredPrice,
  openQuantity,
  peggedParts,
  type SchedulePart,
  shownParts,
  type Waits,
} from '@nockwright/core/orders';
import type { PricedPart } from '@nockwright/core/pricing';
import type { DemandPromise, PromiseResult } from '@nockwright/core/promise';
import { supplierArrival, supplierShipDay, type SupplierTimes } from '@nockwright/core/shortages';
import type { SupplierOdds } from '@nockwright/core/supply';
import type { Now } from '../clock';

import { isOffered, type LineFacts, type OrderLineRecord, type OrderRecord } from './load-order';
import type { QuoteFacts } from './load-quote';
import { shipToView } from './ship-to-text';
import { isAgreed } from './look-up-prices';

/** What is known when a line's view is made: the computed promise of its demand and the rows that hang on it. */
export interface LineViewFacts {
  readonly order: Pick<OrderRecord, 'kind' | 'state' | 'request_kind' | 'transit_days' | 'order_day' | 'currency'>;
  readonly line: OrderLineRecord;
  readonly facts: LineFacts;
  readonly live: LiveBook;
  readonly result: PromiseResult;
  readonly promiseOf: ReadonlyMap<string, DemandPromise>;
  /** The same order promised as surely as is wanted, where that is another book than `live`. */
  readonly surely: { readonly live: LiveBook; readonly promiseOf: ReadonlyMap<string, DemandPromise> } | null;
  readonly warehouse: WarehouseRow;
  readonly now: Now;
  readonly quote: QuoteFacts;
  /** Of a draft: what the line would be priced at now. */
  readonly prices: readonly PricedPart[] | undefined;
  readonly odds: SupplierOdds;
  /** How sure days are asked to be, in percent. */
  readonly sure: number;
  /** The number of another line of the order, by its id. */
  readonly lineNoOf: (line: number | null) => number | null;
  /** What the customer was asked about a line and has not answered. */
  readonly askedOf: (line: number) => LineView['asked'];
}

export function lineView(known: LineViewFacts): LineView {
  const { line, facts, order, now } = known;
  const routes = facts.routes.filter((route) => route.line_id === line.id);
  const dropShip = sum(facts.dropShipments.filter((row) => row.line_id === line.id).map((row) => row.open));
  const promised = sum(facts.promises.filter((row) => row.line_id === line.id).map((row) => row.quantity));
  // Of a quote that is closed nothing is open any more.
  const open = order.state === 'released' || isOffered(order) ? openQuantity(line) : '0';
  const { amount, cost, parts } = lineMoney(line, routes, order.currency, costOf(known));
  const drops = dropShips(known, routes);
  const accepted = known.quote.acceptedOf(line);
  return {
    id: line.id,
    lineNo: line.line_no,
    item: line.item,
    description: line.description,
    theirCode: line.their_code,
    alternative: line.alternative,
    alternativeTo: line.alternative_to,
    accepted,
    quoted: known.quote.quotedOf(line),
    unit: line.unit,
    quantity: line.quantity,
    stockUnit: line.stock_unit,
    stockQuantity: line.stock_quantity,
    price: line.price,
    priceSource: line.price_source,
    priceTrail: line.price_trail,
    contractLine: line.contract_line_id,
    pin: line.price_pin,
    offered: known.prices && !isAgreed(line, known.prices) ? offeredPrice(known.prices, order.currency) : null,
    splits: [],
    amount,
    marginPercent: marginPercent(amount, cost),
    cost: shownParts(parts),
    warehouse: line.warehouse,
    requestedDay: line.requested_day,
    shipTo: line.ship_to_id === null ? null : shipToView({ ...line, ship_to_id: line.ship_to_id }),
    note: line.note,
    shipped: line.shipped,
    cancelled: line.cancelled,
    picking: sum(facts.picks.filter((row) => row.line_id === line.id).map((row) => row.quantity)),
    promised,
    dropShip,
    waiting: order.state !== 'released' ? '0' : minus(minus(open, promised), dropShip),
    ...promiseView(known, open, drops),
    ...(order.kind === 'quote' && !isOffered(order) ? { stateWords: closedLineWords({ quantity: line.quantity, accepted }), stateDays: '' } : {}),
    standsFor: known.lineNoOf(line.stands_for),
    asked: known.askedOf(line.id),
    routes: routes.map((route) => routeView(route, now)),
  };
}

type RouteRow = LineFacts['routes'][number];

function routeView(route: RouteRow, now: Now): LineView['routes'][number] {
  return {
    id: route.id,
    kind: route.kind,
    from: route.supplier_name ?? route.warehouse_name ?? route.item,
    quantity: route.quantity,
    day: route.expected_day ?? route.transfer_day ?? route.assembly_day ?? (route.supplier ? plannedDay(route, now.localTime) : null),
    unitCost: route.unit_cost,
    document: documentOf(route),
  };
}

/** What the line is promised, and how it stands. */
function promiseView(known: LineViewFacts, open: Quantity, drops: ReturnType<typeof dropShips>) {
  const { line, live, order, now, surely } = known;
  const demand = live.demandOfLine.get(line.id);
  return linePromise({
    demand,
    promise: demand ? known.promiseOf.get(demand) : undefined,
    offered: demand && surely ? { promise: surely.promiseOf.get(demand)!, supplies: surely.live.supplies } : undefined,
    atRisk: known.result.atRisk,
    item: line.item,
    asked: askedOf(line, order),
    warehouse: known.warehouse,
    open,
    shipped: line.shipped,
    dropShips: drops.map((drop) => drop.part),
    dropShippers: new Map(drops.map((drop) => [drop.supplier, drop.supplierName])),
    book: live.book,
    supplies: live.supplies,
    localTime: now.localTime,
    sureness: { odds: known.odds, sure: known.sure },
  });
}

/** What a route has led to. */
function documentOf(route: RouteRow): LineView['routes'][number]['document'] {
  if (route.purchase_id !== null) return { kind: 'purchase', id: route.purchase_id, number: route.purchase_number!, state: route.purchase_state! };
  if (route.transfer_id !== null) return { kind: 'transfer', id: route.transfer_id, number: route.transfer_number!, state: route.transfer_state! };
  if (route.assembly_id !== null) return { kind: 'assembly', id: route.assembly_id, number: route.assembly_number!, state: route.assembly_state! };
  if (route.new_line_id !== null) return { kind: 'line', id: route.new_line_id, number: String(route.new_line_no), state: 'added' };
  return null;
}

/** The day goods of a route that is still a plan would come in, or leave the supplier, if it were carried out now. */
function plannedDay(route: RouteRow, localTime: string): string {
  const times: SupplierTimes = {
    leadDays: route.item_lead_days ?? route.lead_days ?? 0,
    workdays: route.workdays ?? [1, 2, 3, 4, 5],
    closed: route.closed,
    orderDays: route.order_days ?? [1, 2, 3, 4, 5],
    cutoff: route.cutoff,
    transitDays: route.transit_days ?? 0,
    notBefore: route.not_before,
  };
  return route.kind === 'drop_ship' ? supplierShipDay(localTime, times) : supplierArrival(localTime, times);
}

/** What goods of a line cost by the supply they are pegged to. */
export function costOf({ line, live, promiseOf }: Pick<LineViewFacts, 'line' | 'live' | 'promiseOf'>) {
  const demand = live.demandOfLine.get(line.id);
  return (quantity: string, waits: readonly Waits[]) =>
    peggedParts(demand === undefined ? undefined : promiseOf.get(demand), live.supplies, quantity, line.cost, waits);
}

/** The amount and cost of what is not cancelled of a line: what its options cost landed, the rest by the supply it comes from. */
export function lineMoney(
  line: Pick<OrderLineRecord, 'stock_quantity' | 'cancelled' | 'price' | 'numerator' | 'denominator' | 'cost'>,
  routes: LineFacts['routes'],
  currency: string,
  /** What so many cost that no route buys; the item's cost where it is not told. */
  rest: (quantity: string, waits: readonly Waits[]) => CostPart[] = (quantity, waits) => peggedParts(undefined, new Map(), quantity, line.cost, waits),
) {
  const sold = minus(line.stock_quantity, line.cancelled);
  const amount = roundMoney(divide(times(times(sold, line.price), line.denominator), line.numerator, 10), currency);
  let bought = '0';
  const parts: CostPart[] = [];
  const waits: Waits[] = [];
  for (const route of routes) {
    const unitCost = route.unit_cost ?? route.purchase_cost ?? route.cost;
    // What is cut or replaced is not sold on this line.
    if (unitCost === null || route.kind === 'cut' || route.kind === 'substitute') continue;
    if (route.kind === 'backorder') {
      // What waits costs what comes, and until that is known what buying it does.
      if (route.unit_cost !== null) waits.push({ quantity: route.quantity, each: route.unit_cost });
      continue;
    }
    bought = plus(bought, route.quantity);
    const fee = route.unit_cost === null && route.kind === 'drop_ship' ? divide(route.drop_ship_fee ?? '0', route.quantity, 10) : '0';
    addCostPart(parts, { quantity: route.quantity, each: plus(unitCost, fee), basis: 'landed' });
  }
  for (const part of rest(compareDecimal(bought, sold) > 0 ? '0' : minus(sold, bought), waits)) addCostPart(parts, part);
  return { amount, cost: costOfParts(parts), parts };
}

/** What suppliers ship to the customer, under way or planned. It leaves the supplier's house on the day the customer was told, or late. */
function dropShips({ line, facts, now: { today, localTime }, odds, sure }: LineViewFacts, routes: LineFacts['routes']) {
  const underWay = facts.dropShipments
    .filter((row) => row.line_id === line.id)
    .map((row) => ({ ...row, kept: true, label: `${row.supplier_name} ships to the customer, purchase ${row.number}` }));
  const planned = routes
    .filter((route) => route.kind === 'drop_ship' && route.purchase_line_id === null)
    .map((route) => ({
      open: route.quantity,
      expected_day: plannedDay(route, localTime),
      told_day: null,
      purchase_id: null,
      kept: false,
      supplier: route.supplier!,
      supplier_name: route.supplier_name!,
      label: `${route.supplier_name} will ship to the customer`,
    }));
  return [...underWay, ...planned].map(
    ({ open, kept, label, purchase_id: purchase, supplier, supplier_name: supplierName, expected_day: expected, told_day: told }) => {
      const leaves = expected < today ? nextCarrierDay(today) : expected;
      const day = told ?? leaves;
      const days = expected < today ? `was due ${shortDay(expected, today)}, no notice yet` : `leaves them ${shortDay(expected, today)}`;
      const supply = { label, purchase, days, cost: null, awaited: { supplier, supplierName, expected } };
      const part: SchedulePart = {
        day,
        quantity: open,
        kept,
        dropShip: true,
        arrives: leaves > day ? leaves : null,
        broken: false,
        ...howSure([supply], day, { odds, sure, today, dock: { calendar: CARRIER_WEEK, receivingDays: 0 } }),
        from: [{ quantity: open, label, purchase, days }],
      };
      return { part, supplier, supplierName };
    },
  );
}
