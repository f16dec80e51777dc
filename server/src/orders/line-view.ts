import type { LineView, ScheduleView, SupplyTick } from '@nockwright/contract/orders';
import { daysBetween, shortDay, shortDays } from '@nockwright/core/calendar';
import { compareDecimal, divide, marginPercent, minus, plus, roundMoney, sum, times } from '@nockwright/core/money';
import { spokenPromise, type DemandPromise, type PromiseResult } from '@nockwright/core/promise';
import { supplierDay } from '@nockwright/core/shortages';
import { CARRIER_WEEK, decimal, type LiveBook } from '../promise';
import { howSure, lineSureness, type Sureness } from './how-sure';
import type { LineFacts, OrderLineRecord, OrderRecord } from './load-order';

/** What is known when a line's view is made: the computed promise of its demand and the rows that hang on it. */
export interface LineViewFacts {
  readonly order: Pick<OrderRecord, 'state' | 'request_kind' | 'transit_days' | 'order_day' | 'currency'>;
  readonly line: OrderLineRecord;
  readonly requested: string;
  readonly facts: LineFacts;
  readonly live: LiveBook;
  readonly result: PromiseResult;
  readonly promiseOf: ReadonlyMap<string, DemandPromise>;
  readonly warehouseName: string;
  /** The first day goods can leave the warehouse, and why not today. */
  readonly firstShip: { readonly day: string; readonly why: string };
  readonly today: string;
  readonly sureness: Sureness;
}

export function lineView(known: LineViewFacts): LineView {
  const { line, facts, live, today, order } = known;
  const demandId = live.demandOfLine.get(line.id);
  const promise = demandId ? known.promiseOf.get(demandId) : undefined;
  const routes = facts.routes.filter((route) => route.line_id === line.id);
  const dropShip = sum(facts.dropShipments.filter((row) => row.line_id === line.id).map((row) => row.open));
  const schedule = [...warehouseSchedule(known, demandId, promise), ...dropShipSchedule(known, routes)].sort((a, b) =>
    a.day < b.day ? -1 : a.day > b.day ? 1 : 0,
  );
  const uncovered = promise ? decimal(promise.uncovered) : '0';
  const lateDrop = Math.max(0, ...schedule.filter((entry) => entry.dropShip).map((entry) => daysBetween(known.requested, entry.day)));
  const daysLate = promise ? (promise.daysLate === null ? null : Math.max(promise.daysLate, lateDrop)) : lateDrop;
  const promised = sum(facts.promises.filter((row) => row.line_id === line.id).map((row) => row.quantity));
  const open = minus(minus(line.stock_quantity, line.shipped), line.cancelled);
  const { state, stateWords } = stateOf(open, uncovered, daysLate, schedule, line, today);
  const { amount, cost } = lineMoney(line, routes, order.currency);
  const parts = schedule.filter((entry) => !entry.broken).map((entry) => ({ day: entry.arrives ?? entry.day, quantity: Number(entry.quantity) }));
  return {
    id: line.id,
    lineNo: line.line_no,
    item: line.item,
    description: line.description,
    unit: line.unit,
    quantity: line.quantity,
    stockUnit: line.stock_unit,
    stockQuantity: line.stock_quantity,
    price: line.price,
    priceSource: line.price_source,
    priceTrail: line.price_trail,
    amount,
    marginPercent: marginPercent(amount, cost),
    warehouse: line.warehouse,
    requested: known.requested,
    note: line.note,
    shipped: line.shipped,
    cancelled: line.cancelled,
    picking: sum(facts.picks.filter((row) => row.line_id === line.id).map((row) => row.quantity)),
    promised,
    dropShip,
    waiting: order.state === 'draft' ? '0' : minus(minus(open, promised), dropShip),
    schedule,
    uncovered,
    daysLate,
    ...lineSureness(schedule, live, known.sureness),
    state,
    stateWords,
    why: reasons(known, open, uncovered),
    spoken: compareDecimal(open, '0') > 0 ? spokenPromise(sortedByDay(parts), Number(uncovered), today) : 'Nothing of this line is open.',
    routes: routes.map((route) => ({
      id: route.id,
      kind: route.kind,
      supplier: route.supplier_name,
      quantity: route.quantity,
      day: route.expected_day ?? (route.supplier ? supplierDay(today, route.item_lead_days ?? route.lead_days ?? 0) : null),
      purchase: route.purchase_id,
      purchaseNumber: route.purchase_number,
    })),
    ticks: ticksOf(known, demandId),
  };
}

/** The amount and cost of what is not cancelled of a line. Cost is what a route pays where there is one, else the item's. */
export function lineMoney(
  line: Pick<OrderLineRecord, 'stock_quantity' | 'cancelled' | 'price' | 'numerator' | 'denominator' | 'cost'>,
  routes: LineFacts['routes'],
  currency: string,
) {
  const sold = minus(line.stock_quantity, line.cancelled);
  const amount = roundMoney(divide(times(times(sold, line.price), line.denominator), line.numerator, 10), currency);
  let bought = '0';
  let cost = '0';
  for (const route of routes) {
    const unitCost = route.purchase_cost ?? route.cost;
    if (unitCost === null || route.kind === 'backorder') continue;
    bought = plus(bought, route.quantity);
    cost = plus(cost, plus(times(route.quantity, unitCost), route.kind === 'drop_ship' ? (route.drop_ship_fee ?? '0') : '0'));
  }
  return { amount, cost: plus(cost, times(compareDecimal(bought, sold) > 0 ? '0' : minus(sold, bought), line.cost)) };
}

