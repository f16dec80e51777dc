import {
  calendarOf,
  CARRIER_WEEK,
  dayNumber,
  daysBetween,
  deliveryDay,
  firstShipDay,
  isoDay,
  leavesAgain,
  parseClock,
  shortDay,
} from '@nockwright/core/calendar';
import { type Asked, lifeAsked, openQuantity, requestedShipDay, type SupplyInfo } from '@nockwright/core/orders';
import { compareDecimal, least, minus, plus, sum } from '@nockwright/core/money';
import { standOnBound, type BookDemand, type BookOrder, type BookSupply, type BookWarehouse, type BoundGoods, type OrderBook } from '@nockwright/core/promise';
import { supplierArrival, type SupplierTimes } from '@nockwright/core/shortages';
import { takeLots, withLot, type LotGoods } from '@nockwright/core/supply';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { loadOdds } from './arrival-odds';
import {
  readBookRows,
  type BookRows,
  type BookScope,
  type InboundRow,
  type LineRow,
  type PlanRow,
  type StockRow,
  type SupplierTimesRow,
  type WarehouseRecord,
} from './book-rows';

/** What the desk calls a supply of the book, and where to find it. */
export interface LiveSupply extends SupplyInfo {
  readonly kind: 'on_hand' | 'purchase' | 'transfer' | 'assembly' | 'plan';
  readonly purchaseLine: number | null;
  /** First day its goods can leave; null for what is on hand. */
  readonly available: string | null;
}

export interface DemandInfo {
  readonly lineId: number;
  readonly lineNo: number;
  readonly orderId: number;
  readonly orderNumber: string;
  readonly item: string;
  readonly warehouse: string;
}

/** The part of the live book that decides about some items, with what its ids stand for. */
export interface LiveBook {
  readonly book: OrderBook;
  readonly supplies: ReadonlyMap<string, LiveSupply>;
  readonly demands: ReadonlyMap<string, DemandInfo>;
  readonly demandOfLine: ReadonlyMap<number, string>;
  /** The class and place of each order of the book, by its number there. */
  readonly turns: ReadonlyMap<string, Turn>;
}

/** When an order has its turn: by class, then by place, then by number. */
export interface Turn {
  readonly priority: number;
  /** Minutes since 1970: when it was entered, or where it was placed by hand. */
  readonly place: number;
}

/**
 * Loads the book as it stands: on hand, what is due, released orders and what they were promised. Drafts promise
 * nothing and are not in it, unless one is asked for. An order that must leave complete ties its items together: they
 * are all loaded.
 */
