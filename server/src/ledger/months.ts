import type { LedgerMonth } from '@nockwright/contract/ledger';
import type { IsoDay } from '@nockwright/core/calendar';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { reconcile } from './reconcile';

/** The months that something is posted in, newest first; the oldest that is open can be closed once it is over. */
export async function listMonths(db: Db, { today }: Now): Promise<LedgerMonth[]> {
  const { rows } = await sql<Omit<LedgerMonth, 'closable'>>`
    select m.month::text as month, count(e.id)::int as entries,
      (select json_build_object('at', p.closed_at, 'by', u.name) from ledger_period p join app_user u on u.id = p.closed_by where p.month = m.month) as closed
    from (select generate_series(date_trunc('month', min(day)), date_trunc('month', greatest(max(day), ${today}::date)), interval '1 month')::date as month from ledger_entry) m
      left join ledger_entry e on e.day >= m.month and e.day < m.month + interval '1 month'
    where m.month is not null
    group by m.month order by m.month desc`.execute(db);
  const next = rows.findLast((row) => row.closed === null)?.month;
  return rows.map((row) => ({
    ...row,
    closed: row.closed && { ...row.closed, at: new Date(row.closed.at).toISOString() },
    closable: row.month === next && row.month.slice(0, 7) < today.slice(0, 7),
  }));
}

/** Closes a month. Whoever posts has done so before it, or posts to the month after. */
export async function closeMonth(context: CommandContext, month: IsoDay): Promise<LedgerMonth[]> {
  const { trx, now, user } = context;
  if (!month.endsWith('-01')) throw invalid('body.month', `expected the first day of a month, got ${month}`);
  await sql`select pg_advisory_xact_lock(2044)`.execute(trx);
  const found = (await listMonths(trx, now)).find((row) => row.month === month);
  if (!found) throw invalid('body.month', `nothing is posted in ${month.slice(0, 7)}`);
  if (found.closed) throw new Refusal('conflict', `${month.slice(0, 7)} is closed already.`);
  if (!found.closable)
    throw new Refusal(
      'conflict',
      month.slice(0, 7) >= now.today.slice(0, 7)
        ? `${month.slice(0, 7)} is not over yet.`
        : 'Close the months before it first: a month is closed after those before it.',
    );
  const { checks } = await reconcile(trx);
  const wrong = checks.filter((check) => check.different > 0);
  if (wrong.length > 0)
    throw new Refusal('conflict', `${wrong.map((check) => check.name).join(', ')}: the ledger and the books differ. Nothing was closed: put that right first.`);
  await trx.insertInto('ledger_period').values({ month, closed_at: now.instant, closed_by: user.id }).execute();
  await recordEvent(context, { kind: 'month.closed', facts: { month, entries: found.entries }, subjects: [{ kind: 'firm', key: 'firm' }] });
  return listMonths(trx, now);
}
