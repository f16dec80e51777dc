import type { Customer } from '@nockwright/contract/customers';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';
import { readCustomer } from './read-customer';

/** Sets how much a customer may owe; what is released already stays released. */
export async function setCreditLimit(context: CommandContext, customerId: number, limit: string | null, reason: string): Promise<Customer> {
  const { trx, now } = context;
  const before = await trx.selectFrom('customer').select(['name', 'credit_limit']).where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!before) throw notFound(`customer ${customerId}`);
  await trx.updateTable('customer').set({ credit_limit: limit }).where('id', '=', customerId).execute();
  await recordEvent(context, {
    what: `set the credit limit of ${before.name} to ${limit ?? 'none'}`,
    why: reason,
    before: { limit: before.credit_limit },
    after: { limit },
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return readCustomer(trx, customerId, now.today);
}
