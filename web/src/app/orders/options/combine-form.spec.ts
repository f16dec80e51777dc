import type { Combinations, CombinationView } from '@nockwright/contract/shortages';
import { of } from 'rxjs';
import { testRoute } from '../../shortages/test-route';
import { show, type TestScreen } from '../../test-screen';
import { testLine, testOrder } from '../test-order';
import { storeProviders } from '../test-store';
import { againstWords, resultWords, sayCombination } from './combination-words';
import { CombineForm } from './combine-form';

const TODAY = '2027-03-09';
const row = (more: Partial<CombinationView> = {}): CombinationView => ({
  name: 'on_time',
  complete: false,
  lastDay: '2027-03-11',
  late: 1,
  worstLate: 2,
  shipments: 2,
  margin: '20.00',
  asks: 0,
  without: 0,
  rows: [{ line: 11, lineNo: 1, item: 'JAR', unit: 'EA', quantity: '10', route: testRoute({ shipDay: '2027-03-11' }), asks: false }],
  ...more,
});

describe('in words', () => {
  test('what the order comes to', () => {
    expect(resultWords(row(), TODAY)).toBe('All lines ship by Thu 11 Mar, 1 line later than requested, in 2 shipments.');
    expect(resultWords(row({ late: 0, shipments: 1 }), TODAY)).toBe('All lines ship by Thu 11 Mar, all lines in time, in 1 shipment.');
    expect(resultWords(row({ lastDay: null, asks: 1, without: 1 }), TODAY)).toBe('2 lines stay backordered, in 2 shipments.');
  });

  test('how one differs from another, and nothing where it does not', () => {
    const cheap = row({ name: 'cheapest', lastDay: '2027-03-12', margin: '55.00', shipments: 1 });
    expect(againstWords(row(), cheap, 'EUR')).toBe('Against Most margin: 1 day earlier, 35.00 EUR less margin, 1 shipment more.');
    expect(againstWords(row(), row({ name: 'cheapest' }), 'EUR')).toBe('');
  });

  test('what to say is of the order as it would stand: what is routed by its route, the rest as it is', () => {
    // The day of the test’s route.
    const requested = '2027-03-17';
    const short = testLine({ id: 11, description: 'Jar', requested, schedule: [], uncovered: '10', state: 'uncovered' });
    const order = testOrder({ lines: [short, testLine({ id: 12, requested })] });
    expect(sayCombination(order, row(), TODAY)).toMatch(/^Everything leaves in time/);
    expect(sayCombination(order, row({ rows: [{ ...row().rows[0]!, route: null }] }), TODAY)).toBe(
      'Jar: I have no day yet for the 10; I will find a way and call you back.',
    );
  });
});

describe('the form', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());
  let screen: TestScreen<CombineForm>;
  const routeOrder = jest.fn();
  const open = (found: Combinations, version = 3) => {
    routeOrder.mockClear();
    const store = { busy: () => false, fault: { set: jest.fn() }, combinations: () => of(found), routeOrder };
    screen = show(CombineForm, { order: testOrder({ version, lines: [testLine()] }) }, storeProviders(store));
  };

  test('takes the combination of a digit, for the version it was found for', () => {
    const [early, cheap] = [row(), row({ name: 'cheapest' })];
    open({ version: 3, rows: [early, cheap] });
    screen.press('2');
    expect(routeOrder).toHaveBeenCalledWith(3, cheap, expect.any(Function));
  });

  test('takes nothing that was found for another version of the order, or does nothing', () => {
    open({ version: 2, rows: [row()] });
    screen.press('1');
    expect(screen.element.textContent).toContain('Looking for options');
    open({ version: 3, rows: [row({ rows: [{ ...row().rows[0]!, asks: true }] })] });
    screen.press('1');
    expect(routeOrder).not.toHaveBeenCalled();
  });
});
