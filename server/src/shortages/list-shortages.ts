import type { ShortageRow } from '@nockwright/contract/shortages';
import { daysBetween } from '@nockwright/core/calendar';
import { compareDecimal, divide, lineAmount, times } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { bookReading } from '../http/whole-book';
import { decimal, loadBook, requestedDayOf, slippedDropShipments, type DemandInfo } from '../promise';

/** Where a line of a shortage stands. */
type Place = Pick<DemandInfo, 'lineId' | 'lineNo' | 'orderId' | 'orderNumber' | 'item'>;

interface Found extends Pick<ShortageRow, 'kind' | 'quantity' | 'promisedDay' | 'possibleDay' | 'dropShip'> {
  readonly place: Place;
}

/** Every released quantity that waits, is late or has lost its supply; most value first. */
export async function listShortages(db: Db, now: Now): Promise<ShortageRow[]> {
  const live = await loadBook(db, now);
  const result = promiseBook(live.book);
  const found: Found[] = [];
  for (const { id, schedule, uncovered } of result.promises) {
    const offered = schedule.filter((entry) => !entry.kept);
    const waiting = offered.reduce((sum, entry) => sum + entry.quantity, 0) + uncovered;
    const possibleDay = uncovered > 0 ? null : (offered.at(-1)?.date ?? null);
    if (waiting > 0) found.push({ place: live.demands.get(id)!, quantity: decimal(waiting), kind: 'waiting', promisedDay: null, possibleDay, dropShip: false });
  }
  for (const { id, date, quantity, arrives } of result.atRisk) {
    const kind = arrives === null ? 'broken' : 'late';
    found.push({ place: live.demands.get(id)!, quantity: decimal(quantity), kind, promisedDay: date, possibleDay: arrives, dropShip: false });
  }
  for (const { line, lineNo, order, orderNumber, item, quantity, told, leaves } of await slippedDropShipments(db, now.today)) {
    const place = { lineId: line, lineNo, orderId: order, orderNumber, item };
    found.push({ place, quantity, kind: 'late', promisedDay: told, possibleDay: leaves, dropShip: true });
  }

  const lines = await loadLines(
    db,
    found.map((row) => row.place.lineId),
  );
  const suppliers = await suppliersOf(db, [...new Set(found.map((row) => row.place.item))]);
  const asked = new Set((await db.selectFrom('consent_request').select('line_id').where('state', '=', 'open').execute()).map((row) => row.line_id));
  const rows = found.map(({ place, quantity, possibleDay, ...rest }): ShortageRow => {
    const line = lines.get(place.lineId)!;
    const requested = requestedDayOf(line, line);
    return {
      order: place.orderId,
      number: place.orderNumber,
      line: place.lineId,
      lineNo: place.lineNo,
      customer: line.customer,
      item: place.item,
      description: line.description,
      unit: line.unit,
      warehouse: line.warehouse,
      requested,
      quantity,
      value: lineAmount(quantity, divide(times(line.price, line.denominator), line.numerator, 6), line.currency),
      possibleDay,
      ...rest,
      suppliers: suppliers.get(place.item) ?? [],
      asked: asked.has(place.lineId),
      daysLate: possibleDay === null ? null : Math.max(0, daysBetween(requested, possibleDay)),
    };
  });
  return rows.sort((a, b) => compareDecimal(b.value, a.value));
}

async function loadLines(db: Db, ids: readonly number[]) {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('item', 'item.code', 'order_line.item')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .select([
      'order_line.id',
      'order_line.warehouse',
      'order_line.requested_day',
      'sales_order.requested_day as order_day',
      'sales_order.request_kind',
      'carrier_service.transit_days',
      'customer.name as customer',
      'item.description',
      'item.unit',
      'order_line.price',
      'order_line.numerator',
      'order_line.denominator',
      'sales_order.currency',
    ])
    .where(anyOf('order_line.id', [...new Set(ids)]))
    .execute();
  return new Map(rows.map((row) => [row.id, row]));
}

/** Who sells each item, the cheapest first. */
async function suppliersOf(db: Db, items: readonly string[]): Promise<ReadonlyMap<string, string[]>> {
  const rows = await db
    .selectFrom('supplier_item')
    .innerJoin('supplier', 'supplier.code', 'supplier_item.supplier')
    .select(['supplier_item.item', 'supplier.name'])
    .where(anyOf('supplier_item.item', items))
    .orderBy('supplier_item.cost')
    .orderBy('supplier.name')
    .execute();
  const found = new Map<string, string[]>();
  for (const row of rows) found.set(row.item, [...(found.get(row.item) ?? []), row.name]);
  return found;
}

/** The board of shortages. */
export const shortagesReading = bookReading('shortages', (db, now, _: null) => listShortages(db, now));
