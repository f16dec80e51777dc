import type { IsoDay } from '@nockwright/core/calendar';
import type { CustomerId, ItemCode, LineId, OrderId, ShipmentId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity } from '@nockwright/core/money';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';

/** A part as it is read: what is picked and packed of it, and what its line and item say. */
export interface PartRow {
  readonly id: number;
  readonly consignment: number;
  readonly shipment: ShipmentId;
  readonly line: LineId;
  readonly line_no: number;
  readonly order_unit: string;
  readonly numerator: number;
  readonly denominator: number;
  readonly item: ItemCode;
  readonly description: string;
  readonly unit: string;
  readonly weight: string;
  readonly length_cm: string | null;
  readonly width_cm: string | null;
  readonly height_cm: string | null;
  readonly apart: string;
  readonly gtins: readonly string[];
  readonly tracks_lots: boolean;
  readonly tracks_serials: boolean;
  readonly their_item: string;
  readonly place: number;
  readonly bin: string;
  readonly walk: number;
  readonly lot: string;
  readonly expires: IsoDay | null;
  readonly item_life: number | null;
  readonly customer_life: number | null;
  readonly transit_days: number;
  readonly quantity: Quantity;
  readonly picked: Quantity;
  readonly packed: Quantity;
  /** How many of it have their serial number scanned. */
  readonly numbered: number;
}

/** The parts of consignments, in the sequence of the walk. */
export async function loadParts(db: Db, consignments: readonly number[]): Promise<readonly PartRow[]> {
  const { rows } = await sql<PartRow>`
    select r.id, s.consignment_id as consignment, r.shipment_id as shipment, l.id as line, l.line_no, l.unit as order_unit, l.numerator, l.denominator,
      l.item, i.description, i.unit, i.weight::text as weight, i.length_cm::text as length_cm, i.width_cm::text as width_cm, i.height_cm::text as height_cm,
      i.apart, array_remove(i.gtin || array(select gtin from item_unit u where u.item = i.code), null) as gtins, i.tracks_lots, i.tracks_serials, coalesce(n.code, '') as their_item, p.id as place, p.bin, coalesce(b.walk, 999999) as walk, p.lot, t.expires::text as expires,
      case when i.tracks_expiry then i.least_life end as item_life, case when i.tracks_expiry then c.least_life end as customer_life, f.transit_days,
      trim_scale(r.quantity)::text as quantity, trim_scale(r.picked)::text as picked,
      coalesce((select trim_scale(sum(k.quantity))::text from carton_content k where k.part_id = r.id), '0') as packed,
      (select count(*)::int from item_serial n where n.part_id = r.id) as numbered
    from pick_part r join shipment s on s.id = r.shipment_id join order_line l on l.id = r.order_line_id join sales_order o on o.id = l.order_id
      join item i on i.code = l.item join customer c on c.id = o.customer_id join carrier_service f on f.code = s.carrier_service
      join stock_place p on p.id = r.place_id left join item_lot t on t.item = p.item and t.lot = p.lot
      left join bin b on b.warehouse = p.warehouse and b.code = p.bin left join customer_item n on n.customer_id = o.customer_id and n.item = l.item
    where ${anyOf('s.consignment_id', consignments)} and s.state <> 'cancelled'
    order by walk, p.bin, l.item, p.lot, r.id`.execute(db);
  return rows;
}

export interface HeadRow {
  readonly id: number;
  readonly version: number;
  readonly warehouse: WarehouseCode;
  readonly customer: string;
  readonly customer_id: CustomerId;
  readonly ship_to_id: number;
  readonly address: string;
  readonly town: string;
  readonly postcode: string;
  readonly country: string;
  readonly service: string;
  readonly service_name: string;
  readonly carrier: string | null;
  readonly carrier_url: string | null;
  readonly divisor: number;
  readonly tracking: string;
  readonly cost: Amount | null;
  readonly currency: string;
  readonly billed: boolean;
  readonly rule: 'included' | 'flat' | 'at_cost' | 'own_account';
  readonly flat: Amount | null;
  readonly free_from: Amount | null;
  readonly account: string;
  readonly takes_advices: boolean;
  readonly charged: Amount | null;
}

export async function loadHeads(db: Db, consignments: readonly number[]): Promise<readonly HeadRow[]> {
  const { rows } = await sql<HeadRow>`
    select g.id, g.version, g.warehouse, c.name as customer, c.id as customer_id, g.ship_to_id,
      a.name || ', ' || a.street || ', ' || a.postcode || ' ' || a.town || ', ' || a.country as address, a.town, a.postcode, a.country,
      f.code as service, f.name as service_name, f.carrier, k.url as carrier_url, f.divisor, g.tracking, g.cost::text as cost,
      (select currency from firm) as currency, exists (select from shipment s where s.consignment_id = g.id and s.invoice_id is not null) as billed,
      c.freight_rule as rule, c.freight_flat::text as flat, c.freight_free_from::text as free_from, c.freight_account as account, c.takes_advices,
      (select sum(s.freight_charge)::text from shipment s where s.consignment_id = g.id and s.state = 'shipped') as charged
    from consignment g join customer c on c.id = g.customer_id join ship_to a on a.id = g.ship_to_id
      join carrier_service f on f.code = g.carrier_service left join carrier k on k.code = f.carrier
    where ${anyOf('g.id', consignments)} order by g.id`.execute(db);
  return rows;
}

