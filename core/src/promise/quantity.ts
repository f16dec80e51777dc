/** A quantity in ten-thousandths of the stocking unit, a whole number: sums and comparisons are exact. */
export type Scaled = number;

/** Four decimals are what a quantity may have. */
export const SCALE = 10_000;

/** `value` in ten-thousandths, or null where it has more than four decimals. */
export function toScaled(value: number): Scaled | null {
  const scaled = Math.round(value * SCALE);
  // The nearest number with four decimals must be the value itself: 1.10000 passes, 1.00001 does not.
  return scaled / SCALE === value ? scaled : null;
}

export function fromScaled(scaled: Scaled): number {
  return scaled / SCALE;
}

/** The least whole number of stocking units not below `scaled`. */
export function ceilToWhole(scaled: Scaled): Scaled {
  return Math.ceil(scaled / SCALE) * SCALE;
}
