import type { CustomerId } from '@nockwright/core/ids';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';

/** Says how many days of life must be left on delivery to a customer; null: as the items say. What was promised before stays promised. */
export async function setLeastLife(context: CommandContext, customerId: CustomerId, days: number | null): Promise<{ readonly days: number | null }> {
  const { trx } = context;
  const before = await trx.selectFrom('customer').select(['name', 'least_life']).where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!before) throw notFound(`customer ${customerId}`);
  await trx.updateTable('customer').set({ least_life: days }).where('id', '=', customerId).execute();
  await recordEvent(context, {
    kind: 'customer.life',
    facts: { customer: before.name, days },
    before: { leastLife: before.least_life },
    after: { leastLife: days },
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return { days };
}
