import { daysBetween, isoDay, dayNumber, parseClock, shortDay, workCalendar } from '@nockwright/core/calendar';
import { requestedShipDay, type Asked, type SupplyInfo } from '@nockwright/core/orders';
import { least, minus, plus, sum, compareDecimal } from '@nockwright/core/money';
import type { BookDemand, BookOrder, BookPromise, BookSupply, BookWarehouse, OrderBook } from '@nockwright/core/promise';
import { supplierDay } from '@nockwright/core/shortages';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { confidenceFor, loadOdds } from './arrival-odds';

/** What the desk calls a supply of the book, and where to find it. */
export interface LiveSupply extends SupplyInfo {
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

export interface BookScope {
  /** Only these items and what they depend on; the whole book where absent. */
  readonly items?: readonly string[];
  /** A draft to be looked at as if it were released now, last of its priority. */
  readonly draft?: number;
  /** All items of an order that must leave complete, also where all of it is promised: where promises may move. */
  readonly moving?: boolean;
}

/**
 * Loads the book as it stands: on hand, what is due, released orders and what they were promised. Drafts promise
 * nothing and are not in it, unless one is asked for. An order that must leave complete ties its items together: they
 * are all loaded.
 */
export async function loadBook(db: Db, now: Now, scope: BookScope = {}): Promise<LiveBook> {
  const [warehouses, items] = await Promise.all([loadWarehouses(db), scope.items ? tiedItems(db, scope.items, scope.moving ?? false) : null]);
  const lines = await loadLines(db, items, scope.draft);
  const itemCodes = items ?? (await db.selectFrom('item').select('code').orderBy('code').execute()).map((row) => row.code);
  const supplies = new Map<string, LiveSupply>();
  const names = new Map(warehouses.map((row) => [row.code, row]));

  const orders = new Map<number, BookOrder>();
  const turns = new Map<string, Turn>();
  let placed = false;
  const demands = new Map<string, DemandInfo>();
  const demandOfLine = new Map<number, string>();
  const demand: BookDemand[] = [];
  for (const line of lines.rows) {
    const orderNumber = line.number ?? draftNumber(line.order_id);
    const open = minus(minus(minus(line.stock_quantity, line.shipped), line.cancelled), line.drop_ship);
    if (compareDecimal(open, '0') <= 0) continue;
    const id = `${orderNumber}/${line.line_no}`;
    if (!orders.has(line.order_id)) {
      const entered = line.state === 'draft' ? now.localTime : line.entered;
      orders.set(line.order_id, { id: orderNumber, priority: line.priority, entered, shipComplete: line.ship_complete });
      turns.set(orderNumber, { priority: line.priority, place: line.place === null ? placeEntered(entered) : Number(line.place) });
      placed ||= line.place !== null;
    }
    demands.set(id, { lineId: line.id, lineNo: line.line_no, orderId: line.order_id, orderNumber, item: line.item, warehouse: line.warehouse });
    demandOfLine.set(line.id, id);
    const promised = lines.promises.get(line.id);
    demand.push({
      id,
      order: orderNumber,
      item: line.item,
      warehouse: line.warehouse,
      quantity: Number(open),
      requested: requestedDayOf(line, line),
      partial: true,
      ...(promised ? { promised } : {}),
    });
  }

  const supply: BookSupply[] = [];
  const bound = new Map<string, string>(); // item/warehouse → what of the on hand is bound
  for (const line of lines.rows) {
    const id = demandOfLine.get(line.id);
    // Set aside for a pick or come in for the line: it serves nobody else.
    const quantity = compareDecimal(line.reserved, line.picking) > 0 ? line.reserved : line.picking;
    if (!id || compareDecimal(quantity, '0') <= 0) continue;
    const pool = `${line.item}/${line.warehouse}`;
    bound.set(pool, plus(bound.get(pool) ?? '0', quantity));
    const supplyId = `ON-HAND/${pool}/${id}`;
    supply.push({ id: supplyId, item: line.item, warehouse: line.warehouse, quantity: Number(quantity), for: id });
    supplies.set(supplyId, {
      label: `on hand at ${names.get(line.warehouse)!.name}, set aside for this line`,
      purchase: null,
      purchaseLine: null,
      days: '',
      available: null,
      awaited: null,
    });
  }
  const stock = await db
    .selectFrom('stock')
    .select(['item', 'warehouse', 'on_hand'])
    .$if(items !== null, (query) => query.where(anyOf('item', items!)))
    .where('on_hand', '>', '0')
    .orderBy('item')
    .orderBy('warehouse')
    .execute();
  for (const { item, warehouse, on_hand } of stock) {
    const free = minus(on_hand, bound.get(`${item}/${warehouse}`) ?? '0');
    if (compareDecimal(free, '0') <= 0) continue;
    const id = `ON-HAND/${item}/${warehouse}`;
    supply.push({ id, item, warehouse, quantity: Number(free) });
    supplies.set(id, { label: `on hand at ${names.get(warehouse)!.name}`, purchase: null, purchaseLine: null, days: '', available: null, awaited: null });
  }
  // A draft is promised as surely as its customer or the desk wants: on the day by which goods have come so often.
  const confidence = scope.draft === undefined ? null : await confidenceFor(db, scope.draft);
  const odds = confidence === null ? null : await loadOdds(db);
  const dayFor = (expected: string, supplier: string): string => {
    const days = odds?.of(supplier).daysFor(confidence! / 100, daysBetween(expected, now.today)) ?? 0;
    return days > 0 ? isoDay(dayNumber(expected) + days) : expected;
  };
  for (const row of await loadPurchases(db, items)) {
    const id = `${row.number}/${row.line_no}`;
    const target = row.order_line_id === null ? undefined : demandOfLine.get(row.order_line_id);
    const date = dayFor(row.expected_day, row.supplier);
    supply.push({ id, item: row.item, warehouse: row.warehouse!, quantity: Number(row.open), date, ...(target ? { for: target } : {}) });
    supplies.set(id, {
      label: `purchase ${row.number} from ${row.supplier_name}`,
      purchase: row.purchase_id,
      purchaseLine: row.id,
      ...arrivalInWords(row.expected_day, date, confidence, names.get(row.warehouse!)!.book, now.today),
      awaited: { supplier: row.supplier, supplierName: row.supplier_name, expected: row.expected_day },
    });
  }
  for (const plan of lines.plans) {
    const target = demandOfLine.get(plan.line_id);
    if (!target) continue;
    const info = demands.get(target)!;
    const id = `PLAN/${plan.id}`;
    const expected = supplierDay(now.today, plan.lead_days);
    const date = dayFor(expected, plan.supplier!);
    supply.push({ id, item: info.item, warehouse: info.warehouse, quantity: Number(plan.quantity), date, for: target });
    supplies.set(id, {
      label: `to be bought from ${plan.supplier_name}`,
      purchase: null,
      purchaseLine: null,
      ...arrivalInWords(expected, date, confidence, names.get(info.warehouse)!.book, now.today),
      awaited: { supplier: plan.supplier!, supplierName: plan.supplier_name, expected },
    });
  }

  return {
    book: {
      asOf: now.localTime,
      warehouses: warehouses.map((row) => row.book),
      items: itemCodes.map((id) => ({ id })),
      supply,
      orders: placed ? inTurn([...orders.values()], turns) : [...orders.values()],
      demand,
    },
    supplies,
    demands,
    demandOfLine,
    turns,
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
  const [rows, closed] = await Promise.all([
    db.selectFrom('warehouse').selectAll().orderBy('code').execute(),
    db.selectFrom('closed_day').selectAll().orderBy('day').execute(),
  ]);
  return rows.map(({ code, name, workdays, cutoff, receiving_days }) => ({
    code,
    name,
    book: {
      id: code,
      workdays,
      closed: closed.filter((row) => row.warehouse === code).map((row) => row.day),
      ...(cutoff ? { cutoff } : {}),
      receivingDays: receiving_days,
    },
  }));
}

/**
 * How the day came about on which goods can leave: overdue, counted with the supplier's lateness, closed, put away.
 * `due`: the day the supplier gave; `counted`: the day that is counted with.
 */
function arrivalInWords(due: string, counted: string, confidence: number | null, warehouse: BookWarehouse, today: string): { days: string; available: string } {
  const calendar = workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber));
  const late = counted < today;
  const arrival = calendar.ceil(late ? dayNumber(today) + 1 : dayNumber(counted));
  const ready = calendar.offset(arrival, warehouse.receivingDays ?? 0);
  const words = [late ? `was due ${shortDay(due, today)}, overdue: counted from ${shortDay(isoDay(arrival), today)}` : `due ${shortDay(due, today)}`];
  if (counted !== due) words.push(`here by ${shortDay(counted, today)} ${confidence} times in 100`);
  if (!late && isoDay(arrival) !== counted) words.push(`closed that day, arrives ${shortDay(isoDay(arrival), today)}`);
  if (ready !== arrival) words.push(`put away by ${shortDay(isoDay(ready), today)}`);
  return { days: words.join(', '), available: isoDay(ready) };
}

