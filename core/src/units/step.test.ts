import fc from 'fast-check';
import { isInSteps, stepFault } from './index';

test('what is sold whole is refused in fractions, with the whole numbers beside it', () => {
  expect(stepFault('1.5', 'PR', '1')).toBe('Quantity 1.5: pairs are sold whole. Use 1 or 2.');
  expect(stepFault('0.51', 'XTY', '1')).toBe('Quantity 0.51: trays are sold whole. Use 1.');
  expect(stepFault('12', 'PR', '1')).toBeNull();
});

test('steps of a fraction, exactly', () => {
  expect(stepFault('1.3', 'KGM', '0.5')).toBe('Quantity 1.3: kg is sold in steps of 0.5. Use 1 or 1.5.');
  // In binary floating point 0.3 / 0.1 is no whole number.
  expect(isInSteps('0.3', '0.1')).toBe(true);
});

test('every multiple of a step is in steps, and between two there is none', () => {
  const step = fc.integer({ min: 2, max: 50_000 }).map((n) => n / 10_000);
  fc.assert(
    fc.property(step, fc.integer({ min: 1, max: 5000 }), (size, times) => {
      const whole = (Math.round(size * 10_000) * times) / 10_000;
      expect(isInSteps(String(whole), String(size))).toBe(true);
      expect(isInSteps(String((Math.round(size * 10_000) * times + 1) / 10_000), String(size))).toBe(false);
    }),
  );
});
