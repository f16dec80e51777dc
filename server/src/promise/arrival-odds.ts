import { latenessOf, SupplierOdds } from '@nockwright/core/supply';
import type { Db } from '../database';

/** A record older than so many receipts of a supplier says little about today. */
const MOST_RECEIPTS = 400;

/** The odds of each supplier's arrivals, from the record of receipts. */
export async function loadOdds(db: Db): Promise<SupplierOdds> {
  const rows = await db
    .selectFrom(({ selectFrom }) =>
      selectFrom('supplier_receipt')
        .select(['supplier', 'promised_day', 'received_day'])
        .select(({ fn }) =>
          fn
            .agg<number>('row_number')
            .over((over) => over.partitionBy('supplier').orderBy('id', 'desc'))
            .as('age'),
        )
        .as('recent'),
    )
    .select(['supplier', 'promised_day', 'received_day'])
    .where('age', '<=', MOST_RECEIPTS)
    .execute();
  const records = new Map<string, { promised: string; received: string }[]>();
  for (const { supplier, promised_day, received_day } of rows) {
    const list = records.get(supplier) ?? [];
    list.push({ promised: promised_day, received: received_day });
    records.set(supplier, list);
  }
  return new SupplierOdds(new Map([...records].map(([supplier, list]) => [supplier, latenessOf(list)])), latenessOf([...records.values()].flat()));
}

/** How sure promises must be, in percent, to customers without a wish of their own; null where the supplier's day is believed. */
export async function deskConfidence(db: Db): Promise<number | null> {
  const setting = await db.selectFrom('desk_setting').select('value').where('name', '=', 'confidence').executeTakeFirst();
  return typeof setting?.value === 'number' ? setting.value : null;
}
