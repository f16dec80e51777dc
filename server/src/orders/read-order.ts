import type { LineView, OrderView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal, marginPercent, minus, plus, roundMoney, sum, times } from '@nockwright/core/money';
import { quoteStanding, shipmentsPlanned, USUALLY_SURE, type Quote } from '@nockwright/core/orders';
import { promiseBook, type DemandPromise } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { creditView, loadReminders, readCredit } from '../customers';
import { anyOf, keepPlans, together, type Db } from '../database';
import { deskConfidence, loadBook, loadOdds, loadWarehouses } from '../promise';
import { floorMargin } from './floor-margin';
import { holdView, loadHolds } from './load-holds';
import { loadTasks } from './tasks';
import { loadQuoteFacts, type QuoteFacts } from './load-quote';
import { costOf, lineMoney, lineView, type LineViewFacts } from './line-view';
import { loadFiles, loadPapers } from './load-papers';
import { listForExport } from './list-orders';
import { lookUpPrices } from './look-up-prices';
import { shipToView } from './ship-to-text';
import { isOffered, loadLineFacts, loadOrder, loadOrderLines, type LineFacts, type OrderLineRecord, type OrderRecord } from './load-order';

/** An order with every line's promise as it stands now and why. */
export function readOrder(db: Db, now: Now, orderId: number): Promise<OrderView> {
  return keepPlans(db, () =>
    together(db, async (reads) => {
      const [order, lines] = await Promise.all([loadOrder(reads, orderId), loadOrderLines(reads, orderId)]);
      const [viewed, beside] = await Promise.all([viewLines(reads, now, order, lines), loadBeside(reads, now, order)]);
      return toOrderView(now, order, lines, viewed, beside);
    }),
  );
}

/** Lines as they are shown, with what was loaded for it. */
interface Viewed {
  readonly views: readonly LineView[];
  readonly facts: LineFacts;
  readonly quote: Omit<QuoteFacts, 'orders'> & Pick<OrderView, 'orders'>;
  /** How sure the desk's promises must be, in percent; null: the supplier's day is believed. */
  readonly desk: number | null;
  /** What so many goods of a line cost by the supply they are pegged to. */
  readonly costOfLine: (line: OrderLineRecord) => ReturnType<typeof costOf>;
}

async function viewLines(db: Db, now: Now, order: OrderRecord, lines: readonly OrderLineRecord[]): Promise<Viewed> {
  const draft = isOffered(order) ? order.id : undefined;
  const ids = lines.map((line) => line.id);
  const [quote, live, facts, warehouses, odds, desk, questions, prices] = await Promise.all([
    loadQuoted(db, order, now.today),
    loadBook(db, now, { items: [...new Set(lines.map((line) => line.item))], ...(draft === undefined ? {} : { draft }) }),
    loadLineFacts(db, ids),
    loadWarehouses(db),
    loadOdds(db),
    deskConfidence(db),
    loadQuestions(db, ids, now.today),
    isOffered(order) ? lookUpPrices(db, order, lines, now.today) : undefined,
  ]);
  const result = promiseBook(live.book);
  const promiseOf = byDemand(result.promises);
  const warehouseOf = new Map(warehouses.map((row) => [row.code, row]));
  const sure = order.confidence ?? desk ?? USUALLY_SURE;
  const surely = await promiseSurely(db, now, order, lines, promiseOf, desk);
  const views = lines.map((line) =>
    lineView({
      order,
      line,
      facts,
      live,
      result,
      promiseOf,
      surely,
      prices: prices?.get(line.id),
      warehouse: warehouseOf.get(line.warehouse)!,
      now,
      quote,
      odds,
      sure,
      lineNoOf: (id) => lines.find((row) => row.id === id)?.line_no ?? null,
      askedOf: (id) => questions.get(id) ?? null,
    }),
  );
  return { views, facts, quote, desk, costOfLine: (line) => costOf({ line, live, promiseOf }) };
}

/**
 * What waits of a released order, promised on the days that are sure enough for its customer; null where nothing waits or
 * nobody wants it surer than the suppliers say. What was told is judged by the suppliers' days all the same.
 */
async function promiseSurely(
  db: Db,
  now: Now,
  order: OrderRecord,
  lines: readonly OrderLineRecord[],
  promiseOf: ReadonlyMap<string, DemandPromise>,
  desk: number | null,
): Promise<LineViewFacts['surely']> {
  if (order.state !== 'released' || (order.confidence ?? desk) === null) return null;
  const waits = [...promiseOf].some(([, { schedule }]) => schedule.some((entry) => !entry.kept));
  if (!waits) return null;
  const live = await loadBook(db, now, { items: [...new Set(lines.map((line) => line.item))], surely: order.id });
  return { live, promiseOf: byDemand(promiseBook(live.book).promises) };
}

