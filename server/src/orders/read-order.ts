import type { OrderId } from '@nockwright/core/ids';
import type { IsoDay } from '@nockwright/core/calendar';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { compareDecimal, marginPercent, minus, plus, roundMoney, sum, times } from '@nockwright/core/money';
import { shipmentsPlanned, spokenOrder, USUALLY_SURE, type ToldLine } from '@nockwright/core/orders';
import { promiseBook, type DemandPromise } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { creditView, loadReminders, readCredit } from '../customers';
import { keepPlans, together, type Db } from '../database';
import { deskConfidence, loadBook, loadOdds, loadWarehouses } from '../promise';
import { floorMargin } from './floor-margin';
import { holdView, loadHolds } from './load-holds';
import { loadTasks } from './tasks';
import { costOf, lineMoney, lineView, type LineViewFacts } from './line-view';
import { loadFiles, loadPapers } from './load-papers';
import { lookUpPrices } from './look-up-prices';
import { shipToView } from './ship-to-text';
import { isOffered, loadLineFacts, loadOrder, loadOrderLines, type OrderLineRecord, type OrderRecord } from './load-order';
import { progressOfOrder } from './order-progress';
import { type Viewed, loadContractNames, loadPoRepeats, loadQuestions, loadQuoted, loadShipments, openCalls } from './order-beside';

/** An order with every line's promise as it stands now and why. */
export function readOrder(db: Db, now: Now, orderId: OrderId): Promise<OrderView> {
  return keepPlans(db, () =>
    together(db, async (reads) => {
      const [order, lines] = await Promise.all([loadOrder(reads, orderId), loadOrderLines(reads, orderId)]);
      const [viewed, beside] = await Promise.all([viewLines(reads, now, order, lines), loadBeside(reads, now, order)]);
      return toOrderView(now, order, lines, viewed, beside);
    }),
  );
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
  { shipTos, contracts, holds, shipments, reminders, credit, poRepeats, tasks, papers, files, floor, calls }: Beside,
): OrderView {
  const open = views.filter((view) => view.state !== 'done' && !view.alternative);
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
    customer: customerView(order, { reminders, shipTos, credit }),
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
    shipmentsPlanned: shipmentsOf(open, shipments),
    termsDays: order.terms_days,
    termsKind: order.terms_kind,
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
    wholeDay: wholeDayOf(open),
    ...totalsOf(order, lines, facts, costOfLine),
    floor,
    currency: order.currency,
    spoken: spokenOrder(open.map(told), now.today),
    calls,
    shipments,
  };
}

/** What an order comes to; an alternative is in no total. */
function totalsOf({ currency }: OrderRecord, lines: readonly OrderLineRecord[], { routes }: Viewed['facts'], costOfLine: Viewed['costOfLine']) {
  const counted = lines.filter((line) => !line.alternative);
  const money = counted.map((line) =>
    lineMoney(
      line,
      routes.filter((route) => route.line_id === line.id),
      currency,
      costOfLine(line),
    ),
  );
  const amount = roundMoney(sum(money.map((row) => row.amount)), currency);
  return {
    amount,
    marginPercent: marginPercent(amount, sum(money.map((row) => row.cost))),
    weight: counted.reduce((total, line) => plus(total, times(minus(line.stock_quantity, line.cancelled), line.weight)), '0'),
  };
}

/** The day the last of what is open leaves; null where something has no day, or nothing is open. */
function wholeDayOf(open: readonly LineView[]): IsoDay | null {
  const hasNoDay = open.some((view) => compareDecimal(view.uncovered, '0') > 0 || view.schedule.some((entry) => entry.broken));
  const days = open.flatMap((view) => view.schedule.map((entry) => entry.arrives ?? entry.day));
  return hasNoDay || days.length === 0 ? null : days.reduce((a, b) => (a > b ? a : b));
}

type Beside = Awaited<ReturnType<typeof loadBeside>>;

function customerView(order: OrderRecord, { reminders, shipTos, credit }: Pick<Beside, 'reminders' | 'shipTos' | 'credit'>): OrderView['customer'] {
  return {
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
  };
}

/** In how many shipments what is open leaves, with those that have left. */
function shipmentsOf(open: readonly LineView[], shipments: Beside['shipments']): number {
  return shipmentsPlanned(
    shipments.filter((shipment) => shipment.state === 'shipped').length,
    open.flatMap((view) =>
      view.schedule.map(({ day, arrives, dropShip }) => ({
        house: dropShip ? `drop ${view.lineNo}` : view.warehouse,
        to: view.shipTo?.id ?? null,
        day: arrives ?? day,
      })),
    ),
  );
}

/** What is open of a line, as it is told on the telephone. */
function told(view: LineView): ToldLine {
  return {
    description: view.description,
    days: view.schedule.map((entry) => entry.arrives ?? entry.day),
    open: compareDecimal(view.uncovered, '0') > 0 || view.schedule.some((entry) => entry.broken),
    late: view.state !== 'covered',
    spoken: view.spoken,
  };
}
