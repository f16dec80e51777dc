import type { CustomerId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { drawStatementTask, type ToldStatement } from '../documents';
import { loadFirm } from '../firm';
import type { Services } from '../http/context';
import { readMoney } from './read-money';

/** A statement of account as PDF: open invoices, and credit notes that are not used up, below 0. */
export async function readStatement(db: Db, now: Now, work: Services['work'], user: number, id: CustomerId): Promise<Response> {
  const money = await readMoney(db, now, id);
  const { rows } = await sql<ToldStatement['customer']>`select name, number, street, postcode, town, country from customer where id = ${id}`.execute(db);
  const notes = money.credits.map((row) => ({
    number: row.number,
    day: row.day,
    dueDay: row.day,
    total: `-${row.open}`,
    open: `-${row.open}`,
    overdue: false,
  }));
  const told: ToldStatement = {
    firm: await loadFirm(db),
    day: now.today,
    currency: money.currency,
    customer: rows[0]!,
    rows: [...money.invoices, ...notes],
    ages: money.ages,
    onAccount: money.onAccount,
    balance: money.balance,
  };
  const pdf = await work.run(drawStatementTask, told, user);
  return new Response(new Uint8Array(pdf), {
    headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': `inline; filename="statement-${money.number}.pdf"` },
  });
}
