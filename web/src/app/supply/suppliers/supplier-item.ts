import { supplyRoutes, type SupplierItem, type SupplierPage } from '@nockwright/contract/supply';
import type { BodyOf } from '@nockwright/contract/shape';
import { readUnit, unitName } from '@nockwright/core/units';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec, type Reading } from '../../paper';

/** With our item, which stands in the address. */
type Body = BodyOf<typeof supplyRoutes.setSupplierItem> & { readonly item: string };

const ITEM = fieldsOf<Body>([
  { name: 'item', label: 'Our item', most: 40, upper: true, read: (text) => (text === '' ? { fault: 'missing' } : { value: text }) },
]);
const TERMS = fieldsOf<Body>([
  { name: 'theirCode', label: 'Their code', most: 60 },
  { name: 'cost', label: 'Cost each', called: 'Cost', kind: 'figure' },
  {
    name: 'breaks',
    label: 'Price breaks (as 1440: 0.18, 4320: 0.17)',
    called: 'Price breaks',
    write: (breaks: SupplierItem['breaks']) => breaks.map((step) => `${step.from}: ${step.cost}`).join(', '),
    read: (text) => pairs(text, 'a quantity, a colon and a cost', (from, cost) => ({ from, cost })),
  },
  {
    name: 'units',
    label: 'Their units (as box: 100, pallet: 4800)',
    called: 'Their units',
    write: (units: SupplierItem['units']) => units.map((row) => `${unitName(row.unit)}: ${row.quantity}`).join(', '),
    read: (text) => pairs(text, 'a unit, a colon and how many it holds', (word, quantity) => withUnit(readUnit(word), quantity)),
  },
  { name: 'minimum', label: 'At least', kind: 'figure' },
  { name: 'multiple', label: 'In multiples of', kind: 'figure' },
  { name: 'leadDays', label: 'Working days (empty: as their others)', called: 'Working days', kind: 'whole', most: 3, empty: null },
  { name: 'returnable', label: 'Returnable', kind: 'flag' },
]);
const BEGINS = { minimum: '1', multiple: '1', returnable: true };

function withUnit(unit: string | null, quantity: string) {
  return unit === null ? null : { unit, quantity };
}

/** `1440: 0.18, 4320: 0.17` as rows; what a pair is made of is checked by the contract. */
function pairs<T>(text: string, expected: string, row: (before: string, after: string) => T | null): Reading {
  const rows: T[] = [];
  for (const part of text.split(',').map((word) => word.trim())) {
    if (part === '') continue;
    const [before = '', after = '', more] = part.split(':').map((word) => word.trim());
    const made = more === undefined && before !== '' && after !== '' ? row(before, after) : null;
    if (made === null) return { fault: `${part}: expected ${expected}` };
    rows.push(made);
  }
  return { value: rows };
}

/** At what terms a supplier sells an item: one they sell, or another (`known` null). */
export function supplierItem(api: Api, supplier: SupplierPage, known: SupplierItem | null): RecordSpec<SupplierPage> {
  const at = (item: string) => ({ supplier: supplier.code, item });
  return recordOf<Body, SupplierPage>({
    heading: known ? `${known.item} from ${supplier.name}` : `Another item from ${supplier.name}`,
    act: 'Save terms',
    name: 'sold',
    subject: known?.item ?? '',
    fields: known ? TERMS : [...ITEM, ...TERMS],
    value: known ?? BEGINS,
    route: supplyRoutes.setSupplierItem,
    version: supplier.version,
    send: ({ item, ...terms }, version) => api.call(supplyRoutes.setSupplierItem, { params: at(known?.item ?? item), body: { ...terms, version } }),
    ...(known ? { remove: { act: 'Remove item from supplier', send: () => api.call(supplyRoutes.dropSupplierItem, { params: at(known.item) }) } } : {}),
  });
}