export async function loadBook(db: Db, now: Now, scope: BookScope = {}): Promise<LiveBook> {
  const rows = await readBookRows(db, scope);
  const warehouses = rows.warehouses.map(asWarehouse);
  const lines = withPlannedDropShips(rows);
  const supplies = new Map<string, LiveSupply>();
  const names = new Map(warehouses.map((row) => [row.code, row]));

  const orders = new Map<number, BookOrder>();
  const turns = new Map<string, Turn>();
  let placed = false;
  const demands = new Map<string, DemandInfo>();
  const demandOfLine = new Map<number, string>();
  const demand: BookDemand[] = [];
  for (const line of lines) {
    const offered = line.state !== 'released';
    // An alternative neither waits for the rest of its quote nor keeps it waiting.
    const key = line.alternative ? -line.order_id : line.order_id;
    const orderNumber = offered ? `${draftNumber(line.order_id)}${line.alternative ? ' or' : ''}` : line.number!;
    const open = minus(openQuantity(line), line.drop_ship);
    if (compareDecimal(open, '0') <= 0) continue;
    const id = `${orderNumber}/${line.line_no}`;
    if (!orders.has(key)) {
      const entered = offered ? now.localTime : line.entered;
      orders.set(key, { id: orderNumber, priority: line.priority, entered, shipComplete: line.ship_complete && !line.alternative });
      turns.set(orderNumber, { priority: line.priority, place: line.place ?? placeEntered(entered) });
      placed ||= line.place !== null;
    }
    demands.set(id, { lineId: line.id, lineNo: line.line_no, orderId: line.order_id, orderNumber, item: line.item, warehouse: line.warehouse });
    demandOfLine.set(line.id, id);
    demand.push({
      id,
      order: orderNumber,
      item: line.item,
      warehouse: line.warehouse,
      quantity: Number(open),
      requested: requestedDayOf(line, line),
      partial: true,
      ...(line.item_life === null ? {} : { lifeDays: lifeAsked({ item: line.item_life, customer: line.customer_life, transitDays: line.transit_days }) }),
      ...(line.promised ? { promised: line.promised.map(({ day, quantity }) => ({ date: day, quantity: Number(quantity) })) } : {}),
    });
  }

  const supply: BookSupply[] = [];
  const goodsOf = new Map<string, BoundGoods[]>(); // demand → what is bound to it
  const bindTo = (target: string, goods: BoundGoods) => goodsOf.set(target, [...(goodsOf.get(target) ?? []), goods]);
  const shelves = new Map(rows.stock.map((row) => [`${row.item}/${row.warehouse}`, shelfOf(row, now.today)])); // item/warehouse → what is left there
  const onHand = (pool: string, { item, warehouse }: Pick<LineRow, 'item' | 'warehouse'>, { expires, quantity }: LotGoods, target?: string) => {
    const id = ['ON-HAND', pool, ...(target ? [target] : []), ...(expires ? [expires] : [])].join('/');
    supply.push({ id, item, warehouse, quantity: Number(quantity), ...(target ? { for: target } : {}), ...(expires ? { expires } : {}) });
    const words = [
      `on hand at ${names.get(warehouse)!.name}`,
      ...(expires ? [`expires ${shortDay(expires, now.today)}`] : []),
      ...(target ? ['set aside for this line'] : []),
    ];
    supplies.set(id, { kind: 'on_hand', label: words.join(', '), purchase: null, purchaseLine: null, cost: null, days: '', available: null, awaited: null });
  };
  for (const line of lines) {
    const id = demandOfLine.get(line.id);
    // Set aside for a pick or come in for the line: it serves nobody else.
    const quantity = compareDecimal(line.reserved, line.picking) > 0 ? line.reserved : line.picking;
    if (!id || compareDecimal(quantity, '0') <= 0) continue;
    const pool = `${line.item}/${line.warehouse}`;
    const { taken, left } = takeLots(shelves.get(pool) ?? [], quantity, lastsUntil(line, now.today));
    shelves.set(pool, left);
    for (const lot of taken) onHand(pool, line, lot, id);
    bindTo(id, { day: null, quantity: Number(quantity) });
  }
  for (const { item, warehouse } of rows.stock) {
    const pool = `${item}/${warehouse}`;
    for (const lot of shelves.get(pool)!) onHand(pool, { item, warehouse }, lot);
  }
  // An order is newly promised as surely as its customer or the desk wants: on the day by which goods have come so often.
  const { confidence } = rows;
  const odds = confidence === null ? null : await loadOdds(db);
  const dayFor = (expected: string, supplier: string): string => {
    const days = odds?.of(supplier).daysFor(confidence! / 100, daysBetween(expected, now.today)) ?? 0;
    return days > 0 ? isoDay(dayNumber(expected) + days) : expected;
  };
  for (const row of rows.inbound) {
    const target = row.order_line_id === null ? undefined : demandOfLine.get(row.order_line_id);
    const date = row.supplier === null ? row.expected_day : dayFor(row.expected_day, row.supplier);
    supply.push({ id: row.name, item: row.item, warehouse: row.warehouse, quantity: Number(row.open), date, ...(target ? { for: target } : {}) });
    if (target) {
      const day = leavesAgain(row.first_day < row.expected_day ? row.first_day : row.expected_day, names.get(row.warehouse)!.book);
      bindTo(target, { day, quantity: Number(row.open) });
    }
    supplies.set(row.name, {
      kind: row.kind,
      label: inboundLabel(row),
      purchase: row.kind === 'purchase' ? row.document : null,
      purchaseLine: row.kind === 'purchase' ? row.id : null,
      // What is bound to a line is what its route costs.
      cost: target ? null : row.cost,
      ...arrivalInWords(row.expected_day, date, confidence, names.get(row.warehouse)!.book, now.today),
      awaited: row.supplier === null ? null : { supplier: row.supplier, supplierName: row.origin.replace(/^from /, ''), expected: row.expected_day },
    });
  }
  for (const plan of rows.plans) {
    const target = plan.kind === 'drop_ship' ? undefined : demandOfLine.get(plan.line_id);
    if (!target) continue;
    const info = demands.get(target)!;
    const id = `PLAN/${plan.id}`;
    const expected = plannedArrival(plan, names, info.warehouse, now.localTime);
    const date = plan.supplier === null ? expected : dayFor(expected, plan.supplier);
    supply.push({ id, item: info.item, warehouse: info.warehouse, quantity: Number(plan.quantity), date, for: target });
    supplies.set(id, {
      kind: 'plan',
      label: planLabel(plan),
      purchase: null,
      purchaseLine: null,
      cost: null,
      ...arrivalInWords(expected, date, confidence, names.get(info.warehouse)!.book, now.today),
      awaited: plan.supplier === null ? null : { supplier: plan.supplier, supplierName: plan.supplier_name!, expected },
    });
  }

  return {
    book: {
      asOf: now.localTime,
      warehouses: warehouses.map((row) => row.book),
      items: rows.items.map((id) => ({ id })),
      supply,
      orders: placed ? inTurn([...orders.values()], turns) : [...orders.values()],
      demand: demand.map((row) => {
        const goods = goodsOf.get(row.id);
        return goods && row.promised ? { ...row, promised: standOnBound(row.promised, goods, row.quantity) } : row;
      }),
    },
    supplies,
    demands,
    demandOfLine,
    turns,
  };
}

