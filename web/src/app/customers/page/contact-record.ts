import { customerRoutes, type Contact, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec } from '../../paper';

type Body = BodyOf<typeof customerRoutes.storeContact>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 60 },
  { name: 'role', label: 'Role', most: 60 },
  { name: 'phone', label: 'Phone', most: 40 },
  { name: 'email', label: 'Mail', most: 200, empty: null },
]);

/** A person one speaks to at a customer: kept, changed, removed. `known` null: another one. */
export function contactRecord(api: Api, customer: Customer, known: Contact | null): RecordSpec<Customer> {
  const params = { customer: customer.id };
  return recordOf<Body, Customer>({
    heading: known?.name ?? 'New contact',
    act: 'Save contact',
    name: 'contact',
    subject: known?.id ?? 'new',
    fields: FIELDS,
    value: known ?? {},
    route: customerRoutes.storeContact,
    send: (body) => api.call(customerRoutes.storeContact, { params, body: { ...body, ...(known ? { id: known.id } : {}) } }),
    ...(known ? { remove: { act: 'Remove contact', send: () => api.call(customerRoutes.removeContact, { params: { ...params, contact: known.id } }) } } : {}),
  });
}
