import type { ItemCode, ShipmentId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';
import type { CommandContext } from '../http/context';

/** A piece is in a carton from now on, whatever was known of where it is. What was not known at all is known now. */
export async function packSerial(
  { trx, now, user }: CommandContext,
  { item, serial, carton, part }: { readonly item: ItemCode; readonly serial: string; readonly carton: number; readonly part: number },
): Promise<void> {
  await sql`
    with kept as (
      insert into item_serial (item, serial, place_id, part_id, carton_id)
      select ${item}, ${serial}, r.place_id, r.id, ${carton} from pick_part r where r.id = ${part}
      on conflict (item, serial) do update set place_id = excluded.place_id, part_id = excluded.part_id, carton_id = excluded.carton_id, shipment_id = null
      returning id, place_id)
    insert into serial_step (serial_id, at, kind, warehouse, bin, lot, reference, user_id)
    select k.id, ${now.instant}, 'packed', p.warehouse, p.bin, p.lot, h.number, ${user.id}
    from kept k join stock_place p on p.id = k.place_id join pick_part r on r.id = ${part} join shipment h on h.id = r.shipment_id`.execute(trx);
  await sql`select serials_fit(array[(select place_id from pick_part where id = ${part})], array[${serial}])`.execute(trx);
}

/** Pieces are in no carton any more: the one that is named, or as many as were packed last. */
export async function unpackSerials(
  trx: Trx,
  { carton, part, quantity, serial }: { readonly carton: number; readonly part: number; readonly quantity: string; readonly serial?: string },
): Promise<void> {
  await sql`
    update item_serial set part_id = null, carton_id = null where id in (
      select s.id from item_serial s where s.carton_id = ${carton} and s.part_id = ${part} and (${serial ?? null}::text is null or s.serial = ${serial ?? null})
      order by (select max(x.id) from serial_step x where x.serial_id = s.id) desc limit ceil(${quantity}::numeric))`.execute(trx);
}

/** Pieces that belong to parts of shipments leave with them. Before the goods are booked out: they are not missing then. */
export async function shipSerials({ trx, now, user }: CommandContext, parts: readonly number[]): Promise<void> {
  if (parts.length === 0) return;
  await sql`
    with gone as (
      update item_serial s set place_id = null, shipment_id = r.shipment_id, hold_id = null from pick_part r
      where r.id = s.part_id and ${anyOf('s.part_id', parts)} returning s.id, r.shipment_id, r.place_id)
    insert into serial_step (serial_id, at, kind, warehouse, bin, lot, reference, user_id)
    select g.id, ${now.instant}, 'shipped', p.warehouse, p.bin, p.lot, h.number, ${user.id}
    from gone g join stock_place p on p.id = g.place_id join shipment h on h.id = g.shipment_id`.execute(trx);
}

/** Pieces of shipments that are taken back are where they were, packed as before. After the goods are booked in again. */
export async function bringSerialsBack({ trx, now, user }: CommandContext, shipments: readonly ShipmentId[]): Promise<void> {
  await sql`
    with back as (
      update item_serial s set shipment_id = null, place_id = r.place_id from pick_part r
      where r.id = s.part_id and ${anyOf('s.shipment_id', shipments)} returning s.id, r.shipment_id, r.place_id)
    insert into serial_step (serial_id, at, kind, warehouse, bin, lot, reference, user_id)
    select b.id, ${now.instant}, 'brought_back', p.warehouse, p.bin, p.lot, h.number, ${user.id}
    from back b join stock_place p on p.id = b.place_id join shipment h on h.id = b.shipment_id`.execute(trx);
}
