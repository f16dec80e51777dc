import type { ItemCode, LineId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import { type LiveBook, requestedDayOf } from '@nockwright/core/book';
import { daysLate } from '@nockwright/core/calendar';
import { compareDecimal, divide, lineAmount, minus, times } from '@nockwright/core/money';
import { lineStandings, openOffers, ordersThatTie, type LineStanding, type Moved } from '@nockwright/core/promise';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { decimal, loadBook, slippedDropShipments } from '../promise';

/** What boards show, in the shape in which it is kept. */
export interface Boards {
  /** The items it is about: all there are where it is of the whole book. */
  readonly items: readonly string[];
  readonly short: readonly ShortRow[];
  readonly ready: readonly ReadyRow[];
  readonly gaps: readonly { readonly line_id: LineId; readonly order_id: OrderId; readonly item: ItemCode }[];
  readonly offers: readonly OfferRow[];
  readonly ties: readonly { readonly order_id: OrderId; readonly item: ItemCode }[];
}

export interface ShortRow {
  readonly line_id: LineId;
  readonly item: ItemCode;
  readonly kind: 'waiting' | 'late' | 'broken';
  readonly quantity: string;
  readonly promised_day: string | null;
  readonly possible_day: string | null;
  readonly drop_ship: boolean;
  readonly requested: string;
  readonly days_late: number | null;
  readonly value: string;
  readonly search: string;
}

export interface ReadyRow {
  readonly line_id: LineId;
  readonly order_id: OrderId;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  /** On hand for it and not being picked. */
  readonly quantity: string;
  readonly day: string;
}

export interface OfferRow {
  readonly line_id: LineId;
  readonly item: ItemCode;
  /** Whether the customer was told a day. */
  readonly told: boolean;
  readonly priority: number;
  readonly place: number;
  readonly move: Omit<Moved, 'id'>;
}

/** Computes what boards show of some items and of all that is tied to them; of the whole book where none are given. */
export async function computeBoards(db: Db, now: Now, items?: readonly string[]): Promise<Boards> {
  const { live, standings, tied } = await loadTied(db, now, items);
  const covered = live.book.items.map((item) => item.id);
  return {
    items: covered,
    short: await shortRows(db, now, live, standings, items && covered),
    ...(await shelfRows(db, live, standings)),
    offers: offerRows(live),
    ties: tied,
  };
}

/** The book of some items, with all items of orders that tie them to others as things stand. */
async function loadTied(db: Db, now: Now, items?: readonly string[]) {
  for (let wanted = items; ;) {
    const live = await loadBook(db, now, wanted ? { items: wanted } : {});
    const standings = lineStandings(live.book);
    const tie = ordersThatTie(live.book, standings);
    const ids = new Set(standings.flatMap((_, at) => (tie.has(live.book.demand[at]!.order) ? [live.demands.get(live.book.demand[at]!.id)!.orderId] : [])));
    const tied = await db
      .selectFrom('order_line')
      .select(['order_id', 'item'])
      .distinct()
      .where(anyOf('order_id', [...ids]))
      .whereRef(sql`shipped + cancelled`, '<', 'stock_quantity')
      .execute();
    const known = new Set(live.book.items.map((item) => item.id));
    const more = tied.filter((row) => !known.has(row.item));
    if (more.length === 0) return { live, standings, tied };
    wanted = [...known, ...new Set(more.map((row) => row.item))];
  }
}

async function shortRows(db: Db, now: Now, live: LiveBook, standings: readonly LineStanding[], items?: readonly string[]): Promise<ShortRow[]> {
  const found = standings.flatMap(({ id, short }) =>
    short.map(({ kind, quantity, promisedDay, possibleDay }) => ({
      line: live.demands.get(id)!.lineId,
      kind,
      quantity: decimal(quantity),
      promisedDay,
      possibleDay,
      dropShip: false,
    })),
  );
  for (const { line, quantity, told, leaves } of await slippedDropShipments(db, now.today, items ? { items } : {}))
    found.push({ line, quantity, kind: 'late', promisedDay: told, possibleDay: leaves, dropShip: true });
  const lines = await loadShortLines(
    db,
    found.map((row) => row.line),
  );
  return found.map(({ line: id, kind, quantity, promisedDay, possibleDay, dropShip }): ShortRow => {
    const line = lines.get(id)!;
    const requested = requestedDayOf(line, line);
    return {
      line_id: id,
      item: line.item,
      kind,
      quantity,
      promised_day: promisedDay,
      possible_day: possibleDay,
      drop_ship: dropShip,
      requested,
      days_late: possibleDay === null ? null : daysLate(requested, possibleDay),
      value: lineAmount(quantity, divide(times(line.price, line.denominator), line.numerator, 6), line.currency),
      search: line.search,
    };
  });
}

async function loadShortLines(db: Db, ids: readonly number[]) {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('item', 'item.code', 'order_line.item')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .select([
      'order_line.id',
      'order_line.item',
      'order_line.requested_day',
      'sales_order.requested_day as order_day',
      'sales_order.request_kind',
      'carrier_service.transit_days',
      'order_line.price',
      'order_line.numerator',
      'order_line.denominator',
      'sales_order.currency',
      sql<string>`lower(concat_ws(' ', item.code, item.description, sales_order.number, customer.name, order_line.warehouse,
        (select string_agg(u.name, ' ' order by u.name) from supplier_item i join supplier u on u.code = i.supplier where i.item = item.code)))`.as('search'),
    ])
    .where(anyOf('order_line.id', [...new Set(ids)]))
    .execute();
  return new Map(rows.map((row) => [row.id, row]));
}

/** What is on the shelf for lines, less what is being picked of it; and what keeps complete orders from leaving. */
async function shelfRows(db: Db, live: LiveBook, standings: readonly LineStanding[]): Promise<Pick<Boards, 'ready' | 'gaps'>> {
  const infoOf = (row: LineStanding) => live.demands.get(row.id)!;
  const onShelf = standings.filter((row) => row.onHand > 0);
  const picking = await loadPicking(
    db,
    onShelf.map((row) => infoOf(row).lineId),
  );
  const ready = onShelf.flatMap((row): ReadyRow[] => {
    const { lineId, orderId, item, warehouse } = infoOf(row);
    const quantity = minus(decimal(row.onHand), picking.get(lineId) ?? '0');
    return compareDecimal(quantity, '0') > 0 ? [{ line_id: lineId, order_id: orderId, item, warehouse, quantity, day: row.readyDay! }] : [];
  });
  const complete = new Set(live.book.orders.filter((order) => order.shipComplete).map((order) => order.id));
  const gaps = standings
    .filter((row) => !row.whole && complete.has(infoOf(row).orderNumber))
    .map((row) => ({ line_id: infoOf(row).lineId, order_id: infoOf(row).orderId, item: infoOf(row).item }));
  return { ready, gaps };
}

async function loadPicking(db: Db, lines: readonly number[]): Promise<Map<number, string>> {
  const rows = await db
    .selectFrom('shipment_line')
    .innerJoin('shipment', 'shipment.id', 'shipment_line.shipment_id')
    .select(({ fn }) => ['order_line_id', fn.sum<string>('quantity').as('quantity')])
    .where('shipment.state', '=', 'picking')
    .where(anyOf('order_line_id', lines))
    .groupBy('order_line_id')
    .execute();
  return new Map(rows.map((row) => [row.order_line_id, row.quantity]));
}

function offerRows(live: LiveBook): OfferRow[] {
  const told = new Map(live.book.demand.map((demand) => [demand.id, (demand.promised ?? []).length > 0]));
  return openOffers(live.book).map(({ id, ...move }) => {
    const { lineId, item, orderNumber } = live.demands.get(id)!;
    const { priority, place } = live.turns.get(orderNumber)!;
    return { line_id: lineId, item, told: told.get(id)!, priority, place, move };
  });
}
