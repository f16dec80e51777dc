import { customerRoutes, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec, type Choice } from '../../paper';

type Body = BodyOf<typeof customerRoutes.changeCustomer>;

const RULES: readonly Choice[] = [
  ['parts', 'Partial shipments'],
  ['complete', 'Ship complete'],
];

/** The fields in the order they are asked on the phone. */
const fields = (warehouses: readonly Choice[], carriers: readonly Choice[]) =>
  fieldsOf<Body>([
    { name: 'name', label: 'Name', most: 100 },
    { name: 'contact', label: 'Contact', most: 60 },
    { name: 'phone', label: 'Phone', most: 40 },
    { name: 'email', label: 'Mail', most: 200, empty: null },
    { name: 'street', label: 'Street', most: 100 },
    { name: 'postcode', label: 'Postcode', most: 20 },
    { name: 'town', label: 'Town', most: 60 },
    { name: 'country', label: 'Country, two letters', called: 'Country', most: 2, upper: true },
    { name: 'termsDays', label: 'Payment terms, days net', called: 'Payment terms', kind: 'whole', most: 3 },
    { name: 'priority', label: 'Priority, 1 highest to 9', called: 'Priority', kind: 'whole', most: 1 },
    { name: 'deliveryRule', label: 'Delivery', kind: 'choice', choices: RULES },
    { name: 'mostShipments', label: 'Most shipments an order (empty: any number)', called: 'Most shipments', kind: 'whole', most: 2, empty: null },
    { name: 'warehouse', label: 'Ships from', kind: 'choice', choices: warehouses },
    { name: 'carrierService', label: 'Carrier', kind: 'choice', choices: carriers },
    { name: 'notes', label: 'Notes', most: 1000 },
  ]);

/** The record of a customer: how to reach them, and what their orders begin with. */
export function customerRecord(api: Api, customer: Customer, warehouses: readonly Choice[], carriers: readonly Choice[]): RecordSpec<Customer> {
  return recordOf<Body, Customer>({
    heading: `Record of ${customer.name}`,
    act: 'Save record',
    name: 'customer',
    subject: customer.id,
    fields: fields(warehouses, carriers),
    value: customer,
    route: customerRoutes.changeCustomer,
    version: customer.version,
    send: (body, version) => api.call(customerRoutes.changeCustomer, { params: { customer: customer.id }, body: { ...body, version } }),
  });
}