export interface ShipmentRow {
  readonly id: ShipmentId;
  readonly consignment: number;
  readonly number: string;
  readonly state: 'picking' | 'shipped' | 'cancelled';
  readonly order: OrderId;
  readonly order_number: string;
  readonly po_number: string;
  readonly tote: string;
  readonly promised: IsoDay | null;
  readonly deliver_by: IsoDay | null;
}

export async function loadShipmentsOf(db: Db, consignments: readonly number[]): Promise<readonly ShipmentRow[]> {
  const { rows } = await sql<ShipmentRow>`
    select s.id, s.consignment_id as consignment, s.number, s.state, o.id as order, o.number as order_number, o.po_number, s.tote,
      (select min(p.day)::text from shipment_line x join line_promise p on p.line_id = x.order_line_id where x.shipment_id = s.id) as promised,
      case when o.request_kind = 'deliver_by' then o.requested_day::text end as deliver_by
    from shipment s join sales_order o on o.id = s.order_id where ${anyOf('s.consignment_id', consignments)} order by s.id`.execute(db);
  return rows;
}

export interface CartonRow {
  readonly id: number;
  readonly consignment: number;
  readonly number: number;
  readonly type: string;
  readonly type_name: string;
  readonly tare: string;
  readonly length_cm: string;
  readonly width_cm: string;
  readonly height_cm: string;
  readonly sscc: string;
  readonly weight: string | null;
  readonly contents: readonly { readonly part: number; readonly quantity: Quantity; readonly serials: readonly string[] }[];
}

export async function loadCartons(db: Db, consignments: readonly number[]): Promise<readonly CartonRow[]> {
  const { rows } = await sql<CartonRow>`
    select k.id, k.consignment_id as consignment, k.number, k.type, t.name as type_name, trim_scale(t.tare_kg)::text as tare, t.length_cm::text as length_cm,
      t.width_cm::text as width_cm, t.height_cm::text as height_cm, k.sscc, trim_scale(k.weight_kg)::text as weight,
      (select coalesce(json_agg(json_build_object('part', x.part_id, 'quantity', trim_scale(x.quantity)::text,
          'serials', (select coalesce(json_agg(n.serial order by n.serial), '[]') from item_serial n where n.carton_id = k.id and n.part_id = x.part_id)) order by x.part_id), '[]')
        from carton_content x where x.carton_id = k.id) as contents
    from carton k join carton_type t on t.code = k.type where ${anyOf('k.consignment_id', consignments)} order by k.consignment_id, k.number`.execute(db);
  return rows;
}

export interface LabelRow {
  readonly id: number;
  readonly consignment: number;
  readonly service: string;
  readonly state: 'waiting' | 'made' | 'failed' | 'voiding' | 'void';
  readonly attempts: number;
  readonly fault: string;
  readonly tracking: string;
  readonly cost: Amount | null;
  readonly events:
    | readonly {
        readonly at: string;
        readonly kind: 'picked_up' | 'in_transit' | 'out_for_delivery' | 'delivered' | 'exception';
        readonly place: string;
        readonly words: string;
      }[]
    | null;
}

/** The label of each consignment that has one, or waits for one. */
export async function loadLabels(db: Db, consignments: readonly number[]): Promise<readonly LabelRow[]> {
  const { rows } = await sql<LabelRow>`
    select b.id, b.consignment_id as consignment, b.service, b.state, b.attempts, b.fault, b.tracking, b.cost::text as cost,
      (select json_agg(json_build_object('at', to_char(e.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'kind', e.kind, 'place', e.place, 'words', e.words) order by e.at, e.id)
        from tracking_event e where e.label_id = b.id) as events
    from consignment_label b where ${anyOf('b.consignment_id', consignments)} and b.state in ('waiting', 'made', 'failed')`.execute(db);
  return rows;
}

/** Other consignments that wait at the same warehouse for the same address, by consignment. */
export async function loadBeside(db: Db, consignments: readonly number[]): Promise<ReadonlyMap<number, { consignment: number; shipments: string[] }[]>> {
  const { rows } = await sql<{ of: number; consignment: number; shipments: string[] }>`
    select g.id as of, h.id as consignment, array_agg(s.number order by s.id) as shipments
    from consignment g join consignment h on h.id <> g.id and h.warehouse = g.warehouse and h.ship_to_id = g.ship_to_id
      join shipment s on s.consignment_id = h.id and s.state = 'picking'
    where ${anyOf('g.id', consignments)} and exists (select from shipment x where x.consignment_id = g.id and x.state = 'picking')
    group by g.id, h.id order by g.id, h.id`.execute(db);
  const found = new Map<number, { consignment: number; shipments: string[] }[]>();
  for (const { of, consignment, shipments } of rows) found.set(of, [...(found.get(of) ?? []), { consignment, shipments }]);
  return found;
}
