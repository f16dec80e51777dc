import { payableInWords } from '@nockwright/core/billing';
import type { InvoiceView } from '@nockwright/contract/billing';
import { compareDecimal, minus, roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { readHistory } from '../events';
import { loadTold } from './told-invoice';

/** An invoice or a credit note with its lines, taxes, what was settled, and its credit notes. */
export async function readInvoice(db: Db, { today }: Now, id: number): Promise<InvoiceView> {
  const row = await loadTold(db, id);
  const money = (amount: string) => roundMoney(amount, row.currency);
  const { rows: notes } = await sql<InvoiceView['notes'][number]>`
    select id, number, day::text as day, amount::text as total from invoice where credits_id = ${id} order by id`.execute(db);
  const { rows: settlements } = await sql<InvoiceView['settlements'][number]>`
    select s.kind, coalesce(p.day, s.made_at::date)::text as day, s.amount::text as amount, s.payment_id as payment, s.reason,
      case when o.id is not null then json_build_object('id', o.id, 'number', o.number) end as other
    from settlement s left join payment p on p.id = s.payment_id
      left join invoice o on o.id = case when s.invoice_id = ${id} then s.credit_note_id else s.invoice_id end
    where s.invoice_id = ${id} or s.credit_note_id = ${id} order by s.id`.execute(db);
  const open = money(minus(row.total, row.paid));
  const { kind, number, customer, customerId, day, dueDay, currency, terms, reference, total, paid, reason, discountPercent, discountUntil } = row;
  return {
    id,
    kind,
    number,
    customer,
    customerId,
    day,
    dueDay,
    currency,
    terms,
    payable: kind === 'invoice' ? payableInWords({ total, dueDay, discountUntil, discountPercent }, currency, today) : '',
    reference,
    net: row.net ?? total,
    tax: row.tax,
    total,
    paid,
    open,
    overdue: kind === 'invoice' && dueDay < today && compareDecimal(open, '0') > 0,
    credits: row.credits && { id: row.credits.id, number: row.credits.number },
    reason,
    notes: notes.map((note) => ({ ...note, total: money(note.total) })),
    lines: row.lines.map((line) => ({
      id: line.key,
      lineNo: line.lineNo,
      kind: line.kind,
      order: line.orderId,
      orderNumber: line.order,
      shipment: line.shipment,
      item: line.itemCode,
      theirCode: line.theirCode,
      text: line.text,
      quantity: line.quantity,
      unit: line.unit,
      price: line.price,
      amount: line.amount,
      category: line.category,
      percent: line.percent,
      credited: line.credited,
    })),
    taxes: row.taxes,
    settlements: settlements.map((one) => ({ ...one, amount: money(one.amount) })),
    history: await readHistory(db, 'invoice', id),
  };
}
