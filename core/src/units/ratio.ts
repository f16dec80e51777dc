import Big from 'big.js';

/** How many stocking units one of a unit is, exactly: 1 case = 12 each is 12 / 1. Both are whole numbers above 0. */
export interface UnitRatio {
  readonly numerator: number;
  readonly denominator: number;
}

/** The stocking unit itself. */
export const SAME_UNIT: UnitRatio = { numerator: 1, denominator: 1 };

const DECIMALS = 4;

/**
 * `quantity` of a unit, in stocking units; null where that has more than four decimals and could not be counted out.
 * Quantities are decimal text.
 */
export function toStockingUnits(quantity: string, ratio: UnitRatio): string | null {
  return divideExactly(new Big(quantity).times(ratio.numerator), ratio.denominator);
}

/** A quantity in stocking units, in a unit; null where that has more than four decimals. */
export function fromStockingUnits(quantity: string, ratio: UnitRatio): string | null {
  return divideExactly(new Big(quantity).times(ratio.denominator), ratio.numerator);
}

function divideExactly(dividend: Big, divisor: number): string | null {
  const rounded = dividend.div(divisor).round(DECIMALS);
  return rounded.times(divisor).eq(dividend) ? rounded.toFixed() : null;
}
