import { SupplierOdds } from '@nockwright/core/supply';
import type { Db } from '../database';

/** Days late of each receipt, ascending: by supplier, and of all. */
export interface Lateness {
  readonly own: ReadonlyMap<string, readonly number[]>;
  readonly all: readonly number[];
}

/** The odds of each supplier's arrivals, from the record of receipts. */
export async function loadOdds(db: Db): Promise<SupplierOdds> {
  const { own, all } = await loadLateness(db);
  return new SupplierOdds(own, all);
}

export async function loadLateness(db: Db): Promise<Lateness> {
  const rows = await db.selectFrom('supplier_lateness').selectAll().orderBy('days').execute();
  const own = new Map<string, number[]>();
  const all: number[] = [];
  for (const { supplier, days, receipts } of rows) {
    const late = own.get(supplier) ?? [];
    own.set(supplier, late);
    for (let at = 0; at < receipts; at++) {
      late.push(days);
      all.push(days);
    }
  }
  return { own, all };
}

/** How sure promises must be, in percent, to customers without a wish of their own; null where the supplier's day is believed. */
export async function deskConfidence(db: Db): Promise<number | null> {
  const setting = await db.selectFrom('desk_setting').select('value').where('name', '=', 'confidence').executeTakeFirst();
  return typeof setting?.value === 'number' ? setting.value : null;
}
