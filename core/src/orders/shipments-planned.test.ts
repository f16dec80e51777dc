import { shipmentsPlanned } from './shipments-planned';

test('what leaves one house for one address on one day is one shipment; what has left counts', () => {
  const from = (house: string, day: string, to: number | null = null) => ({ house, day, to });
  expect(shipmentsPlanned(0, [])).toBe(0);
  expect(shipmentsPlanned(0, [from('MAR', '2027-03-09'), from('MAR', '2027-03-09')])).toBe(1);
  expect(shipmentsPlanned(1, [from('MAR', '2027-03-09'), from('QUI', '2027-03-09'), from('MAR', '2027-03-10'), from('MAR', '2027-03-10', 7)])).toBe(5);
});
