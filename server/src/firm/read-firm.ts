import type { Firm, NumberSeries } from '@nockwright/contract/firm';
import { sql, type Selectable } from 'kysely';
import type { Database, Db } from '../database';

/** The firm as its row has it; so it is kept with papers, too. */
export type FirmRecord = Selectable<Database['firm']>;

export function loadFirm(db: Db): Promise<FirmRecord> {
  return db.selectFrom('firm').selectAll().executeTakeFirstOrThrow();
}

export async function loadCurrency(db: Db): Promise<string> {
  const { currency } = await db.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  return currency;
}

export async function readFirm(db: Db): Promise<Firm> {
  const { one: _, tax_number: taxNumber, gs1_prefix: gs1Prefix, ...details } = await loadFirm(db);
  return { ...details, taxNumber, gs1Prefix, currencySettled: await isCurrencySettled(db), series: await readSeries(db) };
}

/** Amounts stand in the currency as soon as anything was sold, bought or billed. */
export async function isCurrencySettled(db: Db): Promise<boolean> {
  const { rows } = await sql<{ settled: boolean }>`
    select exists (select from sales_order) or exists (select from purchase_order) or exists (select from invoice) as settled`.execute(db);
  return rows[0]!.settled;
}

function readSeries(db: Db): Promise<NumberSeries[]> {
  return db.selectFrom('number_series').select(['name', 'prefix', 'next']).orderBy('name').execute();
}
