import { firmRoutes, type Firm, type NumberSeries } from '@nockwright/contract/firm';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf, type RecordSpec } from '../paper';
import { seriesName } from './series-words';

type Body = BodyOf<typeof firmRoutes.setSeries>;

const FIELDS = fieldsOf<Body>([
  { name: 'prefix', label: 'Prefix', most: 8, upper: true },
  { name: 'next', label: 'Next number', kind: 'whole', most: 9 },
]);

/** Where a number series goes on. */
export function seriesRecord(api: Api, series: NumberSeries, version: number): RecordSpec<Firm> {
  return recordOf<Body, Firm>({
    heading: `Number series: ${seriesName(series.name)}`,
    act: 'Save series',
    name: 'series',
    subject: series.name,
    fields: FIELDS,
    value: series,
    route: firmRoutes.setSeries,
    version,
    hint: 'A number that is given already is not given again.',
    send: (body, seen) => api.call(firmRoutes.setSeries, { body: { ...body, version: seen, name: series.name } }),
  });
}
