import { dueRun, stoppedBy, tryRules, USUAL_RULES, type RuledOrder } from './index';

const RULES = { ...USUAL_RULES, on: true };
const ordinary: RuledOrder = { value: '120.00', ordersBefore: 9, hasInstructions: false, belowFloor: false, knownAddress: true, shipments: 1 };

test('an ordinary order is released by itself; each rule stops what it is about', () => {
  expect(stoppedBy(ordinary, RULES)).toEqual([]);
  expect(stoppedBy({ ...ordinary, value: '2500' }, RULES)).toEqual([]);
  expect(stoppedBy({ ...ordinary, value: '2500.01', ordersBefore: 0 }, RULES)).toEqual(['value', 'first_order']);
  expect(stoppedBy({ value: '1', ordersBefore: 1, hasInstructions: true, belowFloor: true, knownAddress: false, shipments: 4 }, RULES)).toEqual([
    'instructions',
    'below_floor',
    'new_address',
    'shipments',
  ]);
});

test('a rule that is off stops nothing', () => {
  const off = { ...RULES, mostValue: null, firstOrder: false, instructions: false, belowFloor: false, newAddress: false, mostShipments: null };
  expect(stoppedBy({ value: '99999', ordersBefore: 0, hasInstructions: true, belowFloor: true, knownAddress: false, shipments: 9 }, off)).toEqual([]);
});

test('orders are released once at each time of day, and after a pause at the last that was missed', () => {
  const rules = { ...RULES, times: ['11:00', '08:00'] };
  expect(dueRun(rules, '2027-03-09T07:59', null)).toBeNull();
  expect(dueRun(rules, '2027-03-09T08:00', null)).toBe('08:00');
  expect(dueRun(rules, '2027-03-09T09:30', { day: '2027-03-09', time: '08:00' })).toBeNull();
  expect(dueRun(rules, '2027-03-09T14:00', { day: '2027-03-09', time: '08:00' })).toBe('11:00');
  expect(dueRun(rules, '2027-03-10T08:00', { day: '2027-03-09', time: '11:00' })).toBe('08:00');
  expect(dueRun({ ...rules, on: false }, '2027-03-09T08:00', null)).toBeNull();
});

test('rules are tried on past orders before they are in force', () => {
  const orders = [ordinary, { ...ordinary, value: '9000' }, { ...ordinary, value: '9000', ordersBefore: 0 }];
  expect(tryRules(orders, RULES)).toMatchObject({ orders: 3, stopped: 2, by: { value: 2, first_order: 1, instructions: 0 } });
});
