import type { ShortageRow } from '@nockwright/contract/shortages';
import { daysBetween } from '@nockwright/core/calendar';
import { compareDecimal, divide, lineAmount, times } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { decimal, loadBook } from '../promise';

/** Every released quantity that waits, is late or has lost its supply; most value first. */
export async function listShortages(db: Db, now: Now): Promise<ShortageRow[]> {
  const live = await loadBook(db, now);
  const result = promiseBook(live.book);
  const requested = new Map(live.book.demand.map((row) => [row.id, row.requested]));
  const found: { demand: string; quantity: number; kind: ShortageRow['kind']; promisedDay: string | null; possibleDay: string | null }[] = [];
  for (const { id, schedule, uncovered } of result.promises) {
    const offered = schedule.filter((entry) => !entry.kept);
    const waiting = offered.reduce((sum, entry) => sum + entry.quantity, 0) + uncovered;
    if (waiting > 0)
      found.push({ demand: id, quantity: waiting, kind: 'waiting', promisedDay: null, possibleDay: uncovered > 0 ? null : offered[offered.length - 1]!.date });
  }
  for (const { id, date, quantity, arrives } of result.atRisk)
    found.push({ demand: id, quantity, kind: arrives === null ? 'broken' : 'late', promisedDay: date, possibleDay: arrives });

  const lines = await loadLines(
    db,
    found.map((row) => live.demands.get(row.demand)!.lineId),
  );
  const suppliers = await suppliersOf(db, [...new Set(found.map((row) => live.demands.get(row.demand)!.item))]);
  const asked = new Set((await db.selectFrom('consent_request').select('line_id').where('state', '=', 'open').execute()).map((row) => row.line_id));
  const rows = found.map(({ demand, quantity, kind, promisedDay, possibleDay }): ShortageRow => {
    const info = live.demands.get(demand)!;
    const line = lines.get(info.lineId)!;
    return {
      order: info.orderId,
      number: info.orderNumber,
      line: info.lineId,
      lineNo: info.lineNo,
      customer: line.customer,
      item: info.item,
      description: line.description,
      unit: line.unit,
      warehouse: info.warehouse,
      requested: requested.get(demand)!,
      quantity: decimal(quantity),
      value: lineAmount(decimal(quantity), divide(times(line.price, line.denominator), line.numerator, 6), line.currency),
      kind,
      promisedDay,
      possibleDay,
      suppliers: suppliers.get(info.item) ?? [],
      asked: asked.has(info.lineId),
      daysLate: possibleDay === null ? null : Math.max(0, daysBetween(requested.get(demand)!, possibleDay)),
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
    .select([
      'order_line.id',
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
