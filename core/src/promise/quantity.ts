/**
 * A quantity as a whole number of the smallest part that occurs in the book, so that sums and comparisons are exact:
 * ten-thousandths of the stocking unit, or whole stocking units in a book that has no fractions.
 */
export type Scaled = number;

/** Four decimals are what a quantity may have. */
export const SCALE = 10_000;

/** `value` in ten-thousandths, or null where it has more than four decimals. */
export function toScaled(value: number): Scaled | null {
  if (Number.isInteger(value)) return value * SCALE;
  const scaled = Math.round(value * SCALE);
  // The nearest number with four decimals must be the value itself: 1.10000 passes, 1.00001 does not.
  return scaled / SCALE === value ? scaled : null;
}

/** The least whole number of stocking units not below `quantity`, both in parts of `scale` to the unit. */
export function ceilToWhole(quantity: Scaled, scale: number): Scaled {
  return Math.ceil(quantity / scale) * scale;
}
