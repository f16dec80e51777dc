import type { CustomerId } from '@nockwright/core/ids';
import type { Customer } from '@nockwright/contract/customers';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';
import { readCustomer } from './read-customer';

/** Leaves a note that shows when the customer is spoken to next. */
export async function addReminder(context: CommandContext, customerId: CustomerId, text: string): Promise<Customer> {
  const { trx, now, user } = context;
  await readCustomer(trx, customerId, now.today);
  await trx.insertInto('customer_note').values({ customer_id: customerId, text, made_at: now.instant, made_by: user.id }).execute();
  await recordEvent(context, { kind: 'note.left', facts: {}, after: { text }, subjects: [{ kind: 'customer', key: customerId }] });
  return readCustomer(trx, customerId, now.today);
}

/** Takes a note away that is dealt with; whoever is second finds it gone. */
export async function closeReminder(context: CommandContext, customerId: CustomerId, reminderId: number): Promise<Customer> {
  const { trx, now, user } = context;
  const closed = await trx
    .updateTable('customer_note')
    .set({ closed_at: now.instant, closed_by: user.id })
    .where('id', '=', reminderId)
    .where('customer_id', '=', customerId)
    .where('closed_at', 'is', null)
    .returning('text')
    .executeTakeFirst();
  if (!closed) throw notFound(`open note ${reminderId} of this customer`);
  await recordEvent(context, { kind: 'note.closed', facts: {}, before: closed, subjects: [{ kind: 'customer', key: customerId }] });
  return readCustomer(trx, customerId, now.today);
}
