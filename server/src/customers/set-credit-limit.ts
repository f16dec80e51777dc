import type { CustomerId } from '@nockwright/core/ids';
import type { Customer, customerRoutes } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { amountInWords, compareDecimal, roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { readCustomer } from './read-customer';

type Wish = BodyOf<typeof customerRoutes.setCreditLimit>;

/** Sets how much a customer may owe; what is released already stays released. */
export async function setCreditLimit(context: CommandContext, customerId: CustomerId, { limit, reason, was }: Wish): Promise<Customer> {
  const { trx, now } = context;
  const before = await trx
    .selectFrom('customer')
    .select(['name', 'credit_limit', sql<string>`firm_currency()`.as('currency')])
    .where('id', '=', customerId)
    .forNoKeyUpdate()
    .executeTakeFirst();
  if (!before) throw notFound(`customer ${customerId}`);
  const stands = before.credit_limit;
  if (stands === null ? was !== null : was === null || compareDecimal(was, stands) !== 0)
    throw new Refusal(
      'changed',
      `The credit limit of ${before.name} is ${inWords(stands, before.currency)} by now; you saw ${inWords(was, before.currency)}. Look at it again, then decide.`,
      [{ field: 'body.was', message: `it is now ${inWords(stands, before.currency)}` }],
    );
  await trx.updateTable('customer').set({ credit_limit: limit }).where('id', '=', customerId).execute();
  await recordEvent(context, {
    kind: 'credit.limit_set',
    facts: { customer: before.name, limit, was: stands, currency: before.currency },
    why: reason,
    before: { limit: before.credit_limit },
    after: { limit },
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return readCustomer(trx, customerId, now.today);
}

function inWords(limit: string | null, currency: string): string {
  return limit === null ? 'none' : amountInWords(roundMoney(limit, currency));
}
