import type { ItemCode } from '@nockwright/core/ids';
import type { Scan } from '@nockwright/core/scans';
import { mayTake, whereWords, type SerialWhere } from '@nockwright/core/serials';
import { sql, type RawBuilder } from 'kysely';
import type { Db } from '../database';

export interface SerialRow {
  readonly id: number;
  readonly item: ItemCode;
  readonly serial: string;
  /** The place it is in, or was packed or held from; null: it has left, or is missing. */
  readonly place: number | null;
  readonly warehouse: string;
  readonly bin: string;
  readonly lot: string;
  readonly status: string;
  readonly shipment: string | null;
  readonly order: number | null;
  readonly customer: string | null;
  readonly customerId: number | null;
  readonly shipped: boolean;
  readonly carton: number | null;
  readonly cartonId: number | null;
  readonly held: boolean;
}

/** Serial numbers that a condition on `s` picks, with where they are. */
export async function loadSerials(db: Db, where: RawBuilder<unknown>, most = 100_000): Promise<readonly SerialRow[]> {
  const { rows } = await sql<SerialRow>`
    select s.id, s.item, s.serial, s.place_id as place, coalesce(p.warehouse, '') as warehouse, coalesce(p.bin, '') as bin, coalesce(p.lot, '') as lot,
      coalesce(p.status, '') as status, h.number as shipment, h.order_id as order, c.name as customer, c.id as "customerId", s.shipment_id is not null as shipped,
      k.number as carton, s.carton_id as "cartonId", s.hold_id is not null as held
    from item_serial s
      left join stock_place p on p.id = s.place_id
      left join carton k on k.id = s.carton_id
      left join pick_part r on r.id = s.part_id
      left join shipment h on h.id = coalesce(s.shipment_id, r.shipment_id)
      left join sales_order o on o.id = h.order_id
      left join customer c on c.id = o.customer_id
    where ${where} order by s.item, s.place_id is null, s.serial limit ${most}`.execute(db);
  return rows;
}

/** Where a number is, as core tells it. */
export function whereOf(row: SerialRow): SerialWhere {
  if (row.shipped) return { kind: 'shipped', shipment: row.shipment ?? '' };
  if (row.cartonId !== null) return { kind: 'packed', shipment: row.shipment ?? '', carton: row.carton ?? 0 };
  if (row.held) return { kind: 'basket' };
  return row.place === null ? { kind: 'unseen' } : { kind: 'place', warehouse: row.warehouse, bin: row.bin, quarantine: row.status === 'quarantine' };
}

/** Where numbers of items are, by item and number; of those that are known. */
export async function loadWheres(
  db: Db,
  items: readonly ItemCode[],
  serials: readonly string[],
): Promise<ReadonlyMap<string, ReadonlyMap<string, SerialWhere>>> {
  const found = new Map<string, Map<string, SerialWhere>>();
  if (serials.length === 0) return found;
  for (const row of await loadSerials(
    db,
    sql`(${items ? [...items] : null}::text[] is null or s.item = any(${items ? [...items] : null})) and s.serial = any(${[...serials]}::text[])`,
  )) {
    const own = found.get(row.item) ?? new Map<string, SerialWhere>();
    found.set(row.item, own.set(row.serial, whereOf(row)));
  }
  return found;
}

/** Where numbers are that may not be taken at a warehouse, in words: what is free there, and what is missing, may. */
export function whereWordsOf(known: ReadonlyMap<string, SerialWhere> | undefined, warehouse: string): ReadonlyMap<string, string> {
  const taken = [...(known ?? [])].filter(([, where]) => !mayTake(where, warehouse));
  return new Map(taken.map(([serial, where]) => [serial, whereWords(where)]));
}

/** A label that holds nothing but a serial number, with the item it is of; typed: the item, then the number. Any other stays as it is. */
export async function nameBySerial(db: Db, scan: Scan, items?: readonly ItemCode[]): Promise<Scan> {
  const text = scan.plain ?? (scan.serial === undefined && scan.lot === undefined ? scan.gtin : undefined);
  if (text === undefined || items?.length === 0) return scan;
  const [first, second, ...more] = text.split(/\s+/);
  const among = (column: string) => (items ? sql`${sql.ref(column)} = any(${[...items]}::text[])` : sql`true`);
  const { rows: named } = await sql<{ code: ItemCode }>`
    select code from item where tracks_serials and upper(code) = ${first!.toUpperCase()} and ${among('code')}`.execute(db);
  const typed = named[0]?.code;
  if (typed !== undefined && second !== undefined && more.length === 0) return { plain: typed, serial: second };
  const [found, another] = await loadSerials(db, sql`${among('s.item')} and s.serial = any(${[text, text.replace(/^0+/, '')]}::text[])`, 2);
  return found && !another ? { plain: found.item, serial: found.serial } : scan;
}