/** What of an item on hand at a warehouse is not set aside, by the last day it may be used. */
function shelfOf({ on_hand, set_aside, lots }: StockRow, today: string): readonly LotGoods[] {
  const dated = lots ?? [];
  const all = withLot(dated, null, minus(on_hand, sum(dated.map((lot) => lot.quantity))));
  return takeLots(all, set_aside, today).left;
}

/** The day until which goods for a line must last if they leave today. */
export function lastsUntil(line: Pick<LineRow, 'item_life' | 'customer_life' | 'transit_days'>, today: string): string {
  if (line.item_life === null) return today;
  return isoDay(dayNumber(today) + lifeAsked({ item: line.item_life, customer: line.customer_life, transitDays: line.transit_days }));
}

const INBOUND_NAMES = { purchase: 'purchase', transfer: 'transfer', assembly: 'assembly' } as const;

function inboundLabel({ kind, number, origin }: InboundRow): string {
  return [INBOUND_NAMES[kind], number, origin].filter(Boolean).join(' ');
}

function planLabel(plan: PlanRow): string {
  if (plan.kind === 'transfer') return `to be brought over from ${plan.warehouse_name}`;
  return plan.kind === 'assemble' ? 'to be assembled here' : `to be bought from ${plan.supplier_name}`;
}

