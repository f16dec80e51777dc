import type { Reconciliation } from '@nockwright/contract/ledger';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';
import { CHECKS } from './checks';

/** Rows of a check that are shown where it differs: those that differ most. */
const MOST_ROWS = 50;

/** The ledger beside the books it is posted from: one statement for each check. */
export async function reconcile(db: Db): Promise<Reconciliation> {
  const checks: Reconciliation['checks'][number][] = [];
  const { rows: firm } = await sql<{ currency: string }>`select firm_currency() as currency`.execute(db);
  const { currency } = firm[0]!;
  for (const { name, what, sides } of CHECKS) {
    const { rows } = await sql<Omit<Reconciliation['checks'][number], 'name' | 'what'>>`
      with sides as (${sides})
      select coalesce(sum(ledger), 0)::text as ledger, coalesce(sum(books), 0)::text as books, (count(*) filter (where ledger <> books))::int as different,
        coalesce((select json_agg(json_build_object('label', label, 'ledger', ledger::text, 'books', books::text, 'difference', (ledger - books)::text))
          from (select * from sides where ledger <> books order by abs(ledger - books) desc, label limit ${MOST_ROWS}) k), '[]') as rows
      from sides`.execute(db);
    const [found] = rows;
    const money = (value: string) => roundMoney(value, currency);
    checks.push({
      name,
      what,
      ledger: money(found!.ledger),
      books: money(found!.books),
      different: found!.different,
      rows: found!.rows.map((row) => ({ ...row, ledger: money(row.ledger), books: money(row.books), difference: money(row.difference) })),
    });
  }
  return { currency, checks };
}
