import { sql } from 'kysely';
import type { CustomerId } from '@nockwright/core/ids';
import type { CurrentUser } from '../../server/src/http/context';
import { billNext, proposePayment, recordPayment, setBilling } from '../../server/src/billing/commands';
import { addBankFile } from '../../server/src/billing/bank-files';
import { enterSupplierInvoice } from '../../server/src/payables/enter-invoice';
import { listInvoiceable } from '../../server/src/payables/load-invoice';
import { bankFileOf } from './bank-file';
import { SupplyDesk } from './supply';

/** What those who look after the money do: bill what has left, and record what came in. */
export class MoneyDesk extends SupplyDesk {
  private async colleague(login: 'fay' | 'mona'): Promise<CurrentUser> {
    return this.db.selectFrom('app_user').select(['id', 'login', 'name', 'role']).where('login', '=', login).executeTakeFirstOrThrow();
  }

  /** How a customer is billed from now on. The manager says it: the end of a month is a longer credit. */
  async billed(days: number, customer: string, wish: { readonly rule: 'weekly' | 'monthly' | 'shipment'; readonly discount?: string }): Promise<void> {
    await this.transaction(days, '09:10', await this.colleague('mona'), async (context) => {
      const row = await context.trx.selectFrom('customer').selectAll().where('number', '=', customer).executeTakeFirstOrThrow();
      await setBilling(context, row.id, {
        version: row.version,
        billingRule: wish.rule,
        billingValue: null,
        termsKind: wish.rule === 'monthly' ? 'month_end' : 'net',
        termsDays: row.terms_days,
        discountPercent: wish.discount ?? '0',
        discountDays: wish.discount === undefined ? 0 : 10,
        taxNumber: '',
        taxExemption: '',
      });
    });
  }

  /** Bills everybody who is due on a day. The mails have long arrived. */
  async bill(days: number): Promise<void> {
    const clerk = await this.colleague('fay');
    for (let next = 1; next > 0;) {
      const { invoice } = await this.transaction(days, '16:30', clerk, billNext);
      next = invoice === null ? 0 : 1;
    }
    await this.db
      .updateTable('mail')
      .set(({ ref }) => ({ state: 'sent', sent_at: ref('made_at') }))
      .where('state', '=', 'waiting')
      .where('invoice_id', 'is not', null)
      .execute();
  }

  /** What came in from a customer: the share of what they owe on invoices of the desk's own, or so much. */
  async paid(days: number, customer: string, more = '0'): Promise<void> {
    await this.transaction(days, '10:40', await this.colleague('fay'), async (context) => {
      const { id } = await context.trx.selectFrom('customer').select('id').where('number', '=', customer).executeTakeFirstOrThrow();
      const open = await context.trx
        .selectFrom('invoice')
        .select(['id', 'amount', 'paid'])
        .where('customer_id', '=', id)
        .where('issued_at', 'is not', null)
        .where('kind', '=', 'invoice')
        .orderBy('id')
        .execute();
      const first = open.find((row) => Number(row.paid) < Number(row.amount));
      if (!first) return;
      const owed = (Number(first.amount) - Number(first.paid)).toFixed(2);
      const amount = (Number(owed) + Number(more)).toFixed(2);
      const { settled } = await proposePayment(context.trx, context.now, id as CustomerId, amount);
      await recordPayment(context, id, { day: context.now.today, method: 'bank', amount, reference: `transfer ${customer}`, settled });
    });
  }

  /** A file of the bank that nobody has looked at: payments that name an invoice, one that does not, one of nobody known, and what went out. */
  async bankFile(days: number): Promise<void> {
    const open = await this.db
      .selectFrom('invoice')
      .innerJoin('customer', 'customer.id', 'invoice.customer_id')
      .select(['invoice.number', 'invoice.reference', 'customer.name', 'invoice.amount', 'invoice.paid'])
      .where('invoice.issued_at', 'is not', null)
      .where('invoice.kind', '=', 'invoice')
      .whereRef('invoice.paid', '=', sql`0`)
      .orderBy('invoice.id')
      .limit(6)
      .execute();
    const rows = open.map(({ number, reference, name, amount }, at) => {
      const said = [{ reference }, { text: `Invoice ${number}` }, { text: 'with thanks' }][at % 3]!;
      return { party: name, amount: Number(amount).toFixed(2), reference: '', text: '', side: 'CRDT', ...said };
    });
    const content = bankFileOf(this.day(days), [
      ...rows,
      { party: 'T. Ashby', amount: '84.20', reference: '', text: 'for the bees', side: 'CRDT' },
      { party: 'Bank', amount: '12.50', reference: '', text: 'Account fee', side: 'DBIT' },
    ]);
    await this.transaction(days, '08:05', await this.colleague('fay'), (context) => addBankFile(context, 'statement.xml', content));
  }

  /** A supplier's invoice over all that came from them and is on none, each line dearer by so much. */
  async invoiced(days: number, supplier: string, number: string, dearer = 0): Promise<void> {
    await this.transaction(days, '11:20', await this.colleague('fay'), async (context) => {
      const rows = await listInvoiceable(context.trx, supplier);
      if (rows.length === 0) return;
      const lines = rows.map(({ line, quantity, cost }) => ({ line, quantity, price: (Number(cost) + dearer).toFixed(4) }));
      const net = lines.reduce((sum, line) => sum + Math.round(Number(line.quantity) * Number(line.price) * 100), 0) / 100;
      const tax = (net * 0.2).toFixed(2);
      await enterSupplierInvoice(context, {
        supplier,
        number,
        day: this.day(days),
        dueDay: this.day(days + 30),
        freight: '0',
        tax,
        total: (net + Number(tax)).toFixed(2),
        lines,
      });
    });
  }
}
