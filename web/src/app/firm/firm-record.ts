import { firmRoutes, type Firm } from '@nockwright/contract/firm';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type RecordSpec } from '../paper';

type Body = BodyOf<typeof firmRoutes.setFirm>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 80 },
  { name: 'street', label: 'Street', most: 100 },
  { name: 'postcode', label: 'Postcode', most: 20 },
  { name: 'town', label: 'Town', most: 60 },
  { name: 'country', label: 'Country, two letters', called: 'Country', most: 2, upper: true },
  { name: 'phone', label: 'Phone', most: 40 },
  { name: 'email', label: 'Mail address', most: 200 },
  { name: 'taxNumber', label: 'Tax number', most: 40 },
  { name: 'gs1Prefix', label: 'GS1 company prefix', most: 10 },
  { name: 'footer', label: 'Foot of papers', most: 160 },
  { name: 'code', label: 'Code in files', most: 20, upper: true },
]);
const CURRENCY = fieldsOf<Body>([{ name: 'currency', label: 'Currency, three letters', called: 'Currency', most: 3, upper: true }]);

/** Another name, address or number for the firm. */
export function firmRecord(api: Api, firm: Firm): RecordSpec<Firm> {
  const settled = firm.currencySettled;
  return recordOf<Body, Firm>({
    heading: 'Edit firm',
    act: 'Save firm',
    name: 'firm',
    fields: settled ? FIELDS : [...FIELDS, ...CURRENCY],
    value: firm,
    route: firmRoutes.setFirm,
    version: firm.version,
    ...(settled ? { hint: `Amounts stand in ${firm.currency} already: the currency cannot be changed any more.` } : {}),
    send: (body, version) => api.call(firmRoutes.setFirm, { body: { ...body, currency: body.currency ?? firm.currency, version } }),
  });
}
