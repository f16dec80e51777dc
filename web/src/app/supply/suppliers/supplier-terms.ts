import { supplyRoutes, type SupplierPage } from '@nockwright/contract/supply';
import type { BodyOf } from '@nockwright/contract/shape';
import { readDay, shortDay, type IsoDay } from '@nockwright/core/calendar';
import type { Api } from '../../api';
import { fieldsOf, recordOf, type RecordSpec, type Reading } from '../../paper';
import { daysInWords, readWeekdays } from './weekdays';

type Body = BodyOf<typeof supplyRoutes.changeSupplier>;

const fields = (today: IsoDay) =>
  fieldsOf<Body>([
    { name: 'email', label: 'Orders go to', empty: null },
    { name: 'leadDays', label: 'Working days until it leaves them', kind: 'whole', most: 3 },
    { name: 'transitDays', label: 'Days on the road to us', kind: 'whole', most: 3 },
    { name: 'workdays', label: 'Working days', write: daysInWords, read: weekdays('as Mon to Fri') },
    { name: 'orderDays', label: 'Orders taken on', write: daysInWords, read: weekdays('as Tue, Thu') },
    { name: 'cutoff', label: 'Until what time (HH:MM; empty: all day)', called: 'Until what time', empty: null, write: (time: string) => time.slice(0, 5) },
    {
      name: 'closed',
      label: 'Closed on (days with commas)',
      called: 'Closed on',
      write: (days: readonly string[]) => days.map((day) => shortDay(day, today)).join(', '),
      read: (text) => readDays(text, today),
    },
    { name: 'minimumValue', label: 'An order comes to at least', kind: 'figure' },
    { name: 'freight', label: 'Freight of an order', kind: 'figure' },
    { name: 'freightFreeFrom', label: 'Free from (empty: never)', called: 'Free from', kind: 'figure', empty: null },
    { name: 'dropShips', label: 'Ships to our customers', kind: 'flag' },
    { name: 'dropShipFee', label: 'What a shipment to a customer costs', kind: 'figure', under: 'dropShips' },
    { name: 'exchanges', label: 'Takes orders as UBL files', kind: 'flag' },
    { name: 'priceTolerance', label: 'Accept another cost within (per cent)', called: 'A cost they answer', kind: 'figure', under: 'exchanges' },
    { name: 'dayTolerance', label: 'Accept another day within (days)', called: 'A day they answer', kind: 'whole', under: 'exchanges' },
  ]);

const weekdays =
  (example: string) =>
  (text: string): Reading => {
    const days = readWeekdays(text);
    return days ? { value: days } : { fault: `expected weekdays, ${example}` };
  };

function readDays(text: string, today: IsoDay): Reading {
  const words = text.split(',').map((word) => word.trim());
  const days = words.filter(Boolean).map((word) => ({ word, day: readDay(word, today) }));
  const wrong = days.find(({ day }) => day === null);
  return wrong ? { fault: `${wrong.word} is no day` } : { value: days.map(({ day }) => day) };
}

/** What a supplier wants and when they work. */
export function supplierTerms(api: Api, supplier: SupplierPage, today: IsoDay): RecordSpec<SupplierPage> {
  return recordOf<Body, SupplierPage>({
    heading: `Terms of ${supplier.name}`,
    act: 'Save terms',
    name: 'supplier',
    subject: supplier.code,
    fields: fields(today),
    value: supplier,
    route: supplyRoutes.changeSupplier,
    version: supplier.version,
    send: (body, version) => api.call(supplyRoutes.changeSupplier, { params: { supplier: supplier.code }, body: { ...body, version } }),
  });
}
