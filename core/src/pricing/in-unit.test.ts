import fc from 'fast-check';
import { lineAmount, roundMoney, times } from '../money';
import { inUnit } from './in-unit';

const EACH = { numerator: 1, denominator: 1 };

// The fault as it was found: 10.40 for a tray of 24 is 0.4333 each in four decimals, and 480 of them 207.98.
test('480 each cost what 20 trays cost', () => {
  const each = inUnit('10.40', { numerator: 24, denominator: 1 }, EACH);
  expect(lineAmount('480', each, 'EUR')).toBe('208.00');
  expect(lineAmount('20', '10.40', 'EUR')).toBe('208.00');
});

test('what four decimals can say stays as it is', () => {
  expect(inUnit('11.40', { numerator: 24, denominator: 1 }, EACH)).toBe('0.475');
  expect(inUnit('0.3333', EACH, { numerator: 3, denominator: 1 })).toBe('0.9999');
});

test('a half cent is rounded alike in both units', () => {
  // 1.405 for three: each is 0.468333…; three of them are 1.41 as well.
  const each = inUnit('1.405', { numerator: 3, denominator: 1 }, EACH);
  expect([lineAmount('3', each, 'EUR'), lineAmount('1', '1.405', 'EUR')]).toEqual(['1.41', '1.41']);
});

test('whole units come to the same amount in either unit, whatever the price and the ratio', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 9_999_999 }).map((cents) => (cents / 10_000).toFixed(4)),
      fc.integer({ min: 1, max: 1_000 }),
      fc.integer({ min: 1, max: 2_000 }),
      (price, held, units) => {
        const each = inUnit(price, { numerator: held, denominator: 1 }, EACH);
        expect(lineAmount(String(units * held), each, 'EUR')).toBe(roundMoney(times(price, units), 'EUR'));
      },
    ),
    { numRuns: 2_000 },
  );
});
