import { customerRoutes, type ShipTo } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type RecordSpec } from '../paper';

type Body = BodyOf<typeof customerRoutes.addShipTo>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Who receives it', most: 100 },
  { name: 'street', label: 'Street', most: 100 },
  { name: 'postcode', label: 'Postcode', most: 20 },
  { name: 'town', label: 'Town', most: 60 },
  { name: 'country', label: 'Country', most: 2, upper: true },
]);

/** Another address of a customer, made without leaving the order. */
export function addressRecord(api: Api, customer: { readonly id: number; readonly name: string }, act: string): RecordSpec<ShipTo> {
  return recordOf<Body, ShipTo>({
    heading: 'Another address',
    act,
    name: 'address',
    subject: customer.id,
    fields: FIELDS,
    value: { name: customer.name, country: 'GB' },
    route: customerRoutes.addShipTo,
    send: (body) => api.call(customerRoutes.addShipTo, { params: { customer: customer.id }, body }),
  });
}
