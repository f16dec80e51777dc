import type { IsoDay } from '@nockwright/core/calendar';
import type { Scan } from '@nockwright/core/scans';
import type { ScanFacts, ScannedItem } from '@nockwright/core/shipping';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { loadWheres, nameBySerial, whereWordsOf } from '../serials';
import { partsOf, type Consignment } from './read-consignment';

/** Items that a label may name, beside some that are at hand. */
export async function loadNamed(
  db: Db,
  scan: Scan,
  items: readonly string[] = [],
): Promise<readonly (ScannedItem & { readonly lot_expires: IsoDay | null })[]> {
  const plain = scan.plain?.toUpperCase() ?? '';
  const { rows } = await sql<ScannedItem & { lot_expires: IsoDay | null }>`
    select i.code as item, i.gtin, i.tracks_lots as "tracksLots", i.tracks_serials as "tracksSerials",
      (select coalesce(json_agg(json_build_object('unit', u.unit, 'gtin', u.gtin, 'size', trim_scale(u.numerator::numeric / u.denominator)::text)), '[]')
        from item_unit u where u.item = i.code) as units,
      (select l.expires::text from item_lot l where l.item = i.code and l.lot = ${scan.lot ?? ''}) as lot_expires
    from item i
    where i.code = any(${items}::text[]) or upper(i.code) = ${plain} or i.gtin = ${scan.gtin ?? ''}
      or exists (select from item_unit u where u.item = i.code and u.gtin = ${scan.gtin ?? ''})`.execute(db);
  return rows;
}

/**
 * What is known of a label that is scanned for a consignment: the items it may name, how long its lot lasts, where its serial number is.
 * Parts count as packed. A label that holds a serial number alone is given with the item it is of.
 */
export async function loadScanned(db: Db, now: Now, consignment: Consignment, read: Scan): Promise<{ readonly scan: Scan; readonly facts: ScanFacts }> {
  const scan = await nameBySerial(db, read, [...new Set(consignment.parts.filter((part) => part.tracks_serials).map((part) => part.item))]);
  const plain = scan.plain?.toUpperCase() ?? '';
  const rows = await loadNamed(db, scan, [...new Set(consignment.parts.map((part) => part.item))]);
  const named = rows.find((row) => row.gtin === scan.gtin || row.item.toUpperCase() === plain || row.units.some((unit) => unit.gtin === scan.gtin));
  const known = named && scan.serial !== undefined ? await loadWheres(db, [named.item], [scan.serial]) : new Map<string, never>();
  return {
    scan,
    facts: {
      parts: partsOf(consignment, 'packed', now),
      items: rows,
      serials: whereWordsOf(known.get(named?.item ?? ''), consignment.head.warehouse),
      lotExpires: (scan.gtin !== undefined || scan.plain !== undefined ? named?.lot_expires : null) ?? null,
      today: now.today,
    },
  };
}
