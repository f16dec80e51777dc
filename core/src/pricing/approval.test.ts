import fc from 'fast-check';
import { belowFloor, costOfOne, isCovered, perStockingUnit } from './index';

const each = { numerator: 1, denominator: 1 };
const dozen = { numerator: 12, denominator: 1 };
const approved = { unitPrice: perStockingUnit('2.20', each), quantity: '2', unitCost: '2.10' };

test('what was approved at 2.20 each is not sold at 2.30 a dozen', () => {
  expect(isCovered({ unitPrice: perStockingUnit('2.30', dozen), quantity: '2', unitCost: '2.10' }, approved)).toBe(false);
  expect(isCovered({ unitPrice: perStockingUnit('26.40', dozen), quantity: '2', unitCost: '2.10' }, approved)).toBe(true);
});

test('nor 60 where 2 were approved, nor where the goods cost more by now', () => {
  expect(isCovered({ ...approved, quantity: '60' }, approved)).toBe(false);
  expect(isCovered({ ...approved, unitCost: '2.11' }, approved)).toBe(false);
  expect(isCovered({ unitPrice: '2.5', quantity: '1', unitCost: '2' }, approved)).toBe(true);
});

test('a price of 0 leaves no margin, whatever the goods cost', () => {
  expect(belowFloor('0', '12', '10')).toBe(true);
  expect(belowFloor('0', '0', '10')).toBe(true);
  expect(belowFloor('100', '80', '10')).toBe(false);
});

test('an approval covers just what is as good in all three', () => {
  const sold = fc.record({ unitPrice: fc.nat(50).map(String), quantity: fc.nat(50).map(String), unitCost: fc.nat(50).map(String) });
  fc.assert(
    fc.property(sold, sold, (a, b) =>
      expect(isCovered(a, b)).toBe(
        Number(a.unitPrice) >= Number(b.unitPrice) && Number(a.quantity) <= Number(b.quantity) && Number(a.unitCost) <= Number(b.unitCost),
      ),
    ),
  );
  expect(costOfOne('10', '4')).toBe('2.5');
  expect(costOfOne('10', '0')).toBe('0');
});
