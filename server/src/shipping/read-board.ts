import type { ReadyOrder, ShippingBoard } from '@nockwright/contract/shipping';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { bookReading } from '../http/whole-book';
import { decimal, loadBook, type DemandInfo } from '../promise';
import { readShipments } from './read-shipment';

/** What of a line is on hand for it and not being picked yet; `day` is the day it was promised for. */
export interface ReadyLine {
  readonly demand: DemandInfo;
  readonly quantity: string;
  readonly day: string;
}

/** What can leave now, by order and warehouse, what is due first first; and what is being picked. */
export async function readBoard(db: Db, now: Now, warehouse?: string): Promise<ShippingBoard> {
  const lines = (await readyLines(db, now)).filter((row) => warehouse === undefined || row.demand.warehouse === warehouse);
  const picking = await db
    .selectFrom('shipment')
    .select('id')
    .where('state', '=', 'picking')
    .$if(warehouse !== undefined, (query) => query.where('warehouse', '=', warehouse!))
    .orderBy('id')
    .execute();
  return {
    ready: await describeReady(db, now, lines),
    picking: await readShipments(
      db,
      picking.map((row) => row.id),
    ),
  };
}

/**
 * What of which promised line is on hand and pegged to it. Of an order that must leave complete nothing is ready until
 * all of it is. `items`: only orders with these items need be looked at.
 */
export async function readyLines(db: Db, now: Now, items?: readonly string[]): Promise<ReadyLine[]> {
  const live = await loadBook(db, now, items ? { items } : {});
  const pickingOf = await loadPicking(db);
  const ready: ReadyLine[] = [];
  const incomplete = new Set<number>();
  for (const promise of promiseBook(live.book).promises) {
    const demand = live.demands.get(promise.id)!;
    let onHand = '0';
    let day: string | null = null;
    for (const entry of promise.schedule) {
      if (!entry.kept) continue;
      for (const { supply, quantity } of entry.from) {
        if (live.supplies.get(supply)!.available !== null) continue;
        onHand = plus(onHand, decimal(quantity));
        day ??= entry.date;
      }
    }
    const open = plus(sum(promise.schedule.map((entry) => decimal(entry.quantity))), decimal(promise.uncovered));
    if (compareDecimal(onHand, open) < 0) incomplete.add(demand.orderId);
    const quantity = minus(onHand, pickingOf.get(demand.lineId) ?? '0');
    if (compareDecimal(quantity, '0') > 0) ready.push({ demand, quantity, day: day! });
  }
  const complete = await db
    .selectFrom('sales_order')
    .select('id')
    .where(anyOf('id', [...incomplete]))
    .where('ship_complete', '=', true)
    .execute();
  const held = new Set(complete.map((row) => row.id));
  return ready.filter((row) => !held.has(row.demand.orderId));
}

async function loadPicking(db: Db): Promise<Map<number, string>> {
  const rows = await db
    .selectFrom('shipment_line')
    .innerJoin('shipment', 'shipment.id', 'shipment_line.shipment_id')
    .select(({ fn }) => ['order_line_id', fn.sum<string>('quantity').as('quantity')])
    .where('shipment.state', '=', 'picking')
    .groupBy('order_line_id')
    .execute();
  return new Map(rows.map((row) => [row.order_line_id, row.quantity]));
}

/** The addresses lines have of their own, and the towns of all that concern them. */
async function loadPlaces(db: Db, lines: readonly ReadyLine[]) {
  const own = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['order_line.id', 'order_line.ship_to_id as own', 'sales_order.ship_to_id as usual'])
    .where(
      anyOf(
        'order_line.id',
        lines.map((row) => row.demand.lineId),
      ),
    )
    .execute();
  const ids = [...new Set(own.flatMap((row) => [row.own ?? row.usual, row.usual]))];
  const towns = await db.selectFrom('ship_to').select(['id', 'town']).where(anyOf('id', ids)).execute();
  return {
    lines: new Map(own.flatMap((row) => (row.own === null ? [] : [[row.id, row.own] as const]))),
    towns: new Map(towns.map((row) => [row.id, row.town])),
  };
}

async function describeReady(db: Db, now: Now, lines: readonly ReadyLine[]): Promise<ReadyOrder[]> {
  const orders = await db
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .select(['sales_order.id', 'sales_order.ship_complete', 'sales_order.ship_to_id', 'customer.name', 'carrier_service.name as carrier'])
    .where(anyOf('sales_order.id', [...new Set(lines.map((row) => row.demand.orderId))]))
    .execute();
  const orderOf = new Map(orders.map((row) => [row.id, row]));
  const places = await loadPlaces(db, lines);
  const placeOf = ({ demand }: ReadyLine) => places.lines.get(demand.lineId) ?? orderOf.get(demand.orderId)!.ship_to_id;
  const items = await db
    .selectFrom('item')
    .select(['code', 'description', 'unit'])
    .where(anyOf('code', [...new Set(lines.map((row) => row.demand.item))]))
    .execute();
  const itemOf = new Map(items.map((row) => [row.code, row]));
  const groups = new Map<string, ReadyLine[]>();
  for (const line of lines) {
    const key = `${line.demand.orderId}/${line.demand.warehouse}/${placeOf(line)}`;
    const group = groups.get(key);
    if (group) group.push(line);
    else groups.set(key, [line]);
  }
  const ready = [...groups.values()].map((group): ReadyOrder => {
    const { orderId, orderNumber, warehouse } = group[0]!.demand;
    const order = orderOf.get(orderId)!;
    const day = group.map((row) => row.day).reduce((a, b) => (a < b ? a : b));
    return {
      order: orderId,
      number: orderNumber,
      customer: order.name,
      town: places.towns.get(placeOf(group[0]!))!,
      warehouse,
      carrier: order.carrier,
      shipComplete: order.ship_complete,
      day,
      due: day <= now.today,
      lines: group.map(({ demand, quantity, day: lineDay }) => {
        const item = itemOf.get(demand.item)!;
        return { line: demand.lineId, lineNo: demand.lineNo, item: demand.item, description: item.description, unit: item.unit, quantity, day: lineDay };
      }),
    };
  });
  return ready.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}

/** The board of what can leave, of one warehouse or of all. */
export const boardReading = bookReading('shippingBoard', (db, now, warehouse: string | undefined) => readBoard(db, now, warehouse));
