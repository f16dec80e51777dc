import type { ItemCode, OrderId, ShipToId, SupplierCode } from '@nockwright/core/ids';
import type { SoldItem } from '@nockwright/core/orders';
import { feeKey, soldKey, type RoutedLine, type RoutingFacts } from '@nockwright/core/routing';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import { loadCurrency } from '../firm';
import { loadSoldItems } from '../orders';
import { asDeskPolicy, ROUTE_POLICY } from './policy';

/** Drop shipments of some orders that are planned, or on a draft that is not sent. */
export async function loadJoined(db: Db, orders: readonly number[]): Promise<Set<string>> {
  if (orders.length === 0) return new Set();
  const { rows } = await sql<{ order_id: OrderId; ship_to_id: ShipToId | null; supplier: SupplierCode }>`
    select distinct l.order_id, coalesce(r.ship_to_id, l.ship_to_id) as ship_to_id, r.supplier
    from line_route r join order_line l on l.id = r.line_id
    left join purchase_line p on p.id = r.purchase_line_id left join purchase_order o on o.id = p.purchase_id
    where r.kind = 'drop_ship' and l.order_id = any(${orders}) and (o.id is null or o.state = 'draft')`.execute(db);
  return new Set(rows.map((row) => feeKey(row, row.supplier)));
}

/** How sure the desk promises where a customer has no wish, in percent, and how it ranks ways. */
export async function loadSettings(db: Db): Promise<RoutingFacts['desk']> {
  const rows = await db
    .selectFrom('desk_setting')
    .selectAll()
    .where(anyOf('name', ['confidence', ROUTE_POLICY]))
    .execute();
  const of = (name: string) => rows.find((row) => row.name === name)?.value;
  const confidence = of('confidence');
  return { confidence: typeof confidence === 'number' ? confidence : null, policy: asDeskPolicy(of(ROUTE_POLICY)), currency: await loadCurrency(db) };
}

export async function loadLines(db: Db, lineIds: readonly number[]): Promise<RoutedLine[]> {
  return db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('carrier_service', 'carrier_service.code', 'sales_order.carrier_service')
    .innerJoin('item', 'item.code', 'order_line.item')
    .select([
      'order_line.id',
      'order_line.order_id',
      'order_line.line_no',
      'order_line.item',
      'order_line.warehouse',
      'order_line.price',
      'order_line.numerator',
      'order_line.denominator',
      'order_line.stock_quantity',
      'order_line.requested_day',
      'order_line.ship_to_id',
      'sales_order.version',
      'sales_order.ship_to_id as order_ship_to_id',
      'sales_order.contract_id',
      'item.description',
      'item.step',
      'item.unit',
      'item.assembly_days',
      sql<boolean>`item.successor is not null or exists (select from item_substitute where item_substitute.item = item.code)`.as('replaceable'),
      // What few lines have is asked about only where there is any.
      sql<boolean>`exists (select from purchase_line where purchase_line.order_line_id = order_line.id and purchase_line.warehouse is null)`.as('dropped'),
      sql<boolean>`exists (select from line_route r join order_line l on l.id = r.line_id where l.order_id = order_line.order_id and r.kind = 'drop_ship')`.as(
        'drops',
      ),
      'sales_order.number',
      'sales_order.state',
      'sales_order.kind',
      'sales_order.currency',
      'sales_order.ship_complete',
      'sales_order.request_kind',
      'sales_order.requested_day as order_day',
      'carrier_service.transit_days',
      'customer.id as customer_id',
      'customer.name as customer',
      'customer.confidence',
      'customer.route_policy',
      'customer.asks_when_late',
    ])
    .where(anyOf('order_line.id', lineIds))
    .orderBy('sales_order.priority')
    .orderBy('sales_order.entered')
    .orderBy('order_line.order_id')
    .orderBy('order_line.line_no')
    .execute();
}

export async function loadSubstitutes(db: Db, items: readonly string[]) {
  const { rows } = await sql<{ item: ItemCode; substitute: ItemCode; ratio: string; successor: boolean }>`
    select code as item, successor as substitute, '1' as ratio, true as successor from item where code = any(${items}) and successor is not null
    union all
    select s.item, s.substitute, trim_scale(s.ratio)::text, false from item_substitute s join item i on i.code = s.item
    where s.item = any(${items}) and s.substitute is distinct from i.successor
    order by 1, 4 desc, 2`.execute(db);
  const found = new Map<string, typeof rows>();
  for (const row of rows) found.set(row.item, [...(found.get(row.item) ?? []), row]);
  return found;
}

/** What may go instead, as each buyer of the lines is sold it: looked up once a buyer, however many lines there are. */
export async function loadSold(
  db: Db,
  lines: readonly RoutedLine[],
  substitutes: ReadonlyMap<string, readonly { readonly substitute: ItemCode }[]>,
  today: string,
): Promise<ReadonlyMap<string, SoldItem>> {
  const buyers = new Map<string, { readonly line: RoutedLine; readonly codes: Set<string> }>();
  for (const line of lines) {
    const known = buyers.get(soldKey(line, '')) ?? { line, codes: new Set<string>() };
    for (const { substitute } of substitutes.get(line.item) ?? []) known.codes.add(substitute);
    buyers.set(soldKey(line, ''), known);
  }
  const sold = new Map<string, SoldItem>();
  for (const { line, codes } of buyers.values()) {
    const buyer = { id: line.order_id, customer_id: line.customer_id, ship_to_id: line.ship_to_id ?? line.order_ship_to_id, contract_id: line.contract_id };
    for (const item of await loadSoldItems(db, [...codes], buyer, today)) sold.set(soldKey(line, item.code), item);
  }
  return sold;
}
