import Decimal from 'decimal.js';
import fc from 'fast-check';
import { compareDecimal, divide, least, lineAmount, marginPercent, minorUnit, minus, plus, roundMoney, sum, times } from './index';

// Products of two amounts have more digits than the twenty it keeps unless told.
Decimal.set({ precision: 60 });

/** Decimal text with up to four decimals, any sign. */
const amount = fc
  .tuple(fc.bigInt({ min: -1_000_000_000_000n, max: 1_000_000_000_000n }), fc.integer({ min: 0, max: 4 }))
  .map(([digits, scale]) => new Decimal(digits.toString()).div(10 ** scale).toFixed());

// decimal.js is the outside authority here; ROUND_HALF_UP is its name for half away from zero.
const rounded = (value: Decimal, digits: number) => value.toDecimalPlaces(digits, Decimal.ROUND_HALF_UP);

describe('money', () => {
  test('rounding agrees with decimal.js', () => {
    fc.assert(
      fc.property(amount, fc.constantFrom('EUR', 'JPY', 'KWD'), (value, currency) => {
        expect(new Decimal(roundMoney(value, currency)).eq(rounded(new Decimal(value), minorUnit(currency)))).toBe(true);
      }),
    );
  });

  test('line amounts, sums and differences agree with decimal.js', () => {
    fc.assert(
      fc.property(amount, amount, amount, (a, b, c) => {
        expect(new Decimal(lineAmount(a, b, 'EUR')).eq(rounded(new Decimal(a).times(b), 2))).toBe(true);
        expect(new Decimal(sum([a, b, c])).eq(new Decimal(a).plus(b).plus(c))).toBe(true);
        expect(new Decimal(plus(a, b)).eq(new Decimal(a).plus(b))).toBe(true);
        expect(new Decimal(minus(a, b)).eq(new Decimal(a).minus(b))).toBe(true);
        expect(new Decimal(times(a, b)).eq(new Decimal(a).times(b))).toBe(true);
        expect(compareDecimal(a, b)).toBe(new Decimal(a).cmp(b));
        expect(least(a, b)).toBe(new Decimal(a).lte(b) ? a : b);
      }),
    );
  });

  test('division rounds once, at the digits asked for', () => {
    fc.assert(
      fc.property(amount, fc.integer({ min: 1, max: 999 }), (a, b) => expect(new Decimal(divide(a, b, 4)).eq(rounded(new Decimal(a).div(b), 4))).toBe(true)),
    );
  });

  test('half is rounded away from zero, on both sides', () => {
    expect(roundMoney('2.345', 'EUR')).toBe('2.35');
    expect(roundMoney('-2.345', 'EUR')).toBe('-2.35');
    expect(roundMoney('1.005', 'EUR')).toBe('1.01');
  });

  // ISO 4217, list one (from memory).
  test.each([
    ['JPY', 0],
    ['EUR', 2],
    ['KWD', 3],
  ])('ISO 4217: %s has %i minor digits', (currency, digits) => expect(minorUnit(currency)).toBe(digits));

  // Common practice, no source: margin m on the price is the mark-up m / (1 − m) on cost.
  test.each([
    ['25.0', '100', '75'],
    ['20.0', '125', '100'],
    ['50.0', '200', '100'],
  ])('a margin of %s %% is the price %s on a cost of %s', (margin, price, cost) => expect(marginPercent(price, cost)).toBe(margin));

  test('without an amount there is no margin', () => expect(marginPercent('0', '5')).toBeNull());
});
