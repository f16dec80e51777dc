import type { CustomerId } from '@nockwright/core/ids';
import type { customerRoutes, ShipTo } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';

/** Adds an address; one that is known already is given as it is. */
export async function addShipTo(context: CommandContext, customerId: CustomerId, address: BodyOf<typeof customerRoutes.addShipTo>): Promise<ShipTo> {
  const { trx } = context;
  // Under lock of the customer, so that the same address given twice at once stands once.
  const customer = await trx.selectFrom('customer').select('id').where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!customer) throw notFound(`customer ${customerId}`);
  const columns = ['id', 'name', 'street', 'postcode', 'town', 'country'] as const;
  const known = await trx
    .selectFrom('ship_to')
    .select(columns)
    .where('customer_id', '=', customerId)
    .where((eb) => eb(eb.fn<string>('lower', ['street']), '=', address.street.toLowerCase()))
    .where((eb) => eb(eb.fn<string>('lower', ['postcode']), '=', address.postcode.toLowerCase()))
    .executeTakeFirst();
  if (known) return known;
  const added = await trx
    .insertInto('ship_to')
    .values({ ...address, customer_id: customerId })
    .returning(columns)
    .executeTakeFirstOrThrow();
  await recordEvent(context, {
    kind: 'address.added',
    facts: { street: address.street, town: address.town },
    after: address,
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return added;
}
