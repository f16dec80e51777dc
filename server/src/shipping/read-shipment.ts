import type { PickView } from '@nockwright/contract/shipping';
import { fromStockingUnits } from '@nockwright/core/units';
import { sql } from 'kysely';
import { anyOf, together, type Db } from '../database';

/** Shipments with their lines, the oldest first. Drop shipments are not among them: they leave from elsewhere. */
export async function readShipments(db: Db, ids: readonly number[]): Promise<PickView[]> {
  const [shipments, lines] = await together(db, (all) => Promise.all([loadShipments(all, ids), loadShipmentLines(all, ids)]));
  const linesOf = new Map<number, typeof lines>();
  for (const line of lines) linesOf.set(line.shipment_id, [...(linesOf.get(line.shipment_id) ?? []), line]);
  return shipments.map((row) => ({
    id: row.id,
    number: row.number,
    state: row.state,
    order: row.order_id,
    orderNumber: row.order_number ?? '',
    customer: row.name,
    customerId: row.customer_id,
    address: `${row.ship_name}, ${row.street}, ${row.postcode} ${row.town}, ${row.country}`,
    warehouse: row.warehouse!,
    carrier: row.carrier,
    tracking: row.tracking,
    consignment: row.consignment_id,
    stage: stageOf(row),
    lines: (linesOf.get(row.id) ?? []).map((line) => ({
      line: line.id,
      lineNo: line.line_no,
      item: line.item,
      description: line.description,
      unit: line.unit,
      quantity: line.quantity,
      orderUnit: line.order_unit,
      orderQuantity: fromStockingUnits(line.quantity, line) ?? '',
    })),
  }));
}

interface Progress {
  readonly wanted: number | null;
  readonly picked: number | null;
  readonly packed: number | null;
}

/** How far a shipment is, by what of it is picked, packed and labelled. */
function stageOf({ state, progress, labelled }: { readonly state: string; readonly progress: Progress; readonly labelled: boolean }): PickView['stage'] {
  if (state === 'shipped') return 'left';
  const { wanted, picked, packed } = progress;
  if (!picked) return 'to_pick';
  if (packed && wanted && packed >= wanted) return labelled ? 'labelled' : 'packed';
  if (packed) return 'packing';
  return wanted && picked >= wanted ? 'picked' : 'picking';
}

function loadShipments(db: Db, ids: readonly number[]) {
  return (
    db
      .selectFrom('shipment')
      .innerJoin('sales_order', 'sales_order.id', 'shipment.order_id')
      .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
      // A pick goes to one address: that of its lines, where they have one of their own.
      .innerJoin('ship_to', (join) =>
        join.on('ship_to.id', '=', (eb) =>
          eb.fn.coalesce(
            eb
              .selectFrom('shipment_line')
              .innerJoin('order_line', 'order_line.id', 'shipment_line.order_line_id')
              .select('order_line.ship_to_id')
              .whereRef('shipment_line.shipment_id', '=', 'shipment.id')
              .limit(1),
            'sales_order.ship_to_id',
          ),
        ),
      )
      .innerJoin('carrier_service', 'carrier_service.code', 'shipment.carrier_service')
      .select([
        'shipment.id',
        'shipment.number',
        'shipment.state',
        'shipment.warehouse',
        'shipment.tracking',
        'shipment.consignment_id',
        'sales_order.id as order_id',
        'sales_order.number as order_number',
        'customer.name',
        'customer.id as customer_id',
        'ship_to.name as ship_name',
        'ship_to.street',
        'ship_to.postcode',
        'ship_to.town',
        'ship_to.country',
        'carrier_service.name as carrier',
      ])
      .select(
        sql<Progress>`(select json_build_object('wanted', sum(r.quantity)::float8, 'picked', sum(r.picked)::float8,
          'packed', sum(coalesce((select sum(k.quantity) from carton_content k where k.part_id = r.id), 0))::float8)
        from pick_part r where r.shipment_id = shipment.id)`.as('progress'),
      )
      .select(sql<boolean>`exists (select from consignment_label b where b.consignment_id = shipment.consignment_id and b.state = 'made')`.as('labelled'))
      .where(anyOf('shipment.id', ids))
      .where('shipment.warehouse', 'is not', null)
      .orderBy('shipment.id')
      .execute()
  );
}

function loadShipmentLines(db: Db, ids: readonly number[]) {
  return db
    .selectFrom('shipment_line')
    .innerJoin('order_line', 'order_line.id', 'shipment_line.order_line_id')
    .innerJoin('item', 'item.code', 'order_line.item')
    .select([
      'shipment_line.shipment_id',
      'shipment_line.quantity',
      'order_line.id',
      'order_line.line_no',
      'order_line.item',
      'order_line.unit as order_unit',
      'order_line.numerator',
      'order_line.denominator',
      'item.description',
      'item.unit',
    ])
    .where(anyOf('shipment_line.shipment_id', ids))
    .orderBy('order_line.line_no')
    .execute();
}
