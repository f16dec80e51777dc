import type { SerialPage, SerialRow as SerialView } from '@nockwright/contract/items';
import type { ItemCode } from '@nockwright/core/ids';
import { whereWords } from '@nockwright/core/serials';
import { sql } from 'kysely';
import { escapeLike, type Db } from '../database';
import { notFound } from '../http/refusal';
import { loadSerials, whereOf, type SerialRow } from './load-serials';

const MOST = 2_000;
const STATES = { place: 'in_stock', packed: 'packed', basket: 'basket', shipped: 'shipped', unseen: 'missing', receipt: 'in_stock' } as const;

/** A serial number as screens show it. */
function viewSerial(row: SerialRow): SerialView {
  const where = whereOf(row);
  return {
    id: row.id,
    serial: row.serial,
    state: STATES[where.kind],
    where: whereWords(where),
    warehouse: row.warehouse,
    bin: row.bin,
    lot: row.lot,
    shipment: row.shipment,
    order: row.order,
    customer: row.customer,
    customerId: row.customerId,
  };
}

/** Where a serial number is, and where it was, the last step first. */
export async function readSerial(db: Db, id: number): Promise<SerialPage> {
  const [row] = await loadSerials(db, sql`s.id = ${id}`);
  if (!row) throw notFound(`serial number ${id}`);
  const { description } = await db.selectFrom('item').select('description').where('code', '=', row.item).executeTakeFirstOrThrow();
  const { rows: steps } = await sql<SerialPage['steps'][number]>`
    select to_char(t.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as at, t.kind, t.warehouse, t.bin, t.lot, t.reference, u.name as by
    from serial_step t left join app_user u on u.id = t.user_id where t.serial_id = ${id} order by t.id desc`.execute(db);
  return { item: row.item, description, now: viewSerial(row), steps };
}

/** The serial numbers of an item, those in the house first. */
export async function listSerials(db: Db, item: ItemCode, search = '') {
  const known = await db.selectFrom('item').select(['description', 'tracks_serials']).where('code', '=', item).executeTakeFirst();
  if (!known) throw notFound(`item ${item}`);
  const like = `${escapeLike(search.toUpperCase())}%`;
  const rows = await loadSerials(db, sql`s.item = ${item} and upper(s.serial) like ${like}`, MOST);
  return { item, description: known.description, tracked: known.tracks_serials, rows: rows.map(viewSerial) };
}
