import { paymentRoutes } from '@nockwright/contract/billing';
import type { BodyOf, ReplyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type RecordSpec } from '../paper';

type Body = BodyOf<typeof paymentRoutes.setTaxClass>;
export type TaxClasses = ReplyOf<typeof paymentRoutes.listTaxClasses>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 60 },
  { name: 'percent', label: 'Rate, per cent', called: 'Rate', kind: 'figure' },
]);

/** Another rate or name for a class of items. */
export function taxRecord(api: Api, row: TaxClasses[number]): RecordSpec<TaxClasses> {
  return recordOf<Body, TaxClasses>({
    heading: `Tax: ${row.name}`,
    act: 'Save tax rate',
    name: 'tax',
    subject: row.code,
    fields: FIELDS,
    value: row,
    route: paymentRoutes.setTaxClass,
    hint: 'Invoices that are issued stay as they are. Those to come are taxed by it.',
    send: (body) => api.call(paymentRoutes.setTaxClass, { body: { ...body, code: row.code } }),
  });
}
