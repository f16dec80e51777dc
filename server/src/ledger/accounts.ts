import type { AccountRow, EntryRow, ledgerRoutes } from '@nockwright/contract/ledger';
import type { QueryOf } from '@nockwright/contract/shape';
import { writeCsv } from '@nockwright/core/formats';
import type { IsoDay } from '@nockwright/core/calendar';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import { escapeLike, searchWords, type Db } from '../database';

const PAGE = 60;
/** Lines of an export at most, so that no request takes all memory. */
const MOST_LINES = 500_000;

const currencyOf = async (db: Db) => (await sql<{ currency: string }>`select firm_currency() as currency`.execute(db)).rows[0]!.currency;

/** What stands on every account, up to a day. */
export async function readAccounts(db: Db, to: IsoDay | undefined): Promise<{ currency: string; accounts: AccountRow[] }> {
  const currency = await currencyOf(db);
  const { rows } = await sql<AccountRow>`
    select a.code, a.name, a.kind, coalesce(sum(l.amount) filter (where l.amount > 0), 0)::text as debit,
      coalesce(-sum(l.amount) filter (where l.amount < 0), 0)::text as credit, coalesce(sum(l.amount), 0)::text as balance
    from ledger_account a
      left join (ledger_line l join ledger_entry e on e.id = l.entry_id ${to === undefined ? sql`` : sql`and e.day <= ${to}`}) on l.account = a.code
    group by a.code order by a.code`.execute(db);
  const money = (value: string) => roundMoney(value, currency);
  return { currency, accounts: rows.map((row) => ({ ...row, debit: money(row.debit), credit: money(row.credit), balance: money(row.balance) })) };
}

/** Entries with their lines and the paper each is of: one statement. */
export async function listEntries(db: Db, { account, from, to, q, before }: QueryOf<typeof ledgerRoutes.listEntries>) {
  const currency = await currencyOf(db);
  const words = searchWords(q).map((word) => sql`and lower(e.reference) like ${`%${escapeLike(word)}%`}`);
  const { rows } = await sql<EntryRow>`
    select e.id, e.day::text as day, e.posted_at as "postedAt", e.kind, e.reference,
      case
        when e.invoice_id is not null then json_build_object('kind', 'invoice', 'key', e.invoice_id::text)
        when e.supplier_invoice_id is not null then json_build_object('kind', 'supplier_invoice', 'key', e.supplier_invoice_id::text)
        when e.payment_id is not null then (select json_build_object('kind', 'customer', 'key', p.customer_id::text) from payment p where p.id = e.payment_id)
        when e.kind = 'shipment' then (select json_build_object('kind', 'order', 'key', s.order_id::text) from shipment s where s.number = e.reference)
        when e.kind in ('receipt', 'drop_ship') then (select json_build_object('kind', 'purchase', 'key', p.id::text) from purchase_order p where p.number = e.reference)
        when e.kind in ('transfer', 'transfer_lost') then
          (select json_build_object('kind', 'transfer', 'key', t.id::text) from transfer_order t where t.number = split_part(e.reference, '/', 1))
        when e.kind = 'assembly' then (select json_build_object('kind', 'assembly', 'key', t.id::text) from assembly_order t where t.number = e.reference)
        when e.kind in ('count', 'adjustment') then
          (select json_build_object('kind', 'item', 'key', l.item) from ledger_line l where l.entry_id = e.id and l.item is not null limit 1)
      end as paper,
      (select json_agg(json_build_object('account', l.account, 'name', a.name, 'item', coalesce(l.item, ''), 'percent', trim_scale(l.percent)::text,
          'debit', greatest(l.amount, 0)::text, 'credit', greatest(-l.amount, 0)::text) order by l.amount < 0, l.id)
        from ledger_line l join ledger_account a on a.code = l.account where l.entry_id = e.id) as lines
    from ledger_entry e
    where true ${account === undefined ? sql`` : sql`and exists (select from ledger_line l where l.entry_id = e.id and l.account = ${account})`}
      ${from === undefined ? sql`` : sql`and e.day >= ${from}`} ${to === undefined ? sql`` : sql`and e.day <= ${to}`}
      ${before === undefined ? sql`` : sql`and e.id < ${before}`} ${sql.join(words, sql` `)}
    order by e.id desc limit ${PAGE + 1}`.execute(db);
  const money = (value: string) => roundMoney(value, currency);
  return {
    entries: rows.slice(0, PAGE).map((row) => ({
      ...row,
      id: Number(row.id),
      postedAt: new Date(row.postedAt).toISOString(),
      lines: row.lines.map((line) => ({ ...line, debit: money(line.debit), credit: money(line.credit) })),
    })),
    more: rows.length > PAGE,
  };
}

const TITLES = ['entry', 'day', 'posted', 'kind', 'reference', 'account', 'name', 'debit', 'credit', 'item', 'warehouse', 'tax category', 'tax per cent'];

/** The lines of the ledger as comma-separated values (RFC 4180); docs/ledger.md says what stands in each. */
export async function exportEntries(db: Db, { from, to }: QueryOf<typeof ledgerRoutes.exportEntries>): Promise<Response> {
  const { rows } = await sql<{ readonly cells: readonly string[] }>`
    select array[e.id::text, e.day::text, to_char(e.posted_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), e.kind, e.reference, l.account, a.name,
      round(greatest(l.amount, 0), money_digits())::text, round(greatest(-l.amount, 0), money_digits())::text, coalesce(l.item, ''), coalesce(l.warehouse, ''),
      coalesce(l.category, ''), coalesce(trim_scale(l.percent)::text, '')] as cells
    from ledger_entry e join ledger_line l on l.entry_id = e.id join ledger_account a on a.code = l.account
    where true ${from === undefined ? sql`` : sql`and e.day >= ${from}`} ${to === undefined ? sql`` : sql`and e.day <= ${to}`}
    order by e.id, l.id limit ${MOST_LINES}`.execute(db);
  return new Response(`\ufeff${writeCsv([TITLES, ...rows.map((row) => row.cells)])}`, {
    headers: { 'Content-Type': 'text/csv; charset=utf-8', 'Content-Disposition': 'attachment; filename="ledger.csv"' },
  });
}