/** The items asked for and those tied to them by orders that must leave complete: that still wait for something, or all. */
async function tiedItems(db: Db, items: readonly string[], moving: boolean): Promise<string[]> {
  const { rows } = await sql<{ item: string }>`
    with recursive tied(item) as (
      select unnest(${items}::text[])
      union
      select other.item
      from tied
      join order_line line on line.item = tied.item
      join sales_order o on o.id = line.order_id and o.state = 'released' and o.ship_complete
      join order_line other on other.order_id = o.id
      where line.shipped + line.cancelled < line.stock_quantity
        and (${moving} or exists (
          select from order_line short
          where short.order_id = o.id
            and short.stock_quantity - short.shipped - short.cancelled > coalesce((select sum(quantity) from line_promise where line_id = short.id), 0)
        ))
    )
    select item from tied order by item`.execute(db);
  return rows.map((row) => row.item);
}

async function loadLines(db: Db, items: readonly string[] | null, draft: number | undefined) {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .select(({ selectFrom, fn }) => [
      'order_line.id',
      'order_line.order_id',
      'order_line.line_no',
      'order_line.item',
      'order_line.warehouse',
      'order_line.stock_quantity',
      'order_line.shipped',
      'order_line.cancelled',
      'order_line.reserved',
      'order_line.requested_day',
      'sales_order.number',
      'sales_order.state',
      'sales_order.priority',
      'sales_order.place',
      'sales_order.entered',
      'sales_order.ship_complete',
      'sales_order.request_kind',
      'sales_order.requested_day as order_day',
      'carrier_service.transit_days',
      fn
        .coalesce(
          selectFrom('purchase_line')
            .select(sql<string>`sum(quantity - received - closed)`.as('open'))
            .whereRef('purchase_line.order_line_id', '=', 'order_line.id')
            .where('purchase_line.warehouse', 'is', null),
          sql<string>`0`,
        )
        .as('drop_ship'),
      fn
        .coalesce(
          selectFrom('shipment_line')
            .innerJoin('shipment', 'shipment.id', 'shipment_line.shipment_id')
            .select(sql<string>`sum(shipment_line.quantity)`.as('picking'))
            .whereRef('shipment_line.order_line_id', '=', 'order_line.id')
            .where('shipment.state', '=', 'picking'),
          sql<string>`0`,
        )
        .as('picking'),
    ])
    .where(({ eb, or }) => or([eb('sales_order.state', '=', 'released'), ...(draft === undefined ? [] : [eb('sales_order.id', '=', draft)])]))
    .where(sql<boolean>`order_line.shipped + order_line.cancelled < order_line.stock_quantity`)
    .$if(items !== null, (query) => query.where(anyOf('order_line.item', items!)))
    .orderBy('sales_order.entered')
    .orderBy('sales_order.id')
    .orderBy('order_line.line_no')
    .execute();
  const ids = rows.map((row) => row.id);
  const promises = new Map<number, BookPromise[]>();
  const told = await db.selectFrom('line_promise').selectAll().where(anyOf('line_id', ids)).orderBy('line_id').orderBy('day').execute();
  for (const { line_id, day, quantity } of told) {
    const entry = { date: day, quantity: Number(quantity) };
    const list = promises.get(line_id);
    if (list) list.push(entry);
    else promises.set(line_id, [entry]);
  }
  const planned = draft === undefined ? [] : await loadPlans(db, draft);
  // A drop shipment that is planned takes its quantity off the warehouse, as one that is bought does.
  const dropped = new Map<number, string>();
  for (const plan of planned) if (plan.kind === 'drop_ship') dropped.set(plan.line_id, plus(dropped.get(plan.line_id) ?? '0', plan.quantity));
  return {
    rows: rows.map((row) => ({ ...row, drop_ship: sum([row.drop_ship, least(dropped.get(row.id) ?? '0', row.stock_quantity)]) })),
    promises,
    plans: planned.filter((plan) => plan.kind === 'special_order'),
  };
}

