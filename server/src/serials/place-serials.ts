import type { ItemCode } from '@nockwright/core/ids';
import { sql } from 'kysely';
import type { Trx } from '../database';
import type { CommandContext } from '../http/context';

/** Serial numbers that are in one place from now on. */
export interface PlacedSerials {
  readonly item: ItemCode;
  readonly warehouse: string;
  readonly status: 'available' | 'quarantine';
  readonly lot: string;
  /** Null: where the item lives. */
  readonly bin: string | null;
  readonly serials: readonly string[];
  /** The paper they moved with. */
  readonly reference: string;
}

/**
 * Says where serial numbers are, those that are new among them: two statements, however many there are. Their goods must be booked
 * there before, and their pools locked. Where a place would have more numbers than goods, those that nobody has named now are missing.
 */
export async function placeSerials({ trx, now, user }: CommandContext, rows: readonly PlacedSerials[], kind: 'received' | 'placed'): Promise<void> {
  const each = rows.flatMap((row) => row.serials.map((serial) => ({ ...row, serial })));
  if (each.length === 0) return;
  const column = <K extends keyof (typeof each)[number]>(name: K) => each.map((row) => row[name]);
  const { rows: placed } = await sql<{ place: number }>`
    with named as (
      select k.*, p.id as place, p.bin as found_bin
      from unnest(${column('item')}::text[], ${column('warehouse')}::text[], ${column('status')}::text[], ${column('lot')}::text[], ${column('bin')}::text[],
          ${column('serial')}::text[], ${column('reference')}::text[]) as k(item, warehouse, status, lot, bin, serial, reference)
        join stock_place p on p.item = k.item and p.warehouse = k.warehouse and p.status = k.status and p.lot = k.lot
          and p.bin = coalesce(k.bin, (select h.bin from item_home h where h.item = k.item and h.warehouse = k.warehouse), '')),
    kept as (
      insert into item_serial (item, serial, place_id) select item, serial, place from named
      on conflict (item, serial) do update set place_id = excluded.place_id, shipment_id = null, carton_id = null, part_id = null, hold_id = null
      returning id, item, serial, place_id),
    told as (
      insert into serial_step (serial_id, at, kind, warehouse, bin, lot, reference, user_id)
      select k.id, ${now.instant}, ${kind}, n.warehouse, n.found_bin, n.lot, n.reference, ${user.id}
      from kept k join named n on n.item = k.item and n.serial = k.serial)
    select distinct place_id as place from kept`.execute(trx);
  await fit(
    trx,
    placed.map((row) => row.place),
    each.map((row) => row.serial),
  );
}

/** Of a place that has more numbers than goods, those that were not named just now are missing. */
async function fit(trx: Trx, places: readonly number[], named: readonly string[]): Promise<void> {
  await sql`select serials_fit(${places}::int[], ${named}::text[])`.execute(trx);
}
