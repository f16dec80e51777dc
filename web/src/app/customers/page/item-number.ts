import { customerRoutes, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec } from '../../paper';

type Body = BodyOf<typeof customerRoutes.setItemNumber>;

const FIELDS = fieldsOf<Body>([{ name: 'code', label: 'Customer’s item number', most: 40, empty: null }]);

/** What a customer calls an item on their own papers. */
export function itemNumber(api: Api, customer: Customer, item: string): RecordSpec<Customer> {
  return recordOf<Body, Customer>({
    heading: `Their number for ${item}`,
    act: 'Save number',
    name: 'item-number',
    subject: item,
    fields: FIELDS,
    value: { code: customer.itemNumbers.find((row) => row.item === item)?.code },
    route: customerRoutes.setItemNumber,
    hint: 'The item is found by this number, in their mails too, and their papers show it. Leave it empty to remove it.',
    send: (body) => api.call(customerRoutes.setItemNumber, { params: { customer: customer.id, item }, body }),
  });
}
