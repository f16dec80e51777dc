import { consignmentRoutes, type CartonTypeView } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec } from '../../paper';

type Body = BodyOf<typeof consignmentRoutes.setCartonType>;

const CODE = fieldsOf<Body>([{ name: 'code', label: 'Code', most: 20, upper: true }]);
const SIZES = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 60 },
  { name: 'length', label: 'Length inside, cm', called: 'Length', kind: 'figure' },
  { name: 'width', label: 'Width inside, cm', called: 'Width', kind: 'figure' },
  { name: 'height', label: 'Height inside, cm', called: 'Height', kind: 'figure' },
  { name: 'tare', label: 'Weight empty, kg', called: 'Weight empty', kind: 'figure' },
  { name: 'most', label: 'Weight packed at most, kg', called: 'Weight packed', kind: 'figure' },
]);

/** A new kind of carton (`type` null), or another size of one there is. */
export function cartonTypeRecord(api: Api, type: CartonTypeView | null): RecordSpec<readonly CartonTypeView[]> {
  return recordOf<Body, readonly CartonTypeView[]>({
    heading: type?.name ?? 'New carton type',
    act: 'Save carton type',
    name: 'carton-type',
    subject: type?.code ?? '',
    fields: type ? SIZES : [...CODE, ...SIZES],
    value: type ?? {},
    route: consignmentRoutes.setCartonType,
    send: (body) => api.call(consignmentRoutes.setCartonType, { body: { ...body, code: type?.code ?? body.code } }),
  });
}
