import fc from 'fast-check';
import { fromStockingUnits, quantityInWords, toStockingUnits, UNIT_CODES, unitName } from './index';

const ratio = fc.record({ numerator: fc.integer({ min: 1, max: 1440 }), denominator: fc.integer({ min: 1, max: 12 }) });

describe('units', () => {
  // Common practice, no source: ordered 24 each and 3 dozen with 1 dozen = 12 each ship as 24 and 36 each and bill as ordered.
  test('3 dozen are 36 each, and 1,200 each are 100 dozen', () => {
    const dozen = { numerator: 12, denominator: 1 };
    expect(toStockingUnits('24', { numerator: 1, denominator: 1 })).toBe('24');
    expect(toStockingUnits('3', dozen)).toBe('36');
    expect(fromStockingUnits('36', dozen)).toBe('3');
    expect(fromStockingUnits('1200', dozen)).toBe('100');
  });

  test('what is exact there and back is the same', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100_000 }), ratio, (quantity, per) => {
        const stock = toStockingUnits(String(quantity), per);
        if (stock !== null) expect(fromStockingUnits(stock, per)).toBe(String(quantity));
      }),
    );
  });

  test('what needs a fifth decimal cannot be counted out', () => {
    expect(fromStockingUnits('1', { numerator: 3, denominator: 1 })).toBeNull();
    expect(fromStockingUnits('1', { numerator: 8, denominator: 1 })).toBe('0.125');
    expect(toStockingUnits('0.00001', { numerator: 1, denominator: 1 })).toBeNull();
  });

  // UN/ECE Recommendation 20 (from memory): EA each, DZN dozen, H87 piece, KGM kilogram, LTR litre, MTR metre, PR pair, SET set.
  test('codes are those of UN/ECE Recommendation 20, packages those of 21 with an X before', () => {
    expect(Object.keys(UNIT_CODES)).toEqual(expect.arrayContaining(['EA', 'DZN', 'H87', 'KGM', 'LTR', 'MTR', 'PR', 'SET', 'XCT', 'XPX', 'XBX']));
  });

  test('are said in the plural but for one', () => {
    expect(quantityInWords('1', 'XTY')).toBe('1 tray');
    expect(quantityInWords('20', 'XTY')).toBe('20 trays');
    expect(unitName('???')).toBe('???');
  });
});
