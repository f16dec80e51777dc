import type { CustomerId } from '@nockwright/core/ids';
import type { Customer, customerRoutes } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { checkTerms } from './check-terms';
import { readCustomer } from './read-customer';

/** What a new customer begins with, until it is agreed otherwise: no credit, so that finance looks at the first order. */
const BEGINS = { termsDays: 30, creditLimit: '0' };

/** Makes a customer or a prospect with their address as the first ship-to. The warehouse and carrier are those most customers have. */
export async function createCustomer(context: CommandContext, wish: BodyOf<typeof customerRoutes.createCustomer>): Promise<Customer> {
  const { trx, now } = context;
  const { name, contact, phone, email = '', street, postcode, town, country, prospect } = wish;
  if (wish.termsDays !== undefined) checkTerms(context, BEGINS.termsDays, wish.termsDays);
  const usual = await trx
    .selectFrom('customer')
    .select(['warehouse', 'carrier_service'])
    .groupBy(['warehouse', 'carrier_service'])
    .orderBy((eb) => eb.fn.countAll(), 'desc')
    .limit(1)
    .executeTakeFirst();
  const warehouse = wish.warehouse ?? usual?.warehouse;
  const known = await trx.selectFrom('warehouse').select('code').orderBy('code').execute();
  if (!known.some((row) => row.code === warehouse))
    throw invalid('body.warehouse', `there is no warehouse ${warehouse}; there are ${known.map((row) => row.code).join(', ')}`);
  const carrier = usual?.carrier_service ?? (await trx.selectFrom('carrier_service').select('code').orderBy('code').executeTakeFirstOrThrow()).code;
  if (wish.priceList && !(await trx.selectFrom('price_list').select('code').where('code', '=', wish.priceList).executeTakeFirst()))
    throw invalid('body.priceList', `there is no price list ${wish.priceList}`);
  const number = await nextNumber(trx, 'customer');
  const { id } = await trx
    .insertInto('customer')
    .values({
      number,
      name,
      contact,
      phone,
      email,
      street,
      postcode,
      town,
      country,
      prospect,
      delivery_rule: 'parts',
      warehouse: warehouse!,
      carrier_service: carrier,
      price_list: wish.priceList ?? null,
      terms_days: wish.termsDays ?? BEGINS.termsDays,
      credit_limit: BEGINS.creditLimit,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx.insertInto('ship_to').values({ customer_id: id, name, street, postcode, town, country }).execute();
  await recordEvent(context, {
    kind: 'customer.created',
    facts: { prospect, number, name },
    after: wish,
    subjects: [{ kind: 'customer', key: id }],
  });
  return readCustomer(trx, id, now.today);
}

/** Makes a prospect a customer. */
export async function makeCustomer(context: CommandContext, customerId: CustomerId): Promise<Customer> {
  const { trx, now } = context;
  const row = await trx.selectFrom('customer').select(['name', 'number', 'prospect']).where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!row) throw notFound(`customer ${customerId}`);
  if (!row.prospect) throw new Refusal('conflict', `${row.name} is a customer already.`);
  await trx.updateTable('customer').set({ prospect: false }).where('id', '=', customerId).execute();
  await recordEvent(context, { kind: 'customer.won', facts: { number: row.number, name: row.name }, subjects: [{ kind: 'customer', key: customerId }] });
  return readCustomer(trx, customerId, now.today);
}