function byDemand(promises: readonly DemandPromise[]): ReadonlyMap<string, DemandPromise> {
  return new Map(promises.map((promise) => [promise.id, promise]));
}

/** What is shown of an order beside its lines. */
async function loadBeside(db: Db, now: Now, order: OrderRecord) {
  const [shipTos, contracts, holds, shipments, reminders, credit, poRepeats, tasks, papers, files, floor, calls] = await Promise.all([
    db
      .selectFrom('ship_to')
      .select(['id', 'name', 'street', 'postcode', 'town', 'country'])
      .where('customer_id', '=', order.customer_id)
      .orderBy('id')
      .execute(),
    loadContractNames(db, order),
    loadHolds(db, order.id),
    loadShipments(db, order.id),
    loadReminders(db, order.customer_id),
    readCredit(db, order.customer_id, now.today),
    loadPoRepeats(db, order),
    loadTasks(db, order.id),
    loadPapers(db, order.id),
    loadFiles(db, order.id),
    floorMargin(db),
    openCalls(db, order.id),
  ]);
  return { shipTos, contracts, holds, shipments, reminders, credit: creditView(credit), poRepeats, tasks, papers, files, floor, calls };
}

function toOrderView(
  now: Now,
  order: OrderRecord,
  lines: readonly OrderLineRecord[],
  { views, facts, quote, desk, costOfLine }: Viewed,
  { shipTos, contracts, holds, shipments, reminders, credit, poRepeats, tasks, papers, files, floor, calls }: Awaited<ReturnType<typeof loadBeside>>,
): OrderView {
  // An alternative is in no total.
  const counted = lines.filter((line) => !line.alternative);
  const money = counted.map((line) =>
    lineMoney(
      line,
      facts.routes.filter((route) => route.line_id === line.id),
      order.currency,
      costOfLine(line),
    ),
  );
  const amount = roundMoney(sum(money.map((row) => row.amount)), order.currency);
  const open = views.filter((view) => view.state !== 'done' && !view.alternative);
  const hasNoDay = open.some((view) => compareDecimal(view.uncovered, '0') > 0 || view.schedule.some((entry) => entry.broken));
  const days = open.flatMap((view) => view.schedule.map((entry) => entry.arrives ?? entry.day));
  return {
    id: order.id,
    kind: order.kind,
    number: order.number,
    state: order.state,
    progress: holds.some((hold) => hold.cleared_at === null) ? 'held' : progressOfOrder(order, views, shipments, now.today),
    validUntil: order.valid_until,
    revision: order.revision,
    lost: order.lost_reason && { reason: order.lost_reason, note: order.lost_note },
    orders: quote.orders,
    quote: quote.quote,
    version: order.version,
    priority: order.priority,
    placed: order.place !== null,
    savedAt: order.saved_at.toISOString(),
    customer: {
      id: order.customer_id,
      number: order.customer_number,
      name: order.customer_name,
      prospect: order.prospect,
      phone: order.phone,
      contact: order.contact,
      email: order.email,
      notes: order.notes,
      reminders,
      shipTos,
      confidence: order.confidence,
      routePolicy: order.route_policy,
      asksWhenLate: order.asks_when_late,
      leastLife: order.least_life,
      credit,
    },
    deskConfidence: desk,
    shipTo: shipToView(order),
    poNumber: order.po_number,
    poRepeats,
    requestKind: order.request_kind,
    requestedDay: order.order_day,
    warehouse: order.warehouse,
    carrier: { code: order.carrier_service, name: order.carrier_name, transitDays: order.transit_days },
    shipComplete: order.ship_complete,
    mostShipments: order.most_shipments,
    shipmentsPlanned: shipmentsPlanned(
      shipments.filter((shipment) => shipment.state === 'shipped').length,
      open.flatMap((view) =>
        view.schedule.map(({ day, arrives, dropShip }) => ({
          house: dropShip ? `drop ${view.lineNo}` : view.warehouse,
          to: view.shipTo?.id ?? null,
          day: arrives ?? day,
        })),
      ),
    ),
    termsDays: order.terms_days,
    description: order.description,
    contract: contracts.find((row) => row.id === order.contract_id) ?? null,
    contracts: contracts.filter((row) => row.lastDay >= now.today),
    mustNameContract: order.must_name_contract,
    holds: holds.map(holdView),
    tasks,
    papers,
    files,
    source: order.source,
    note: order.note,
    lines: views,
    wholeDay: hasNoDay || days.length === 0 ? null : days.reduce((a, b) => (a > b ? a : b)),
    amount,
    marginPercent: marginPercent(amount, sum(money.map((row) => row.cost))),
    floor,
    weight: counted.reduce((total, line) => plus(total, times(minus(line.stock_quantity, line.cancelled), line.weight)), '0'),
    currency: order.currency,
    spoken: spokenOrder(open, now.today),
    calls,
    shipments,
  };
}