/** Routes of a draft that will buy when it is released. */
async function loadPlans(db: Db, draft: number) {
  const rows = await db
    .selectFrom('line_route')
    .innerJoin('order_line', 'order_line.id', 'line_route.line_id')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('supplier', 'supplier.code', 'line_route.supplier')
    .leftJoin('supplier_item', (join) => join.onRef('supplier_item.supplier', '=', 'line_route.supplier').onRef('supplier_item.item', '=', 'order_line.item'))
    .select([
      'line_route.id',
      'line_route.line_id',
      'line_route.kind',
      'line_route.quantity',
      'line_route.supplier',
      'supplier.name as supplier_name',
      'supplier.lead_days',
      'supplier_item.lead_days as item_lead_days',
    ])
    .where('order_line.order_id', '=', draft)
    .where('sales_order.state', '=', 'draft')
    .where('line_route.purchase_line_id', 'is', null)
    .orderBy('line_route.id')
    .execute();
  return rows.map((row) => ({ ...row, lead_days: row.item_lead_days ?? row.lead_days }));
}

async function loadPurchases(db: Db, items: readonly string[] | null) {
  return db
    .selectFrom('purchase_line')
    .innerJoin('purchase_order', 'purchase_order.id', 'purchase_line.purchase_id')
    .innerJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .select([
      'purchase_line.id',
      'purchase_line.purchase_id',
      'purchase_line.line_no',
      'purchase_line.item',
      'purchase_line.warehouse',
      'purchase_line.expected_day',
      'purchase_line.order_line_id',
      'purchase_order.number',
      'purchase_order.supplier',
      'supplier.name as supplier_name',
      sql<string>`purchase_line.quantity - purchase_line.received - purchase_line.closed`.as('open'),
    ])
    .where('purchase_line.firm', '=', true)
    .where('purchase_line.warehouse', 'is not', null)
    .where(sql<boolean>`purchase_line.received + purchase_line.closed < purchase_line.quantity`)
    .$if(items !== null, (query) => query.where(anyOf('purchase_line.item', items!)))
    .orderBy('purchase_line.id')
    .execute();
}
