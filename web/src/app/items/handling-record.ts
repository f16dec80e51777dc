import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type RecordSpec } from '../paper';

type Body = BodyOf<typeof itemRoutes.setHandling>;

const FIELDS = fieldsOf<Body>([
  { name: 'weight', label: 'Weight of one, kg', called: 'Weight', kind: 'figure' },
  { name: 'length', label: 'Length, cm', called: 'Length', kind: 'figure', empty: null },
  { name: 'width', label: 'Width, cm', called: 'Width', kind: 'figure', empty: null },
  { name: 'height', label: 'Height, cm', called: 'Height', kind: 'figure', empty: null },
  { name: 'apart', label: 'Packed apart from other classes: its class', called: 'Class', most: 20 },
  { name: 'tracksSerials', label: 'Each piece has a serial number', kind: 'flag' },
]);

/** How an item is handled: cartons are proposed and weighed by its size and weight. */
export function handlingRecord(api: Api, item: ItemPage): RecordSpec<ItemPage> {
  return recordOf<Body, ItemPage>({
    heading: `Weight and size of ${item.code}`,
    act: 'Save',
    name: 'handling',
    subject: item.code,
    fields: FIELDS,
    value: item,
    route: itemRoutes.setHandling,
    send: (body) => api.call(itemRoutes.setHandling, { params: { item: item.code }, body }),
  });
}
