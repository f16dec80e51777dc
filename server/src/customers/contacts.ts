import type { Customer, customerRoutes } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CustomerId } from '@nockwright/core/ids';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { lockCustomer } from './lock-customer';
import { readCustomer } from './read-customer';

const MOST_CONTACTS = 50;

/** Keeps a person one speaks to; with an id in the place of what was kept of them. */
export async function storeContact(
  context: CommandContext,
  customerId: CustomerId,
  { id, name, role, phone, email }: BodyOf<typeof customerRoutes.storeContact>,
): Promise<Customer> {
  const { trx, now } = context;
  await lockCustomer(trx, customerId);
  const values = { name, role, phone, email: email ?? '' };
  const kept = await trx.selectFrom('customer_contact').select(['id', 'name', 'role', 'phone', 'email']).where('customer_id', '=', customerId).execute();
  const known = kept.find((row) => row.id === id);
  if (id !== undefined && !known) throw notFound(`contact ${id} of this customer`);
  if (known) await trx.updateTable('customer_contact').set(values).where('id', '=', known.id).execute();
  else {
    if (kept.some((row) => row.name.toLowerCase() === name.toLowerCase())) throw new Refusal('conflict', `${name} is among their contacts already.`);
    if (kept.length >= MOST_CONTACTS) throw new Refusal('conflict', `A customer has at most ${MOST_CONTACTS} contacts.`);
    await trx
      .insertInto('customer_contact')
      .values({ ...values, customer_id: customerId })
      .execute();
  }
  await recordEvent(context, {
    kind: 'contact.kept',
    facts: { name, role, known: known !== undefined },
    before: known ?? null,
    after: values,
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return readCustomer(trx, customerId, now.today);
}

/** Removes a person; whoever is second finds them gone. */
export async function removeContact(context: CommandContext, customerId: CustomerId, contact: number): Promise<Customer> {
  const { trx, now } = context;
  await lockCustomer(trx, customerId);
  const gone = await trx
    .deleteFrom('customer_contact')
    .where('id', '=', contact)
    .where('customer_id', '=', customerId)
    .returning(['name', 'role', 'phone', 'email'])
    .executeTakeFirst();
  if (!gone) throw notFound(`contact ${contact} of this customer`);
  await recordEvent(context, { kind: 'contact.removed', facts: { name: gone.name }, before: gone, subjects: [{ kind: 'customer', key: customerId }] });
  return readCustomer(trx, customerId, now.today);
}
