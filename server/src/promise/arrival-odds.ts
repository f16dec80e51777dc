import { SupplierOdds } from '@nockwright/core/supply';
import { sql } from 'kysely';
import type { Db } from '../database';

/** A record older than so many receipts of a supplier says little about today. */
const MOST_RECEIPTS = 400;

/** The odds of each supplier's arrivals, from the record of receipts: how many came so many days late. */
export async function loadOdds(db: Db): Promise<SupplierOdds> {
  const { rows } = await sql<{ supplier: string; days: number; receipts: number }>`
    select s.code as supplier, r.days, count(*)::int as receipts
    from supplier s cross join lateral (
      select received_day - promised_day as days from supplier_receipt where supplier = s.code order by id desc limit ${MOST_RECEIPTS}
    ) r
    group by 1, 2 order by 2`.execute(db);
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
  return new SupplierOdds(own, all);
}

/** How sure promises must be, in percent, to customers without a wish of their own; null where the supplier's day is believed. */
export async function deskConfidence(db: Db): Promise<number | null> {
  const setting = await db.selectFrom('desk_setting').select('value').where('name', '=', 'confidence').executeTakeFirst();
  return typeof setting?.value === 'number' ? setting.value : null;
}
