import { DISCOUNT_GRACE_DAYS, discountOn, type OpenInvoice } from '@nockwright/core/billing';
import { dayNumber, type IsoDay } from '@nockwright/core/calendar';
import type { CustomerId } from '@nockwright/core/ids';
import { roundMoney, type Amount } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';

export interface OpenRow extends OpenInvoice {
  readonly day: IsoDay;
  readonly currency: string;
}

/** Invoices of a customer that something is owed on, due first first. */
export async function loadOpen(db: Db, customer: CustomerId): Promise<readonly OpenRow[]> {
  const { rows } = await sql<OpenRow>`
    select id, number, day::text as day, due_day::text as "dueDay", currency, amount::text as total, (amount - paid)::text as open,
      discount_until::text as "discountUntil", discount_percent::text as "discountPercent"
    from invoice where customer_id = ${customer} and kind = 'invoice' and paid < amount order by due_day, id`.execute(db);
  return rows.map((row) => ({ ...row, total: roundMoney(row.total, row.currency), open: roundMoney(row.open, row.currency) }));
}

/** What may be taken off an invoice that is paid on a day; a few days late it is let pass. */
export function discountFor(day: IsoDay): (invoice: OpenInvoice) => Amount {
  return (invoice) => discountOn(invoice, day, (invoice as OpenRow).currency, (until, paid) => dayNumber(paid) <= dayNumber(until) + DISCOUNT_GRACE_DAYS);
}
