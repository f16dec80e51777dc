import type { Customer, customerRoutes } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CustomerId } from '@nockwright/core/ids';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { readCustomer } from './read-customer';

/** Says what a customer pays for freight, and whether they take despatch advices. What has left stays as it was charged. */
export async function setShippingTerms(
  context: CommandContext,
  customerId: CustomerId,
  wish: BodyOf<typeof customerRoutes.setShippingTerms>,
): Promise<Customer> {
  const { trx, now } = context;
  const before = await trx.selectFrom('customer').selectAll().where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!before) throw notFound(`customer ${customerId}`);
  if (before.version !== wish.version)
    throw await changedSince(trx, { kind: 'customer', key: customerId, label: before.name, given: wish.version, current: before.version });
  if (wish.freightRule === 'flat' && wish.freightFlat === null) throw invalid('body.freightFlat', 'expected what an order pays, got nothing');
  if (wish.freightRule === 'own_account' && wish.freightAccount === '')
    throw invalid('body.freightAccount', 'expected the number of their account, got nothing');
  const after = {
    freight_rule: wish.freightRule,
    freight_flat: wish.freightRule === 'flat' ? wish.freightFlat : null,
    freight_free_from: wish.freightRule === 'flat' || wish.freightRule === 'at_cost' ? wish.freightFreeFrom : null,
    freight_account: wish.freightAccount,
    takes_advices: wish.takesAdvices,
  };
  await trx
    .updateTable('customer')
    .set({ ...after, version: before.version + 1 })
    .where('id', '=', customerId)
    .execute();
  const { freight_rule, freight_flat, freight_free_from, freight_account, takes_advices } = before;
  await recordEvent(context, {
    kind: 'customer.changed',
    facts: { customer: before.name, fields: ['freight and despatch advice'] },
    before: { freight_rule, freight_flat, freight_free_from, freight_account, takes_advices },
    after,
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return readCustomer(trx, customerId, now.today);
}
