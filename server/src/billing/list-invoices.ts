import type { InvoiceRow, invoiceRoutes } from '@nockwright/contract/billing';
import type { QueryOf } from '@nockwright/contract/shape';
import { daysSalesOutstanding } from '@nockwright/core/billing';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { escapeLike, searchWords, type Db } from '../database';

const PAGE = 60;

/** Invoices and credit notes, newest first, with what is open and overdue of all that are found: one statement each. */
export async function listInvoices(db: Db, { today }: Now, { state = 'open', customer, q, before }: QueryOf<typeof invoiceRoutes.listInvoices>) {
  const states = {
    open: sql`i.paid < i.amount`,
    overdue: sql`i.paid < i.amount and i.kind = 'invoice' and i.due_day < ${today}`,
    settled: sql`i.paid = i.amount`,
    all: sql`true`,
  };
  const words = searchWords(q).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (lower(i.number) like ${like} or c.search like ${like})`;
  });
  const found = sql`${states[state]} ${customer === undefined ? sql`` : sql`and i.customer_id = ${customer}`} ${sql.join(words, sql` `)}`;
  const { rows } = await sql<InvoiceRow>`
    select i.id, i.kind, i.number, c.name as customer, c.id as "customerId", i.day::text as day, i.due_day::text as "dueDay", i.currency, i.amount::text as total,
      (i.amount - i.paid)::text as open, i.kind = 'invoice' and i.paid < i.amount and i.due_day < ${today} as overdue
    from invoice i join customer c on c.id = i.customer_id
    where ${found} ${before === undefined ? sql`` : sql`and i.id < ${before}`}
    order by i.id desc limit ${PAGE + 1}`.execute(db);
  const {
    rows: [sums],
  } = await sql<{ open: string; overdue: string; currency: string }>`
    select coalesce(sum(case i.kind when 'invoice' then i.amount - i.paid else i.paid - i.amount end), 0)::text as open,
      coalesce(sum(i.amount - i.paid) filter (where i.kind = 'invoice' and i.due_day < ${today}), 0)::text as overdue, firm_currency() as currency
    from invoice i join customer c on c.id = i.customer_id where i.paid < i.amount and ${found}`.execute(db);
  const { currency } = sums!;
  const outstanding = await readOutstanding(db, today);
  return {
    outstanding,
    rows: rows.slice(0, PAGE).map((row) => ({ ...row, total: roundMoney(row.total, row.currency), open: roundMoney(row.open, row.currency) })),
    more: rows.length > PAGE,
    open: roundMoney(sums!.open, currency),
    overdue: roundMoney(sums!.overdue, currency),
    currency,
  };
}

const BILLED_DAYS = 90;

/** Days sales outstanding today and 30 days ago: what the ledger had as owed by then, against what was billed in the 90 days before. */
async function readOutstanding(db: Db, today: string) {
  const { rows } = await sql<{ owed: string; billed: string }>`
    select (select coalesce(sum(l.amount), 0)::text from ledger_line l join ledger_entry e on e.id = l.entry_id
        where l.account = account_of('receivables') and e.day <= d.day) as owed,
      (select coalesce(sum(case kind when 'invoice' then amount else -amount end), 0)::text from invoice
        where day <= d.day and day > d.day - ${BILLED_DAYS}::int and issued_at is not null) as billed
    from (values (${today}::date), (${today}::date - 30)) d(day) order by d.day desc`.execute(db);
  const [now, before] = rows.map((row) => daysSalesOutstanding(row.owed, row.billed, BILLED_DAYS));
  return { now: now ?? null, before: before ?? null };
}
