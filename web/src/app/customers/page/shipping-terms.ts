import { customerRoutes, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec, type Choice } from '../../paper';

type Body = BodyOf<typeof customerRoutes.setShippingTerms>;

const RULES: readonly Choice[] = [
  ['included', 'Included in the price'],
  ['flat', 'Flat, once an order'],
  ['at_cost', 'At cost'],
  ['own_account', 'On their own account'],
];
const FIELDS = fieldsOf<Body>([
  { name: 'freightRule', label: 'Freight', kind: 'choice', choices: RULES },
  { name: 'freightFlat', label: 'Flat amount an order', called: 'Flat amount', kind: 'figure', empty: null },
  { name: 'freightFreeFrom', label: 'Free from an order value of (empty: never)', called: 'Free from', kind: 'figure', empty: null },
  { name: 'freightAccount', label: 'Their account with the carrier', called: 'Account', most: 40 },
  { name: 'takesAdvices', label: 'Despatch advice as a file with the mail (UBL)', kind: 'flag' },
]);

/** What a customer pays for freight, and how they are told that goods have left. */
export function shippingTerms(api: Api, customer: Customer): RecordSpec<Customer> {
  return recordOf<Body, Customer>({
    heading: `Freight of ${customer.name}`,
    act: 'Save freight',
    name: 'freight',
    subject: customer.id,
    fields: FIELDS,
    value: customer,
    route: customerRoutes.setShippingTerms,
    version: customer.version,
    send: (body, version) => api.call(customerRoutes.setShippingTerms, { params: { customer: customer.id }, body: { ...body, version } }),
  });
}
