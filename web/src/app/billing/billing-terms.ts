import { paymentRoutes, type MoneyView } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type Choice, type RecordSpec } from '../paper';

type Body = BodyOf<typeof paymentRoutes.setBilling>;

const RULES: readonly Choice[] = [
  ['shipment', 'At shipping'],
  ['daily', 'Daily'],
  ['weekly', 'Weekly'],
  ['monthly', 'Monthly'],
  ['value', 'From a value on'],
];
const KINDS: readonly Choice[] = [
  ['net', 'Days after the invoice'],
  ['month_end', 'Days after the end of the month'],
];
const FIELDS = fieldsOf<Body>([
  { name: 'billingRule', label: 'Billed', kind: 'choice', choices: RULES },
  { name: 'billingValue', label: 'From a value of', kind: 'figure', empty: null },
  { name: 'termsKind', label: 'Payment terms count', kind: 'choice', choices: KINDS },
  { name: 'termsDays', label: 'Days', kind: 'whole', most: 3 },
  { name: 'discountPercent', label: 'Discount for early payment, per cent', called: 'Discount', kind: 'figure' },
  { name: 'discountDays', label: 'Discount within days', kind: 'whole', most: 3 },
  { name: 'taxNumber', label: 'VAT number', most: 40 },
  { name: 'taxExemption', label: 'Exempt from tax, because (empty: they pay tax)', called: 'Exemption', most: 200 },
]);

/** How a customer is billed: when, at which terms, with which tax. Orders keep the days they were entered with. */
export function billingTerms(api: Api, { customerId, name, terms }: MoneyView): RecordSpec<MoneyView> {
  return recordOf<Body, MoneyView>({
    heading: `How ${name} is billed`,
    act: 'Save billing',
    name: 'billing',
    subject: customerId,
    fields: FIELDS,
    value: terms,
    route: paymentRoutes.setBilling,
    version: terms.version,
    send: (body, version) => api.call(paymentRoutes.setBilling, { params: { customer: customerId }, body: { ...body, version } }),
  });
}
