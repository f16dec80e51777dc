import type { LineView, OrderView } from '@nockwright/contract/orders';
import { dayNumber, isoDay, parseClock, shortDay, workCalendar } from '@nockwright/core/calendar';
import { compareDecimal, marginPercent, minus, plus, roundMoney, sum, times } from '@nockwright/core/money';
import { promiseBook, type OrderBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import { deskConfidence, draftNumber, inTurn, loadBook, loadOdds, loadWarehouses, placeEntered, requestedShipDay, type LiveBook } from '../promise';
import { USUALLY_SURE } from './how-sure';
import { lineMoney, lineView } from './line-view';
import { loadLineFacts, loadOrder, loadOrderLines, type OrderLineRecord, type OrderRecord } from './load-order';

/** An order with every line's promise as it stands now and why. */
export async function readOrder(db: Db, now: Now, orderId: number): Promise<OrderView> {
  const order = await loadOrder(db, orderId);
  const lines = await loadOrderLines(db, orderId);
  const views = await viewLines(db, now, order, lines);
  return toOrderView(db, now, order, lines, views);
}

/** What a line not yet on the draft would be promised and cost; the draft's own lines come first. */
export async function previewLine(db: Db, now: Now, order: OrderRecord, line: OrderLineRecord): Promise<LineView> {
  const lines = await loadOrderLines(db, order.id);
  const views = await viewLines(db, now, order, [...lines, line], line);
  return views[views.length - 1]!;
}

/** Views of the lines; `extra` is one of them that the database does not know yet. */
async function viewLines(db: Db, now: Now, order: OrderRecord, lines: readonly OrderLineRecord[], extra?: OrderLineRecord): Promise<LineView[]> {
  const draft = order.state === 'draft' ? order.id : undefined;
  const loaded = await loadBook(db, now, { items: [...new Set(lines.map((line) => line.item))], ...(draft === undefined ? {} : { draft }) });
  const live = extra ? withLine(loaded, now, order, extra) : loaded;
  const result = promiseBook(live.book);
  const promiseOf = new Map(result.promises.map((promise) => [promise.id, promise]));
  const facts = await loadLineFacts(
    db,
    lines.map((line) => line.id),
  );
  const warehouses = new Map((await loadWarehouses(db)).map((row) => [row.code, row]));
  const odds = await loadOdds(db);
  const sure = order.confidence ?? (await deskConfidence(db)) ?? USUALLY_SURE;
  return lines.map((line) => {
    const warehouse = warehouses.get(line.warehouse)!;
    return lineView({
      order,
      line,
      requested: requestedShipDay(line, order),
      facts,
      live,
      result,
      promiseOf,
      warehouseName: warehouse.name,
      firstShip: firstShipDay(warehouse.book, now),
      today: now.today,
      sureness: { odds, sure, today: now.today, dock: { calendar: calendarOf(warehouse.book), receivingDays: warehouse.book.receivingDays ?? 0 } },
    });
  });
}

function withLine(live: LiveBook, now: Now, order: OrderRecord, line: OrderLineRecord): LiveBook {
  const number = draftNumber(order.id);
  const id = `${number}/${line.line_no}`;
  const known = live.book.orders.some((row) => row.id === number);
  const added = { id: number, priority: order.priority, entered: now.localTime, shipComplete: order.ship_complete };
  const turns = new Map(live.turns).set(number, { priority: order.priority, place: placeEntered(now.localTime) });
  const book: OrderBook = {
    ...live.book,
    orders: known ? live.book.orders : inTurn([...live.book.orders, added], turns),
    demand: [
      ...live.book.demand,
      { id, order: number, item: line.item, warehouse: line.warehouse, quantity: Number(line.stock_quantity), requested: requestedShipDay(line, order) },
    ],
  };
  return { ...live, book, demandOfLine: new Map([...live.demandOfLine, [line.id, id]]) };
}

function calendarOf(warehouse: OrderBook['warehouses'][number]) {
  return workCalendar(warehouse.workdays, (warehouse.closed ?? []).map(dayNumber));
}

/** The first day goods can leave a warehouse and, where that is not today, why. */
function firstShipDay(warehouse: OrderBook['warehouses'][number], now: Now): { day: string; why: string } {
  const calendar = calendarOf(warehouse);
  const today = dayNumber(now.today);
  if (!calendar.isWorkingDay(today)) return { day: isoDay(calendar.ceil(today)), why: ', the next working day' };
  const passed = warehouse.cutoff !== undefined && parseClock(now.localTime.slice(11))! >= parseClock(warehouse.cutoff)!;
  return passed ? { day: isoDay(calendar.ceil(today + 1)), why: `: the cut-off of ${warehouse.cutoff} has passed` } : { day: now.today, why: '' };
}

async function toOrderView(db: Db, now: Now, order: OrderRecord, lines: readonly OrderLineRecord[], views: readonly LineView[]): Promise<OrderView> {
  const shipTos = await db
    .selectFrom('ship_to')
    .select(['id', 'name', 'street', 'postcode', 'town', 'country'])
    .where('customer_id', '=', order.customer_id)
    .orderBy('id')
    .execute();
  const facts = await loadLineFacts(
    db,
    lines.map((line) => line.id),
  );
  const money = lines.map((line) =>
    lineMoney(
      line,
      facts.routes.filter((route) => route.line_id === line.id),
      order.currency,
    ),
  );
  const amount = roundMoney(sum(money.map((row) => row.amount)), order.currency);
  const open = views.filter((view) => view.state !== 'done');
  const hasNoDay = open.some((view) => compareDecimal(view.uncovered, '0') > 0 || view.schedule.some((entry) => entry.broken));
  const days = open.flatMap((view) => view.schedule.map((entry) => entry.arrives ?? entry.day));
  return {
    id: order.id,
    number: order.number,
    state: order.state,
    progress: progressOf(order.state, views),
    version: order.version,
    priority: order.priority,
    placed: order.place !== null,
    savedAt: order.saved_at.toISOString(),
    customer: {
      id: order.customer_id,
      number: order.customer_number,
      name: order.customer_name,
      phone: order.phone,
      contact: order.contact,
      notes: order.notes,
      shipTos,
      confidence: order.confidence,
    },
    deskConfidence: await deskConfidence(db),
    shipTo: {
      id: order.ship_to_id,
      name: order.ship_name,
      street: order.ship_street,
      postcode: order.ship_postcode,
      town: order.ship_town,
      country: order.ship_country,
    },
    poNumber: order.po_number,
    requestKind: order.request_kind,
    requestedDay: order.order_day,
    warehouse: order.warehouse,
    carrier: { code: order.carrier_service, name: order.carrier_name, transitDays: order.transit_days },
    shipComplete: order.ship_complete,
    source: order.source,
    note: order.note,
    lines: views,
    wholeDay: hasNoDay || days.length === 0 ? null : days.reduce((a, b) => (a > b ? a : b)),
    amount,
    marginPercent: marginPercent(amount, sum(money.map((row) => row.cost))),
    weight: lines.reduce((total, line) => plus(total, times(minus(line.stock_quantity, line.cancelled), line.weight)), '0'),
    currency: order.currency,
    spoken: spokenOrder(open, now.today),
    calls: await openCalls(db, order.id),
    shipments: await loadShipments(db, order.id),
  };
}

async function openCalls(db: Db, orderId: number): Promise<number> {
  const rows = await db.selectFrom('customer_call').select('id').where('order_id', '=', orderId).where('done_at', 'is', null).execute();
  return rows.length;
}

function spokenOrder(open: readonly LineView[], today: string): string {
  const late = open.filter((view) => view.state !== 'covered');
  if (open.length === 0) return '';
  if (late.length === 0)
    return `Everything leaves in time, the last of it ${shortDay(
      open.flatMap((view) => view.schedule.map((entry) => entry.day)).reduce((a, b) => (a > b ? a : b)),
      today,
    )}.`;
  return late.map((view) => `${view.description}: ${view.spoken}`).join(' ');
}

async function loadShipments(db: Db, orderId: number): Promise<OrderView['shipments']> {
  const rows = await db
    .selectFrom('shipment')
    .leftJoin('warehouse', 'warehouse.code', 'shipment.warehouse')
    .leftJoin('purchase_order', 'purchase_order.id', 'shipment.purchase_id')
    .leftJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .innerJoin('shipment_line', 'shipment_line.shipment_id', 'shipment.id')
    .innerJoin('order_line', 'order_line.id', 'shipment_line.order_line_id')
    .select([
      'shipment.id',
      'shipment.number',
      'shipment.state',
      'shipment.tracking',
      'shipment.shipped_day',
      'warehouse.name as warehouse_name',
      'supplier.name as supplier_name',
      'order_line.line_no',
      'shipment_line.quantity',
    ])
    .where('shipment.order_id', '=', orderId)
    .orderBy('shipment.id')
    .orderBy('order_line.line_no')
    .execute();
  const byId = new Map<
    number,
    {
      id: number;
      number: string;
      state: 'picking' | 'shipped' | 'cancelled';
      from: string;
      day: string | null;
      tracking: string;
      lines: { lineNo: number; quantity: string }[];
    }
  >();
  for (const row of rows) {
    const found = byId.get(row.id) ?? {
      id: row.id,
      number: row.number,
      state: row.state,
      from: row.warehouse_name ?? row.supplier_name ?? '',
      day: row.shipped_day,
      tracking: row.tracking,
      lines: [],
    };
    found.lines.push({ lineNo: row.line_no, quantity: row.quantity });
    byId.set(row.id, found);
  }
  return [...byId.values()];
}

/** How far an order has come, in a word, from its quantities. */
export function progressOf(
  state: OrderRecord['state'],
  lines: readonly Pick<LineView, 'stockQuantity' | 'shipped' | 'cancelled' | 'picking' | 'waiting'>[],
): string {
  if (state !== 'released') return state;
  const above = (pick: (line: (typeof lines)[number]) => string) => lines.some((line) => compareDecimal(pick(line), '0') > 0);
  const open = lines.some((line) => compareDecimal(plus(line.shipped, line.cancelled), line.stockQuantity) < 0);
  if (!open) return above((line) => line.shipped) ? 'shipped' : 'cancelled';
  if (above((line) => line.picking)) return 'picking';
  if (above((line) => line.shipped)) return 'part shipped';
  return above((line) => line.waiting) ? 'part waiting' : 'promised';
}
