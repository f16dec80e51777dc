import type { Customer, customerRoutes } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { amountInWords, compareDecimal, roundMoney } from '@nockwright/core/money';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { readCustomer } from './read-customer';

type Wish = BodyOf<typeof customerRoutes.setCreditLimit>;

/** Sets how much a customer may owe; what is released already stays released. */
export async function setCreditLimit(context: CommandContext, customerId: number, { limit, reason, was }: Wish): Promise<Customer> {
  const { trx, now } = context;
  const before = await trx.selectFrom('customer').select(['name', 'credit_limit']).where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!before) throw notFound(`customer ${customerId}`);
  const stands = before.credit_limit;
  if (stands === null ? was !== null : was === null || compareDecimal(was, stands) !== 0)
    throw new Refusal('changed', `The credit limit of ${before.name} is ${inWords(stands)} by now; you saw ${inWords(was)}. Look at it again, then decide.`, [
      { field: 'body.was', message: `it is now ${inWords(stands)}` },
    ]);
  await trx.updateTable('customer').set({ credit_limit: limit }).where('id', '=', customerId).execute();
  await recordEvent(context, {
    what: `set the credit limit of ${before.name} to ${inWords(limit)}, was ${inWords(stands)}`,
    why: reason,
    before: { limit: before.credit_limit },
    after: { limit },
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return readCustomer(trx, customerId, now.today);
}

function inWords(limit: string | null): string {
  return limit === null ? 'none' : amountInWords(roundMoney(limit, 'EUR'));
}
