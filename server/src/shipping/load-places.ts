import { allocate, type Allocation, type FreePlace, type PickWant } from '@nockwright/core/allocation';
import { lastsUntil } from '@nockwright/core/book';
import type { ItemCode, LineId, ShipmentId, WarehouseCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db, Trx } from '../database';

/** What of a line is to be picked. */
export interface PickLine {
  readonly line: LineId;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly quantity: Quantity;
}

/** Which bins and lots lines are picked from, of what no pick has. The pools must be locked for the answer to hold. */
export async function findPlaces(db: Db, now: Now, lines: readonly PickLine[]): Promise<Allocation> {
  const { rows } = await sql<{ wants: readonly WantRow[]; places: readonly FreePlace[] }>`
    with wanted as (
      select * from unnest(${lines.map((row) => row.line)}::int[], ${lines.map((row) => row.item)}::text[], ${lines.map((row) => row.warehouse)}::text[])
        as w(line, item, warehouse))
    select
      (select json_agg(json_build_object('line', w.line, 'transit_days', c.transit_days,
          'item_life', case when i.tracks_expiry then i.least_life end, 'customer_life', case when i.tracks_expiry then b.least_life end,
          'units', (select coalesce(json_agg(trim_scale(u.numerator::numeric / u.denominator)::text), '[]') from item_unit u
            where u.item = i.code and u.numerator > u.denominator and u.numerator % u.denominator = 0)))
        from wanted w join order_line l on l.id = w.line join sales_order o on o.id = l.order_id join carrier_service c on c.code = o.carrier_service
        join item i on i.code = l.item join customer b on b.id = o.customer_id) as wants,
      (select coalesce(json_agg(json_build_object('id', p.id, 'item', p.item, 'warehouse', p.warehouse, 'bin', p.bin, 'walk', coalesce(n.walk, 2147483647),
          'lot', p.lot, 'expires', t.expires::text, 'free', trim_scale(p.quantity - p.allocated)::text)), '[]')
        from stock_place p left join item_lot t on t.item = p.item and t.lot = p.lot left join bin n on n.warehouse = p.warehouse and n.code = p.bin
        where p.status = 'available' and p.quantity > p.allocated and (p.item, p.warehouse) in (select item, warehouse from wanted)) as places`.execute(db);
  const { wants, places } = rows[0]!;
  const known = new Map((wants ?? []).map((row) => [row.line, row]));
  return allocate(
    lines.map(({ line, item, warehouse, quantity }): PickWant => {
      const row = known.get(line)!;
      return { key: line, item, warehouse, quantity, until: lastsUntil(row, now.today), units: row.units };
    }),
    places,
  );
}

interface WantRow {
  readonly line: LineId;
  readonly transit_days: number;
  readonly item_life: number | null;
  readonly customer_life: number | null;
  readonly units: readonly Quantity[];
}

/** Places of an item at a warehouse with goods that may be sold and nobody has allocated. */
export async function loadFree(db: Db, { item, warehouse }: { readonly item: ItemCode; readonly warehouse: WarehouseCode }): Promise<readonly FreePlace[]> {
  const { rows } = await sql<FreePlace>`
    select p.id, p.item, p.warehouse, p.bin, coalesce(n.walk, 2147483647) as walk, p.lot, t.expires::text as expires, trim_scale(p.quantity - p.allocated)::text as free
    from stock_place p left join item_lot t on t.item = p.item and t.lot = p.lot left join bin n on n.warehouse = p.warehouse and n.code = p.bin
    where p.item = ${item} and p.warehouse = ${warehouse} and p.status = 'available' and p.quantity > p.allocated`.execute(db);
  return rows;
}

/** Allocates what was found to lines of a shipment; what is allocated of a place already is added to. */
export async function storeParts(trx: Trx, shipment: ShipmentId, taken: Allocation['taken']): Promise<void> {
  if (taken.length === 0) return;
  await sql`insert into pick_part (shipment_id, order_line_id, place_id, quantity)
    select ${shipment}, k.* from unnest(${taken.map((row) => row.key)}::int[], ${taken.map((row) => row.place)}::int[], ${taken.map((row) => row.quantity)}::numeric[])
      as k(line, place, quantity)
    on conflict (shipment_id, order_line_id, place_id) do update set quantity = pick_part.quantity + excluded.quantity`.execute(trx);
}
