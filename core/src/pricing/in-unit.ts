import { divide, times, type Decimal } from '../money';
import type { UnitRatio } from '../units';

/** A price for one of a unit, for one of another unit of the item: four decimals, rounded half away from zero. */
export function inUnit(price: Decimal, from: UnitRatio, to: UnitRatio): Decimal {
  return divide(times(times(price, to.numerator), from.denominator), times(String(to.denominator), from.numerator), 4);
}
