import type { ItemCode, LineId, OrderId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import type { Trx } from '../database';
import type { CommandContext } from '../http/context';

/** A piece is in a basket from now on; what was not known at all is known now. Its goods must be held before. */
export async function holdSerial(
  { trx, now, user }: CommandContext,
  { item, serial, line, place }: { readonly item: ItemCode; readonly serial: string; readonly line: LineId; readonly place: number },
): Promise<void> {
  await sql`
    with kept as (
      insert into item_serial (item, serial, place_id, hold_id)
      select ${item}, ${serial}, h.place_id, h.id from counter_hold h where h.line_id = ${line} and h.place_id = ${place}
      on conflict (item, serial) do update set place_id = excluded.place_id, hold_id = excluded.hold_id, shipment_id = null
      returning id, place_id, xmax = 0 as made)
    insert into serial_step (serial_id, at, kind, warehouse, bin, lot, reference, user_id)
    select k.id, ${now.instant}, 'placed', p.warehouse, p.bin, p.lot, 'counter', ${user.id} from kept k join stock_place p on p.id = k.place_id where k.made`.execute(
    trx,
  );
  await sql`select serials_fit(array[${place}::int], array[${serial}])`.execute(trx);
}

/** A piece is taken back out of a basket. */
export async function letSerialGo(trx: Trx, item: ItemCode, serial: string): Promise<void> {
  await trx.updateTable('item_serial').set({ hold_id: null }).where('item', '=', item).where('serial', '=', serial).execute();
}

export interface HeldSerial {
  readonly id: number;
  readonly line: LineId;
  readonly place: number;
}

/** The pieces of a basket, with the line and the place they are held from. */
export async function heldSerials(trx: Trx, order: OrderId): Promise<readonly HeldSerial[]> {
  return trx
    .selectFrom('item_serial')
    .innerJoin('counter_hold', 'counter_hold.id', 'item_serial.hold_id')
    .select(['item_serial.id', 'counter_hold.line_id as line', 'counter_hold.place_id as place'])
    .where('counter_hold.order_id', '=', order)
    .execute();
}

/** Pieces that were in a basket belong to the parts of its shipment. */
export async function pickSerials(trx: Trx, consignment: number, pieces: readonly HeldSerial[]): Promise<void> {
  if (pieces.length === 0) return;
  await sql`
    update item_serial s set part_id = r.id
    from unnest(${pieces.map((row) => row.id)}::int[], ${pieces.map((row) => row.line)}::int[], ${pieces.map((row) => row.place)}::int[]) as k(id, line, place)
      join pick_part r on r.order_line_id = k.line and r.place_id = k.place join shipment h on h.id = r.shipment_id and h.consignment_id = ${consignment}
    where s.id = k.id`.execute(trx);
}
