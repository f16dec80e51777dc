import { decideCredit, invoiceTotals, type CreditedLine } from '@nockwright/core/billing';
import type { invoiceRoutes, InvoiceView } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import { compareDecimal, least, minus } from '@nockwright/core/money';
import type { CommandContext } from '../http/context';
import { recordEvent } from '../events';
import { invalid, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { checkRules } from './check-rules';
import { lockPayer } from './lock-payer';
import { readInvoice } from './read-invoice';
import { storeLines } from './store-lines';
import { tellInvoice } from './tell-invoice';
import { loadTold, toldOf } from './told-invoice';

/** Corrects an invoice by a credit note. What is open of the invoice is settled by it at once; the rest of the note stays to the customer's credit. */
export async function creditInvoice(
  context: CommandContext,
  id: number,
  { lines: wishes, reason }: BodyOf<typeof invoiceRoutes.creditInvoice>,
): Promise<InvoiceView> {
  const { trx, now, user } = context;
  const { customerId } = await loadTold(trx, id);
  await lockPayer(trx, customerId);
  const invoice = await loadTold(trx, id);
  if (invoice.kind !== 'invoice') throw new Refusal('conflict', `${invoice.number} is a credit note: nothing of it is credited.`);
  if (invoice.lines.length === 0) throw new Refusal('conflict', `Invoice ${invoice.number} has no lines that could be credited.`);
  const decided = decideCredit(
    invoice.lines.map((line) => ({ ...line, id: line.key })),
    wishes,
    invoice.currency,
  );
  if (!decided.ok) {
    const faults = decided.faults.map(({ field, message }) => ({ field: `body.${field}`, message }));
    throw new Refusal('invalid', faults.map(({ field, message }) => `${field}: ${message}`).join('; '), faults);
  }
  const { note, number, totals } = await storeNote(context, invoice, decided.lines, reason);
  const told = await toldOf(trx, note);
  checkRules(told);
  const settles = least(minus(invoice.total, invoice.paid), totals.total);
  if (compareDecimal(settles, '0') > 0)
    await trx
      .insertInto('settlement')
      .values({ invoice_id: id, kind: 'credit', credit_note_id: note, amount: settles, made_at: now.instant, made_by: user.id })
      .execute();
  const orders = [...new Set(invoice.lines.flatMap((line) => line.orderId ?? []))];
  await recordEvent(context, {
    kind: 'invoice.credited',
    facts: { number, invoice: invoice.number, amount: totals.total, currency: invoice.currency, lines: decided.lines.length },
    why: reason,
    subjects: [
      { kind: 'invoice', key: note },
      { kind: 'invoice', key: id },
      { kind: 'customer', key: invoice.customerId },
      ...orders.map((key) => ({ kind: 'order' as const, key })),
    ],
  });
  await tellInvoice(context, note, told, orders[0] ?? null);
  return readInvoice(trx, now, note);
}

/** Writes a credit note of an invoice; the number is taken last. */
async function storeNote({ trx, now, user }: CommandContext, invoice: Awaited<ReturnType<typeof loadTold>>, lines: readonly CreditedLine[], reason: string) {
  const totals = invoiceTotals(lines, invoice.currency);
  const number = await nextNumber(trx, 'credit_note');
  const { id: note } = await trx
    .insertInto('invoice')
    .values({
      number,
      kind: 'credit_note',
      customer_id: invoice.customerId,
      day: now.today,
      due_day: now.today,
      currency: invoice.currency,
      amount: totals.total,
      net: totals.net,
      tax: totals.tax,
      bill_to: invoice.billTo && JSON.stringify(invoice.billTo),
      credits_id: invoice.id,
      reason,
      issued_at: now.instant,
      issued_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  const own = new Map(invoice.lines.map((line) => [line.key, line]));
  await storeLines(
    trx,
    note,
    lines.map((line) => {
      const { kind, orderId: order, itemCode: item } = own.get(line.credits)!;
      return { ...line, kind, order, item, shipment: null, line: null };
    }),
    totals,
  );
  return { note, number, totals };
}

/** Gives up what is open of an invoice, or a part of it. */
export async function writeOff(context: CommandContext, id: number, { amount, reason }: BodyOf<typeof invoiceRoutes.writeOff>): Promise<InvoiceView> {
  const { trx, now, user } = context;
  const { customerId } = await loadTold(trx, id);
  await lockPayer(trx, customerId);
  const invoice = await loadTold(trx, id);
  if (invoice.kind !== 'invoice') throw new Refusal('conflict', `${invoice.number} is a credit note: nothing of it is written off.`);
  const open = minus(invoice.total, invoice.paid);
  if (compareDecimal(amount, '0') <= 0) throw invalid('body.amount', `expected an amount above 0, got ${amount}`);
  if (compareDecimal(amount, open) > 0) throw invalid('body.amount', `${amount} is more than the ${open} open on invoice ${invoice.number}`);
  await trx.insertInto('settlement').values({ invoice_id: id, kind: 'write_off', amount, reason, made_at: now.instant, made_by: user.id }).execute();
  await recordEvent(context, {
    kind: 'invoice.written_off',
    facts: { number: invoice.number, amount, currency: invoice.currency },
    why: reason,
    subjects: [
      { kind: 'invoice', key: id },
      { kind: 'customer', key: invoice.customerId },
    ],
  });
  return readInvoice(trx, now, id);
}
