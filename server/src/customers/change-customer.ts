import type { Customer, customerRoutes } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CustomerId } from '@nockwright/core/ids';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { checkTerms } from './check-terms';
import { readCustomer } from './read-customer';

/** The fields of a record as a history names them. */
const NAMES = {
  name: 'name',
  contact: 'contact',
  phone: 'phone',
  email: 'mail address',
  street: 'street',
  postcode: 'postcode',
  town: 'town',
  country: 'country',
  delivery_rule: 'delivery rule',
  most_shipments: 'most shipments',
  warehouse: 'warehouse',
  carrier_service: 'carrier',
  terms_days: 'payment terms',
  priority: 'priority',
  notes: 'notes',
} as const;

type Field = keyof typeof NAMES;

/** Changes the record of a customer. Orders that are there keep what they began with. */
export async function changeCustomer(context: CommandContext, customerId: CustomerId, wish: BodyOf<typeof customerRoutes.changeCustomer>): Promise<Customer> {
  const { trx, now } = context;
  const before = await trx.selectFrom('customer').selectAll().where('id', '=', customerId).forNoKeyUpdate().executeTakeFirst();
  if (!before) throw notFound(`customer ${customerId}`);
  if (before.version !== wish.version)
    throw await changedSince(trx, { kind: 'customer', key: customerId, label: before.name, given: wish.version, current: before.version });
  const { deliveryRule, mostShipments, carrierService, termsDays, version: _version, email, ...alike } = wish;
  const after = {
    ...alike,
    email: email ?? '',
    delivery_rule: deliveryRule,
    most_shipments: deliveryRule === 'complete' ? null : mostShipments,
    carrier_service: carrierService,
    terms_days: termsDays,
  } satisfies Record<Field, unknown>;
  checkTerms(context, before.terms_days, termsDays);
  if (!(await trx.selectFrom('warehouse').select('code').where('code', '=', after.warehouse).executeTakeFirst()))
    throw invalid('body.warehouse', `there is no warehouse ${after.warehouse}`);
  if (!(await trx.selectFrom('carrier_service').select('code').where('code', '=', after.carrier_service).executeTakeFirst()))
    throw invalid('body.carrierService', `there is no carrier service ${after.carrier_service}`);
  const changed = (Object.keys(NAMES) as Field[]).filter((field) => before[field] !== after[field]);
  if (changed.length === 0) return readCustomer(trx, customerId, now.today);
  await trx
    .updateTable('customer')
    .set({ ...after, version: before.version + 1 })
    .where('id', '=', customerId)
    .execute();
  const only = (row: Record<Field, unknown>) => Object.fromEntries(changed.map((field) => [field, row[field]]));
  await recordEvent(context, {
    kind: 'customer.changed',
    facts: { customer: after.name, fields: changed.map((field) => NAMES[field]) },
    before: only(before),
    after: only(after),
    subjects: [{ kind: 'customer', key: customerId }],
  });
  return readCustomer(trx, customerId, now.today);
}
