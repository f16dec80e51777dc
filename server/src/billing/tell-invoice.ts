import type { ToldInvoice } from '@nockwright/core/billing';
import { amountInWords } from '@nockwright/core/money';
import { invoiceName } from '../documents';
import type { OrderId } from '@nockwright/core/ids';
import type { CommandContext } from '../http/context';
import { paperOf } from './told-invoice';

/** Keeps an invoice or a credit note as it was issued, and mails it to the customer, where they have an address; of no order: it is not mailed. */
export async function tellInvoice(context: CommandContext, id: number, told: ToldInvoice, order: OrderId | null): Promise<void> {
  const { trx, now, user, jobs } = context;
  const paper = await paperOf(trx, id);
  const { id: document } = await trx
    .insertInto('document')
    .values({ kind: 'invoice', invoice_id: id, made_at: now.instant, content: JSON.stringify(paper) })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (order === null) return;
  const { email, contact } = await trx
    .selectFrom('invoice')
    .innerJoin('customer', 'customer.id', 'invoice.customer_id')
    .select(['customer.email', 'customer.contact'])
    .where('invoice.id', '=', id)
    .executeTakeFirstOrThrow();
  if (email === '') return;
  const name = invoiceName(paper);
  const { id: mail } = await trx
    .insertInto('mail')
    .values({
      order_id: order,
      invoice_id: id,
      document_id: document,
      recipients: [email],
      subject: `${name} from ${paper.firm.name}`,
      body: [
        contact ? `Good day ${contact},` : 'Good day,',
        told.kind === 'invoice'
          ? `attached is ${name.toLowerCase()} for ${amountInWords(told.total)} ${told.currency}. Please name ${told.reference} with your payment.`
          : `attached is ${name.toLowerCase()} for ${amountInWords(told.total)} ${told.currency}. It corrects invoice ${told.credits?.number ?? ''}.`,
        `Kind regards\n${user.name}\n${paper.firm.name}`,
      ].join('\n\n'),
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await jobs.send(trx, 'mail', { mail });
}
