import type { payableRoutes, SupplierInvoiceRow } from '@nockwright/contract/payables';
import type { QueryOf } from '@nockwright/contract/shape';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import { escapeLike, searchWords, type Db } from '../database';
import { readSupplierInvoice } from './load-invoice';

const PAGE = 60;

/** Suppliers' invoices, newest first; of those that are held, how many things do not match as it stands now. */
export async function listSupplierInvoices(db: Db, { state = 'held', q, before }: QueryOf<typeof payableRoutes.listSupplierInvoices>) {
  const words = searchWords(q).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (lower(i.number) like ${like} or lower(s.name) like ${like})`;
  });
  const { rows } = await sql<Omit<SupplierInvoiceRow, 'differs'>>`
    select i.id, i.supplier, s.name, i.number, i.day::text as day, i.due_day::text as "dueDay", i.total::text as total, i.state
    from supplier_invoice i join supplier s on s.code = i.supplier
    where ${state === 'all' ? sql`true` : sql`i.state = ${state}`} ${before === undefined ? sql`` : sql`and i.id < ${before}`} ${sql.join(words, sql` `)}
    order by i.id desc limit ${PAGE + 1}`.execute(db);
  const { rows: sums } = await sql<{ owed: string; currency: string }>`
    select coalesce(sum(total) filter (where state = 'accepted'), 0)::text as owed, firm_currency() as currency from supplier_invoice`.execute(db);
  const { owed, currency } = sums[0]!;
  const shown: SupplierInvoiceRow[] = [];
  for (const row of rows.slice(0, PAGE))
    shown.push({
      ...row,
      total: roundMoney(row.total, currency),
      differs: row.state === 'held' ? (await readSupplierInvoice(db, row.id)).findings.length : 0,
    });
  return { rows: shown, more: rows.length > PAGE, owed: roundMoney(owed, currency), currency };
}
