import type { SupplierCode, WarehouseCode } from '../ids';
import { calendarOf, CARRIER_WEEK, dayNumber, daysBetween, deliveryDay, firstShipDay, isoDay, leavesAgain, shortDay, type IsoDay } from '../calendar';
import type { BookWarehouse } from '../promise';
import { supplierArrival, type SupplierTimes } from '../shortages';
import type { SupplierOdds } from '../supply';
import type { BookRows, InboundRow, PlanRow, SupplierTimesRow } from './book-rows';
import type { OpenDemand } from './demand';
import type { BookTime, WarehouseRow } from './live-book';
import { addSupply, bindTo, type SupplyFound } from './supply-found';

/** How the days of goods on their way are counted. */
export interface Arrivals {
  readonly warehouses: ReadonlyMap<string, WarehouseRow>;
  /** How sure new promises must be, in percent, with the record they go by; null: the suppliers' days are believed. */
  readonly confidence: number | null;
  readonly odds: SupplierOdds | null;
  readonly time: BookTime;
}

/** Adds purchases, transfers and assemblies under way. */
export function addInbound(found: SupplyFound, { inbound }: BookRows, { demandOfLine }: OpenDemand, arrivals: Arrivals): void {
  for (const row of inbound) {
    const target = row.order_line_id === null ? undefined : demandOfLine.get(row.order_line_id);
    const date = dayFor(row.expected_day, row.supplier, arrivals);
    const { book } = arrivals.warehouses.get(row.warehouse)!;
    if (target) {
      const day = leavesAgain(row.first_day < row.expected_day ? row.first_day : row.expected_day, book);
      bindTo(found, target, { day, quantity: Number(row.open) });
    }
    addSupply(
      found,
      { id: row.name, item: row.item, warehouse: row.warehouse, quantity: Number(row.open), date, ...(target ? { for: target } : {}) },
      {
        kind: row.kind,
        label: inboundLabel(row),
        purchase: row.kind === 'purchase' ? row.document : null,
        purchaseLine: row.kind === 'purchase' ? row.id : null,
        // What is bound to a line is what its route costs.
        cost: target ? null : row.cost,
        ...arrivalInWords(row.expected_day, date, arrivals, book),
        awaited: row.supplier === null ? null : { supplier: row.supplier, supplierName: row.origin, expected: row.expected_day },
      },
    );
  }
}

/** Adds what routes of a draft will bring when it is released. */
export function addPlans(found: SupplyFound, { plans }: BookRows, { demands, demandOfLine }: OpenDemand, arrivals: Arrivals): void {
  for (const plan of plans) {
    const target = plan.kind === 'drop_ship' ? undefined : demandOfLine.get(plan.line_id);
    if (!target) continue;
    const { item, warehouse } = demands.get(target)!;
    const expected = plannedArrival(plan, arrivals.warehouses, warehouse, arrivals.time.localTime);
    const date = dayFor(expected, plan.supplier, arrivals);
    addSupply(
      found,
      { id: `PLAN/${plan.id}`, item, warehouse, quantity: Number(plan.quantity), date, for: target },
      {
        kind: 'plan',
        label: planLabel(plan),
        purchase: null,
        purchaseLine: null,
        cost: null,
        ...arrivalInWords(expected, date, arrivals, arrivals.warehouses.get(warehouse)!.book),
        awaited: plan.supplier === null ? null : { supplier: plan.supplier, supplierName: plan.supplier_name!, expected },
      },
    );
  }
}

/** An order is newly promised as surely as its customer or the desk wants: on the day by which goods have come so often. */
function dayFor(expected: IsoDay, supplier: SupplierCode | null, { odds, confidence, time }: Arrivals): IsoDay {
  const days = supplier === null || confidence === null ? 0 : (odds?.of(supplier).daysFor(confidence / 100, daysBetween(expected, time.today)) ?? 0);
  return days > 0 ? isoDay(dayNumber(expected) + days) : expected;
}

const INBOUND_NAMES = { purchase: 'purchase', transfer: 'transfer', assembly: 'assembly' } as const;

function inboundLabel({ kind, number, origin }: InboundRow): string {
  return [INBOUND_NAMES[kind], number, ...(origin ? [`from ${origin}`] : [])].filter(Boolean).join(' ');
}

function planLabel(plan: PlanRow): string {
  if (plan.kind === 'transfer') return `to be transferred from ${plan.warehouse_name}`;
  return plan.kind === 'assemble' ? 'to be assembled here' : `to be bought from ${plan.supplier_name}`;
}

/** The day goods of a route that is still a plan are expected at a warehouse, if it were carried out now. */
function plannedArrival(plan: PlanRow, warehouses: ReadonlyMap<string, WarehouseRow>, warehouse: WarehouseCode, localTime: string): string {
  if (plan.terms) return supplierArrival(localTime, timesOf(plan.terms));
  const from = plan.warehouse ?? warehouse;
  const first = firstShipDay(warehouses.get(from)!.book, localTime);
  if (plan.kind === 'transfer') return deliveryDay(first, plan.transit_days ?? 0, CARRIER_WEEK);
  return isoDay(calendarOf(warehouses.get(from)!.book).offset(dayNumber(first), plan.work_days ?? 0));
}

/** A supplier's times as the core has them. */
export function timesOf(row: SupplierTimesRow): SupplierTimes {
  return {
    leadDays: row.lead_days,
    workdays: row.workdays,
    orderDays: row.order_days,
    cutoff: row.cutoff,
    transitDays: row.transit_days,
    closed: row.closed,
    notBefore: row.not_before,
  };
}

/**
 * How the day came about on which goods can leave: overdue, counted with the supplier's lateness, closed, put away.
 * `due`: the day the supplier gave; `counted`: the day that is counted with.
 */
function arrivalInWords(
  due: IsoDay,
  counted: IsoDay,
  { confidence, time: { today } }: Arrivals,
  warehouse: BookWarehouse,
): { days: string; available: IsoDay } {
  const calendar = calendarOf(warehouse);
  const late = counted < today;
  const arrival = calendar.ceil(late ? dayNumber(today) + 1 : dayNumber(counted));
  const ready = calendar.offset(arrival, warehouse.receivingDays ?? 0);
  const words = [late ? `was due ${shortDay(due, today)}, overdue: counted from ${shortDay(isoDay(arrival), today)}` : `due ${shortDay(due, today)}`];
  if (counted !== due) words.push(`${confidence} % by ${shortDay(counted, today)}`);
  if (!late && isoDay(arrival) !== counted) words.push(`closed that day, arrives ${shortDay(isoDay(arrival), today)}`);
  if (ready !== arrival) words.push(`put away by ${shortDay(isoDay(ready), today)}`);
  return { days: words.join(', '), available: isoDay(ready) };
}
