import { serialRoutes, stockRoutes, type SerialRow } from '@nockwright/contract/items';
import { show, testApi } from '../../test-screen';
import { SerialForm } from './serial-form';
import { SerialList } from './serial-list';
import { SerialSheet } from './serial-sheet';
import { stepWords } from './serial-states';

const row: SerialRow = {
  id: 7,
  serial: 'T-01',
  state: 'shipped',
  where: 'with the customer, by shipment 20001-1',
  warehouse: '',
  bin: '',
  lot: '',
  shipment: '20001-1',
  order: 3,
  customer: 'Wether Hill',
  customerId: 1,
};
const place = { id: 4, item: 'TUB', warehouse: 'MAR', bin: 'A-1', lot: '', status: 'available', quantity: '3' };
const { api, providers, answers, lastBody } = testApi();
beforeEach(() => api.call.mockReset());

it('lists the numbers of an item; what is in a bin is entered by key', () => {
  answers([serialRoutes.listSerials, { item: 'TUB', description: 'Tub', tracked: true, rows: [row] }], [stockRoutes.listPlaces, [place]]);
  const screen = show(SerialList, { code: 'TUB' }, providers);
  expect(screen.text).toContain('T-01');
  expect(screen.text).toContain('shipped');
  screen.click('Enter what is in a bin');
  expect(screen.text).toContain('One a line, or a range A-01..A-20');
});

it('enters numbers of a place; none at all is asked for', () => {
  answers([stockRoutes.listPlaces, [place]], [serialRoutes.placeSerials, { item: 'TUB', description: 'Tub', tracked: true, rows: [] }]);
  const screen = show(SerialForm, { item: 'TUB' }, providers);
  screen.click('Enter serial numbers');
  expect(screen.text).toContain('Scan or type the serial numbers.');
  screen.type('One a line, or a range A-01..A-20', 'T-01..T-03');
  screen.click('Enter serial numbers');
  expect(lastBody()).toEqual({ warehouse: 'MAR', bin: 'A-1', status: 'available', serials: 'T-01..T-03' });
});

it('shows where a piece is, and where it was', () => {
  const steps = [
    { at: '2027-03-09T10:00:00Z', kind: 'shipped' as const, warehouse: 'MAR', bin: 'A-1', lot: '', reference: '20001-1', by: 'Wil' },
    { at: '2027-03-08T10:00:00Z', kind: 'received' as const, warehouse: 'MAR', bin: 'A-1', lot: 'L7', reference: 'P7001/1', by: 'Wil' },
  ];
  answers([serialRoutes.readSerial, { item: 'TUB', description: 'Tub', now: row, steps }]);
  const screen = show(SerialSheet, { id: '7' }, providers);
  expect(screen.text).toContain('with the customer, by shipment 20001-1');
  expect(screen.text).toContain('Received with P7001/1 into bin A-1 at MAR, lot L7');
  expect(screen.text).toContain('Wether Hill');
});

it.each([
  ['placed', 'Found in bin A-1 at MAR (counted)'],
  ['packed', 'Packed for shipment counted, from bin A-1 at MAR'],
  ['brought_back', 'Shipment counted was undone: back in bin A-1 at MAR'],
  ['missed', 'Missing: bin A-1 at MAR holds fewer pieces than it had numbers'],
] as const)('%s in words', (kind, words) =>
  expect(stepWords({ at: '', kind, warehouse: 'MAR', bin: 'A-1', lot: '', reference: 'counted', by: null })).toBe(words),
);
