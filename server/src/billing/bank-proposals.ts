import { indexPayers, proposePayers, type BankEntry, type BankInvoice, type PayerIndex, type PayerProposal } from '@nockwright/core/bank';
import type { CustomerId } from '@nockwright/core/ids';
import { sql, type RawBuilder } from 'kysely';
import type { Db } from '../database';
import { discountFor } from './open-invoices';

export interface StoredEntry extends BankEntry {
  readonly id: number;
}

/** Movements, the oldest first. */
export async function loadEntries(db: Db, which: RawBuilder<unknown>, most: number): Promise<readonly StoredEntry[]> {
  const { rows } = await sql<StoredEntry>`
    select b.id, b.key, b.day::text as day, trim_scale(b.amount)::text as amount, b.direction, b.party, b.party_account as "partyAccount", b.reference, b.text
    from bank_entry b where ${which} order by b.day, b.id limit ${most}`.execute(db);
  return rows;
}

/** What payments are matched with: every open invoice, every customer, and the accounts that they paid from. */
export async function loadPayers(
  db: Db,
): Promise<{ readonly index: PayerIndex; readonly names: ReadonlyMap<CustomerId, string>; readonly invoices: ReadonlyMap<number, BankInvoice> }> {
  const { rows } = await sql<BankInvoice & { readonly currency: string }>`
    select id, number, customer_id as customer, reference, currency, trim_scale(amount)::text as total, trim_scale(amount - paid)::text as open, due_day::text as "dueDay",
      discount_until::text as "discountUntil", discount_percent::text as "discountPercent"
    from invoice where kind = 'invoice' and paid < amount order by due_day, id`.execute(db);
  const customers = await db.selectFrom('customer').select(['id', 'name']).execute();
  const accounts = await db.selectFrom('customer_account').select(['account', 'customer_id']).execute();
  return {
    index: indexPayers(
      rows,
      customers,
      accounts.map((row) => [row.account, row.customer_id] as const),
    ),
    names: new Map(customers.map((row) => [row.id, row.name])),
    invoices: new Map(rows.map((row) => [row.id, row])),
  };
}

/** Of whom a movement may be. What went out is no payment of a customer. */
export function proposalsOf(entry: StoredEntry, index: PayerIndex): readonly PayerProposal[] {
  return entry.direction === 'in' ? proposePayers(entry, index, discountFor(entry.day)) : [];
}