/** Questions to the customer that are open, by line. */
async function loadQuestions(db: Db, lineIds: readonly number[], today: string): Promise<ReadonlyMap<number, LineView['asked']>> {
  const rows = await db
    .selectFrom('consent_request')
    .select(['id', 'line_id', 'question', 'answer_by'])
    .where(anyOf('line_id', lineIds))
    .where('state', '=', 'open')
    .execute();
  return new Map(rows.map((row) => [row.line_id!, { consent: row.id, question: row.question, answerBy: row.answer_by, overdue: row.answer_by < today }]));
}

/** Other orders of the customer with the number this one names; none where it names none. */
async function loadPoRepeats(db: Db, order: OrderRecord): Promise<OrderView['poRepeats']> {
  if (order.po_number === '') return [];
  const rows = await db
    .selectFrom('sales_order')
    .select(['id', 'number', 'entered'])
    .where('customer_id', '=', order.customer_id)
    .where((eb) => eb(eb.fn<string>('lower', ['po_number']), '=', order.po_number.toLowerCase()))
    .where('state', '<>', 'discarded')
    .where('id', '<>', order.id)
    .orderBy('id', 'desc')
    .limit(3)
    .execute();
  return rows.map((row) => ({ id: row.id, number: row.number ?? `draft ${row.id}`, day: row.entered.slice(0, 10) }));
}

/** The contracts the customer may buy under at the order's ship-to, and the one it names in any case. */
async function loadContractNames(db: Db, order: OrderRecord): Promise<OrderView['contracts']> {
  return db
    .selectFrom('contract')
    .select(['contract.id', 'contract.number', 'contract.name', 'contract.last_day as lastDay'])
    .where(({ exists, selectFrom, eb, or }) =>
      or([
        eb('contract.id', '=', order.contract_id ?? 0),
        exists(
          selectFrom('contract_customer')
            .select('customer_id')
            .whereRef('contract_customer.contract_id', '=', 'contract.id')
            .where('customer_id', '=', order.customer_id)
            .where((ships) => ships.or([ships('ship_to_id', 'is', null), ships('ship_to_id', '=', order.ship_to_id)])),
        ),
      ]),
    )
    .orderBy('contract.number')
    .execute();
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
    .leftJoin('invoice', 'invoice.id', 'shipment.invoice_id')
    .innerJoin('shipment_line', 'shipment_line.shipment_id', 'shipment.id')
    .innerJoin('order_line', 'order_line.id', 'shipment_line.order_line_id')
    .select([
      'shipment.id',
      'shipment.number',
      'shipment.state',
      'shipment.tracking',
      'shipment.shipped_day',
      'invoice.number as invoice',
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
      invoice: string | null;
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
      invoice: row.invoice,
      lines: [],
    };
    found.lines.push({ lineNo: row.line_no, quantity: row.quantity });
    byId.set(row.id, found);
  }
  return [...byId.values()];
}

/** How a quote stands, or how far an order has come. */
function progressOfOrder(order: OrderRecord, views: readonly LineView[], shipments: OrderView['shipments'], today: string): string {
  if (order.kind === 'order') return progressOf(order.state, views, isBilled(shipments));
  const state = order.state as Quote['state'];
  return quoteStanding({ state, validUntil: order.valid_until!, lines: views }, today);
}

/** What a quote led to, its orders with how far they have come. */
async function loadQuoted(db: Db, order: OrderRecord, today: string): Promise<Viewed['quote']> {
  const facts = await loadQuoteFacts(db, order);
  if (facts.orders.length === 0) return { ...facts, orders: [] };
  const rows = await listForExport(db, today, { state: 'all', reverse: true, orders: facts.orders.map((row) => row.id).join(',') });
  return { ...facts, orders: rows.map(({ id, number, progress }) => ({ id, number, progress })) };
}

function isBilled(shipments: OrderView['shipments']): boolean {
  const shipped = shipments.filter((shipment) => shipment.state === 'shipped');
  return shipped.length > 0 && shipped.every((shipment) => shipment.invoice !== null);
}

/** How far an order has come, in a word, from its quantities. */
export function progressOf(
  state: OrderRecord['state'],
  lines: readonly Pick<LineView, 'stockQuantity' | 'shipped' | 'cancelled' | 'picking' | 'waiting'>[],
  /** All that was shipped is on an invoice. */
  billed: boolean,
): string {
  if (state !== 'released') return state;
  const above = (pick: (line: (typeof lines)[number]) => string) => lines.some((line) => compareDecimal(pick(line), '0') > 0);
  const open = lines.some((line) => compareDecimal(plus(line.shipped, line.cancelled), line.stockQuantity) < 0);
  if (!open) return above((line) => line.shipped) ? (billed ? 'billed' : 'shipped') : 'cancelled';
  if (above((line) => line.picking)) return 'picking';
  if (above((line) => line.shipped)) return 'part shipped';
  return above((line) => line.waiting) ? 'part waiting' : 'promised';
}