function warehouseSchedule(known: LineViewFacts, demandId: string | undefined, promise: DemandPromise | undefined): ScheduleView[] {
  if (!promise || !demandId) return [];
  const { live, result } = known;
  return promise.schedule.map((entry): ScheduleView => {
    const risks = entry.kept ? result.atRisk.filter((risk) => risk.id === demandId && risk.date === entry.date) : [];
    const arrivals = risks.map((risk) => risk.arrives).filter((day) => day !== null);
    return {
      day: entry.date,
      quantity: decimal(entry.quantity),
      kept: entry.kept,
      dropShip: false,
      arrives: arrivals.length > 0 ? arrivals.reduce((a, b) => (a > b ? a : b)) : null,
      broken: risks.some((risk) => risk.arrives === null),
      ...howSure(
        entry.from.map(({ supply }) => live.supplies.get(supply)),
        entry.date,
        known.sureness,
      ),
      from: entry.from.map(({ supply, quantity }) => {
        const info = live.supplies.get(supply)!;
        return { quantity: decimal(quantity), label: info.label, purchase: info.purchase, days: info.days };
      }),
    };
  });
}

function dropShipSchedule({ line, facts, today, sureness }: LineViewFacts, routes: LineFacts['routes']): ScheduleView[] {
  const underWay = facts.dropShipments
    .filter((row) => row.line_id === line.id)
    .map((row) => ({ ...row, kept: true, label: `${row.supplier_name} ships to the customer, purchase ${row.number}` }));
  const planned = routes
    .filter((route) => route.kind === 'drop_ship' && route.purchase_line_id === null)
    .map((route) => ({
      open: route.quantity,
      expected_day: supplierDay(today, route.item_lead_days ?? route.lead_days ?? 0),
      purchase_id: null,
      kept: false,
      supplier: route.supplier!,
      supplier_name: route.supplier_name!,
      label: `${route.supplier_name} will ship to the customer`,
    }));
  return [...underWay, ...planned].map((row) => ({
    day: row.expected_day < today ? today : row.expected_day,
    quantity: row.open,
    kept: row.kept,
    dropShip: true,
    arrives: null,
    broken: false,
    ...fromSupplier(row, sureness),
    from: [
      {
        quantity: row.open,
        label: row.label,
        purchase: row.purchase_id,
        days: row.expected_day < today ? `was due ${shortDay(row.expected_day, today)}, no notice yet` : `leaves them ${shortDay(row.expected_day, today)}`,
      },
    ],
  }));
}

/** A drop shipment leaves the supplier's house on the day they gave, or late. */
function fromSupplier(
  row: { readonly supplier: string; readonly supplier_name: string; readonly expected_day: string; readonly label: string },
  sureness: Sureness,
) {
  const awaited = { supplier: row.supplier, supplierName: row.supplier_name, expected: row.expected_day };
  const day = row.expected_day < sureness.today ? sureness.today : row.expected_day;
  const info = { label: row.label, purchase: null, purchaseLine: null, days: '', available: null, awaited };
  return howSure([info], day, { ...sureness, dock: { calendar: CARRIER_WEEK, receivingDays: 0 } });
}

function stateOf(
  open: string,
  uncovered: string,
  daysLate: number | null,
  schedule: readonly ScheduleView[],
  line: OrderLineRecord,
  today: string,
): Pick<LineView, 'state' | 'stateWords'> {
  if (compareDecimal(open, '0') === 0) return { state: 'done', stateWords: compareDecimal(line.shipped, '0') > 0 ? 'shipped' : 'cancelled' };
  const days = shortDays(
    schedule.map((entry) => entry.arrives ?? entry.day),
    today,
  );
  const broken = sum(schedule.filter((entry) => entry.broken).map((entry) => entry.quantity));
  if (compareDecimal(uncovered, '0') > 0) return { state: 'uncovered', stateWords: `${uncovered} open${days ? `, ${days}` : ', no cover'}` };
  if (compareDecimal(broken, '0') > 0) return { state: 'uncovered', stateWords: `${broken} lost their supply` };
  if (daysLate === null || daysLate > 0) return { state: 'late', stateWords: `late, ${days}` };
  return { state: 'covered', stateWords: `covered, ${days}` };
}

/** Why the day is what it is, before the pegs: what was asked, run back from the delivery day, and the first day anything can leave. */
function reasons({ order, line, requested, firstShip, warehouseName, today }: LineViewFacts, open: string, uncovered: string): string[] {
  if (compareDecimal(open, '0') === 0) return [];
  const asked = line.requested_day ?? order.order_day;
  const words = [
    order.request_kind === 'deliver_by'
      ? `Asked to be delivered by ${shortDay(asked, today)}: with ${order.transit_days} working ${order.transit_days === 1 ? 'day' : 'days'} on the way it must leave ${warehouseName} by ${shortDay(requested, today)}.`
      : `Asked to leave ${warehouseName} by ${shortDay(requested, today)}.`,
  ];
  if (firstShip.day !== today || requested < firstShip.day)
    words.push(`Nothing can leave ${warehouseName} before ${shortDay(firstShip.day, today)}${firstShip.why}.`);
  if (compareDecimal(uncovered, '0') > 0) words.push(`No supply is known for ${uncovered}: nothing on hand or due is free for it.`);
  return words;
}

/** Supply that is due for the line's item at its warehouse and not bound to another line. */
function ticksOf({ live, line, today }: LineViewFacts, demandId: string | undefined): SupplyTick[] {
  const free = live.book.supply.filter(
    (row) => row.item === line.item && row.warehouse === line.warehouse && row.date !== undefined && (row.for === undefined || row.for === demandId),
  );
  return free.map((row) => ({ day: row.date! < today ? today : row.date!, quantity: decimal(row.quantity), label: live.supplies.get(row.id)!.label }));
}

function sortedByDay<T extends { readonly day: string }>(parts: readonly T[]): T[] {
  return [...parts].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}