/** The day goods of a route that is still a plan are expected at a warehouse, if it were carried out now. */
function plannedArrival(plan: PlanRow, warehouses: ReadonlyMap<string, WarehouseRow>, warehouse: string, localTime: string): string {
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

/** Orders with the turns given to them, as the book file can say it: the class with a fraction that tells their sequence. */
export function inTurn(orders: readonly BookOrder[], turns: ReadonlyMap<string, Turn>): BookOrder[] {
  const sorted = [...orders].sort((a, b) => {
    const [x, y] = [turns.get(a.id)!, turns.get(b.id)!];
    return x.priority - y.priority || x.place - y.place || (a.id < b.id ? -1 : 1);
  });
  const sequence = new Map(sorted.map((order, at) => [order.id, at]));
  const steps = 10 ** String(orders.length).length;
  return orders.map((order) => ({ ...order, priority: turns.get(order.id)!.priority + sequence.get(order.id)! / steps }));
}

/** The place of an order that nobody has moved: minutes since 1970. */
export function placeEntered(localTime: string): number {
  return dayNumber(localTime.slice(0, 10)) * 1440 + parseClock(localTime.slice(11, 16))!;
}

/** What a draft is called in a book, until it has a number. */
export function draftNumber(orderId: number): string {
  return `draft-${orderId}`;
}

/** The ship day a line asks for: its own or the order's day, run back by the transit where it is a delivery day. */
export function requestedDayOf(
  line: { readonly requested_day: string | null },
  order: { readonly order_day: string; readonly request_kind: string; readonly transit_days: number },
): string {
  return requestedShipDay(askedOf(line, order));
}

/** What a line asks for, as the core has it. */
export function askedOf(
  line: { readonly requested_day: string | null },
  order: { readonly order_day: string; readonly request_kind: string; readonly transit_days: number },
): Asked {
  return { day: line.requested_day ?? order.order_day, deliverBy: order.request_kind === 'deliver_by', transitDays: order.transit_days };
}

export interface WarehouseRow {
  readonly code: string;
  readonly name: string;
  readonly book: BookWarehouse;
}

export async function loadWarehouses(db: Db): Promise<WarehouseRow[]> {
  const rows = await db
    .selectFrom('warehouse')
    .selectAll()
    .select(sql<string[]>`array(select day::text from closed_day where warehouse = warehouse.code order by day)`.as('closed'))
    .orderBy('code')
    .execute();
  return rows.map(asWarehouse);
}

function asWarehouse({ code, name, workdays, cutoff, receiving_days, closed }: WarehouseRecord): WarehouseRow {
  return { code, name, book: { id: code, workdays, closed, ...(cutoff ? { cutoff } : {}), receivingDays: receiving_days } };
}

/**
 * How the day came about on which goods can leave: overdue, counted with the supplier's lateness, closed, put away.
 * `due`: the day the supplier gave; `counted`: the day that is counted with.
 */
function arrivalInWords(due: string, counted: string, confidence: number | null, warehouse: BookWarehouse, today: string): { days: string; available: string } {
  const calendar = calendarOf(warehouse);
  const late = counted < today;
  const arrival = calendar.ceil(late ? dayNumber(today) + 1 : dayNumber(counted));
  const ready = calendar.offset(arrival, warehouse.receivingDays ?? 0);
  const words = [late ? `was due ${shortDay(due, today)}, overdue: counted from ${shortDay(isoDay(arrival), today)}` : `due ${shortDay(due, today)}`];
  if (counted !== due) words.push(`here by ${shortDay(counted, today)} ${confidence} times in 100`);
  if (!late && isoDay(arrival) !== counted) words.push(`closed that day, arrives ${shortDay(isoDay(arrival), today)}`);
  if (ready !== arrival) words.push(`put away by ${shortDay(isoDay(ready), today)}`);
  return { days: words.join(', '), available: isoDay(ready) };
}

/** A drop shipment that is planned takes its quantity off the warehouse, as one that is bought does. */
function withPlannedDropShips({ lines, plans }: BookRows): readonly LineRow[] {
  const planned = new Map<number, string>();
  for (const plan of plans) if (plan.kind === 'drop_ship') planned.set(plan.line_id, plus(planned.get(plan.line_id) ?? '0', plan.quantity));
  return lines.map((line) => ({ ...line, drop_ship: plus(line.drop_ship, least(planned.get(line.id) ?? '0', line.stock_quantity)) }));
}
