import { type UnitPrice, compareDecimal, divide, plus, times, type Decimal } from '../money';
import type { UnitRatio } from '../units';

const PRICE_DECIMALS = 4;
const EXACT_DECIMALS = 12;
const SMALLEST = '0.000000000001';

/**
 * A price for one of a unit, for one of another unit of the item. Exact where four decimals can say it; else twelve, the last
 * one rounded up: any number of whole units of the first then comes to the same amount in the other, a half cent included.
 */
export function inUnit(price: UnitPrice, from: UnitRatio, to: UnitRatio): Decimal {
  const [over, under] = [times(times(price, to.numerator), from.denominator), times(String(to.denominator), from.numerator)];
  const short = divide(over, under, PRICE_DECIMALS);
  if (compareDecimal(times(short, under), over) === 0) return short;
  const long = divide(over, under, EXACT_DECIMALS);
  return compareDecimal(times(long, under), over) < 0 ? plus(long, SMALLEST) : long;
}
