import type { RouteChoice } from '@nockwright/contract/orders';
import { compareDecimal, divide, least, minus, plus, sum, times } from '@nockwright/core/money';
import { routesFor, type SupplierOffer } from '@nockwright/core/shortages';
import { promiseBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import type { Db } from '../database';
import { invalid, notFound } from '../http/refusal';
import { loadOrder, loadOrderLines, readOrder } from '../orders';
import { decimal, loadBook, loadWarehouses } from '../promise';

/** The ways to serve what is short or late of a line; `quantity` (stocking units) asks about a part of it. */
export async function readRoutes(
  db: Db,
  now: Now,
  orderId: number,
  lineId: number,
  quantity?: string,
): Promise<{ short: string; unit: string; routes: RouteChoice[] }> {
  const order = await loadOrder(db, orderId);
  const line = (await loadOrderLines(db, orderId)).find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this order`);
  const view = (await readOrder(db, now, orderId)).lines.find((row) => row.id === lineId)!;
  const late = view.schedule.filter((entry) => !entry.dropShip && (entry.broken || (entry.arrives ?? entry.day) > view.requested));
  const open = minus(minus(minus(view.stockQuantity, view.shipped), view.cancelled), view.dropShip);
  // On a draft what has been given a way is settled, though it is late by that way; drop shipments are off the schedule.
  const planned = order.state === 'draft' ? view.routes.filter((route) => route.kind !== 'drop_ship') : [];
  const settled = sum(planned.map((route) => route.quantity));
  const unsettled = minus(plus(view.uncovered, sum(late.map((entry) => entry.quantity))), settled);
  const short = compareDecimal(unsettled, '0') > 0 ? least(unsettled, open) : '0';
  const asked = quantity ?? short;
  if (compareDecimal(asked, open) > 0) throw invalid('query.quantity', `${asked} is more than the ${open} open on this line`);
  if (compareDecimal(asked, '0') <= 0) return { short: '0', unit: view.stockUnit, routes: [] };

  const inbound = await inboundFor(db, now, order, line, asked);
  const warehouse = (await loadWarehouses(db)).find((row) => row.code === line.warehouse)!.book;
  const routes = routesFor({
    today: now.today,
    quantity: asked,
    requested: view.requested,
    warehouse: { workdays: warehouse.workdays, closed: warehouse.closed ?? [], receivingDays: warehouse.receivingDays ?? 0 },
    transitDays: order.transit_days,
    unitPrice: divide(times(line.price, line.denominator), line.numerator, 6),
    unitCost: line.cost,
    currency: order.currency,
    inbound,
    offers: await loadOffers(db, line.item),
  });
  // Of a released order only what waits can be left waiting: what is promised late is on its way already.
  const mayWait = order.state === 'draft' || compareDecimal(asked, view.waiting) <= 0;
  return { short, unit: view.stockUnit, routes: mayWait ? routes : routes.filter((route) => route.kind !== 'backorder') };
}

/** On which days known supply gives the last `quantity` of the line, and what it never gives. */
async function inboundFor(
  db: Db,
  now: Now,
  order: { readonly id: number; readonly state: string },
  line: { readonly id: number; readonly item: string },
  quantity: string,
) {
  const live = await loadBook(db, now, { items: [line.item], surely: order.id, ...(order.state === 'draft' ? { draft: order.id } : {}) });
  const promise = promiseBook(live.book).promises.find((row) => row.id === live.demandOfLine.get(line.id));
  const uncovered = least(decimal(promise?.uncovered ?? 0), quantity);
  let missing = minus(quantity, uncovered);
  const days: { day: string; quantity: string }[] = [];
  for (const entry of [...(promise?.schedule ?? [])].reverse()) {
    if (compareDecimal(missing, '0') <= 0) break;
    const part = least(missing, decimal(entry.quantity));
    days.unshift({ day: entry.date, quantity: part });
    missing = minus(missing, part);
  }
  return { days, uncovered };
}

export async function loadOffers(db: Db, item: string): Promise<SupplierOffer[]> {
  const rows = await db
    .selectFrom('supplier_item')
    .innerJoin('supplier', 'supplier.code', 'supplier_item.supplier')
    .select([
      'supplier.code',
      'supplier.name',
      'supplier_item.cost',
      'supplier_item.lead_days as item_lead_days',
      'supplier.lead_days',
      'minimum',
      'multiple',
      'drop_ships',
      'drop_ship_fee',
    ])
    .where('supplier_item.item', '=', item)
    .orderBy('supplier.code')
    .execute();
  return rows.map((row) => ({
    supplier: row.code,
    name: row.name,
    cost: row.cost,
    leadDays: row.item_lead_days ?? row.lead_days,
    minimum: row.minimum,
    multiple: row.multiple,
    dropShips: row.drop_ships,
    dropShipFee: row.drop_ship_fee,
  }));
}
