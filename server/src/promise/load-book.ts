import { asWarehouse, buildBook, type BookRows, type BookTime, type LiveBook, type WarehouseRow } from '@nockwright/core/book';
import { SupplierOdds } from '@nockwright/core/supply';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { loadLateness, type Lateness } from './arrival-odds';
import { readBookRows, type BookScope } from './book-rows';

/**
 * Loads the book as it stands: on hand, what is due, released orders and what they were promised. Drafts promise
 * nothing and are not in it, unless one is asked for. An order that must leave complete ties its items together: they
 * are all loaded.
 */
export async function loadBook(db: Db, now: Now, scope: BookScope = {}): Promise<LiveBook> {
  return bookOf(await readBook(db, now, scope));
}

/** The book as it was read, before it is put together: plain enough to be sent to a thread. */
export interface BookRead {
  readonly rows: BookRows;
  /** Null where no confidence is asked for. */
  readonly lateness: Lateness | null;
  readonly time: BookTime;
}

export async function readBook(db: Db, { today, localTime }: Now, scope: BookScope): Promise<BookRead> {
  const rows = await readBookRows(db, scope);
  return { rows, lateness: rows.confidence === null ? null : await loadLateness(db), time: { today, localTime } };
}

export function bookOf({ rows, lateness, time }: BookRead): LiveBook {
  return buildBook(rows, lateness && new SupplierOdds(lateness.own, lateness.all), time);
}

export async function loadWarehouses(db: Db): Promise<WarehouseRow[]> {
  const rows = await db
    .selectFrom('warehouse')
    .selectAll()
    .select(sql<string[]>`array(select day::text from closed_day where warehouse = warehouse.code order by day)`.as('closed'))
    .orderBy('code')
    .execute();
  return rows.map(asWarehouse);
}
