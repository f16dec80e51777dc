import type { OrderId, LineId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import { notFound } from '../http/refusal';
import { owedLate } from '../promise';

/** The rows of an order, as its views and commands need them. */
export async function loadOrder(db: Db, orderId: OrderId) {
  const order = await db
    .selectFrom('sales_order')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .innerJoin('ship_to', 'ship_to.id', 'sales_order.ship_to_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .selectAll('sales_order')
    .select([
      'sales_order.requested_day as order_day',
      'carrier_service.name as carrier_name',
      'carrier_service.transit_days',
      'customer.number as customer_number',
      'customer.name as customer_name',
      'customer.phone',
      'customer.contact',
      'customer.email',
      'customer.notes',
      'customer.prospect',
      'customer.must_name_contract',
      'customer.terms_kind',
      'customer.confidence',
      'customer.route_policy',
      'customer.asks_when_late',
      'customer.least_life',
      'ship_to.name as ship_name',
      'ship_to.street as ship_street',
      'ship_to.postcode as ship_postcode',
      'ship_to.town as ship_town',
      'ship_to.country as ship_country',
    ])
    .where('sales_order.id', '=', orderId)
    .executeTakeFirst();
  if (!order) throw notFound(`order ${orderId}`);
  return order;
}

/** Nothing is promised on it yet, and it may still become an order. */
export function isOffered(order: { readonly state: OrderRecord['state'] }): boolean {
  return order.state === 'draft' || order.state === 'quoted';
}

export type OrderRecord = Awaited<ReturnType<typeof loadOrder>>;

export function loadOrderLines(db: Db, orderId: OrderId) {
  return linesOf(db).where('order_line.order_id', '=', orderId).orderBy('order_line.line_no').execute();
}

/** The lines of several orders. */
export function linesOfOrders(db: Db, orders: readonly number[]) {
  return linesOf(db).where(anyOf('order_line.order_id', orders)).orderBy('order_line.order_id').orderBy('order_line.line_no').execute();
}

/** Lines by id, of whatever orders. */
export function loadOrderLinesById(db: Db, ids: readonly number[]) {
  return linesOf(db).where(anyOf('order_line.id', ids)).orderBy('order_line.order_id').orderBy('order_line.line_no').execute();
}

function linesOf(db: Db) {
  return db
    .selectFrom('order_line')
    .innerJoin('item', 'item.code', 'order_line.item')
    .leftJoin('item_unit', (join) => join.onRef('item_unit.item', '=', 'order_line.item').onRef('item_unit.unit', '=', 'order_line.unit'))
    .leftJoin('contract_line', 'contract_line.id', 'order_line.contract_line_id')
    .leftJoin('ship_to', 'ship_to.id', 'order_line.ship_to_id')
    .innerJoin('sales_order as of_order', 'of_order.id', 'order_line.order_id')
    .leftJoin('customer_item', (join) =>
      join.onRef('customer_item.customer_id', '=', 'of_order.customer_id').onRef('customer_item.item', '=', 'order_line.item'),
    )
    .selectAll('order_line')
    .select([
      'ship_to.name as ship_name',
      'ship_to.street as ship_street',
      'ship_to.postcode as ship_postcode',
      'ship_to.town as ship_town',
      'ship_to.country as ship_country',
      'contract_line.contract_id',
      'item.description',
      'customer_item.code as their_code',
      'item.unit as stock_unit',
      'item.step as stock_step',
      sql<string>`coalesce(item_unit.step, item.step)`.as('unit_step'),
      'item.cost',
      'item.weight',
    ]);
}

export type OrderLineRecord = Awaited<ReturnType<typeof loadOrderLines>>[number];

/** What hangs on the lines of an order: promises, picks, drop shipments under way, routes. */
export async function loadLineFacts(db: Db, lineIds: readonly number[]) {
  const [promises, picks, dropShipments, routes] = await Promise.all([
    db.selectFrom('line_promise').selectAll().where(anyOf('line_id', lineIds)).orderBy('day').execute(),
    db
      .selectFrom('shipment_line')
      .innerJoin('shipment', 'shipment.id', 'shipment_line.shipment_id')
      .select(['shipment_line.order_line_id as line_id', 'shipment_line.quantity', 'shipment.id as shipment_id', 'shipment.number'])
      .where(anyOf('shipment_line.order_line_id', lineIds))
      .where('shipment.state', '=', 'picking')
      .orderBy('shipment.id')
      .execute(),
    db
      .selectFrom('purchase_line')
      .innerJoin('purchase_order', 'purchase_order.id', 'purchase_line.purchase_id')
      .innerJoin('supplier', 'supplier.code', 'purchase_order.supplier')
      .select([
        'purchase_line.id',
        'purchase_line.order_line_id as line_id',
        'purchase_line.purchase_id',
        'purchase_line.expected_day',
        'purchase_line.told_day',
        'purchase_line.cost',
        'purchase_order.number',
        'purchase_order.supplier',
        'supplier.name as supplier_name',
        sql<string>`purchase_line.quantity - purchase_line.received - purchase_line.closed`.as('open'),
      ])
      .where(anyOf('purchase_line.order_line_id', lineIds))
      .where('purchase_line.warehouse', 'is', null)
      .where(sql<boolean>`purchase_line.received + purchase_line.closed < purchase_line.quantity`)
      .orderBy('purchase_line.expected_day')
      .execute(),
    loadRoutes(db, lineIds),
  ]);
  return { promises, picks, dropShipments, routes };
}

/** The routes of lines, with what they have led to and when their suppliers could send. */
function loadRoutes(db: Db, lineIds: readonly LineId[]) {
  return db
    .selectFrom('line_route')
    .innerJoin('order_line', 'order_line.id', 'line_route.line_id')
    .leftJoin('supplier', 'supplier.code', 'line_route.supplier')
    .leftJoin('supplier_item', (join) => join.onRef('supplier_item.supplier', '=', 'line_route.supplier').onRef('supplier_item.item', '=', 'order_line.item'))
    .leftJoin('purchase_line', 'purchase_line.id', 'line_route.purchase_line_id')
    .leftJoin('purchase_order', 'purchase_order.id', 'purchase_line.purchase_id')
    .leftJoin('transfer_line', 'transfer_line.id', 'line_route.transfer_line_id')
    .leftJoin('transfer_order', 'transfer_order.id', 'transfer_line.transfer_id')
    .leftJoin('assembly_order', 'assembly_order.id', 'line_route.assembly_id')
    .leftJoin('warehouse', 'warehouse.code', 'line_route.warehouse')
    .leftJoin('order_line as new_line', 'new_line.id', 'line_route.new_line_id')
    .selectAll('line_route')
    .select([
      'warehouse.name as warehouse_name',
      'transfer_order.id as transfer_id',
      'transfer_order.number as transfer_number',
      'transfer_order.state as transfer_state',
      'transfer_order.expected_day as transfer_day',
      'assembly_order.number as assembly_number',
      'assembly_order.state as assembly_state',
      'assembly_order.expected_day as assembly_day',
      'purchase_order.state as purchase_state',
      'new_line.line_no as new_line_no',
      owedLate('order_line.item', 'line_route.supplier').as('not_before'),
      'supplier.workdays',
      sql<string[]>`array(select day::text from supplier_closed_day where supplier = line_route.supplier order by day)`.as('closed'),
      'supplier.order_days',
      'supplier.cutoff',
      'supplier.transit_days',
      'supplier.name as supplier_name',
      'supplier.lead_days',
      'supplier.drop_ship_fee',
      'supplier_item.lead_days as item_lead_days',
      'supplier_item.cost',
      'purchase_line.expected_day',
      'purchase_line.cost as purchase_cost',
      'purchase_line.purchase_id',
      'purchase_order.number as purchase_number',
    ])
    .where(anyOf('line_route.line_id', lineIds))
    .orderBy('line_route.id')
    .execute();
}

export type LineFacts = Awaited<ReturnType<typeof loadLineFacts>>;
