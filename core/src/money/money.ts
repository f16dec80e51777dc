import type { Sort } from '../ids';
import Big from 'big.js';

/** An amount or unit price as decimal text, `1234.50`. Never a binary floating-point number. */
export type Decimal = string;

/** So many of an item, in its stocking unit or the unit that stands beside it. */
export type Quantity = Sort<Decimal, 'quantity'>;
/** What one of a unit costs, at most four decimals. */
export type UnitPrice = Sort<Decimal, 'unit price'>;
/** Money in a currency, rounded to its minor unit. */
export type Amount = Sort<Decimal, 'amount'>;

/** Digits after the point of a currency's minor unit. Source: ISO 4217, list one. 2 for those not named here. */
const MINOR_UNITS: Readonly<Record<string, number>> = { JPY: 0, KRW: 0, ISK: 0, BHD: 3, KWD: 3, OMR: 3, TND: 3 };

export function minorUnit(currency: string): number {
  return MINOR_UNITS[currency] ?? 2;
}

/** `amount` rounded half away from zero to the currency's minor unit. */
export function roundMoney(amount: Decimal, currency: string): Decimal {
  const digits = minorUnit(currency);
  return new Big(amount).round(digits, Big.roundHalfUp).toFixed(digits);
}

/** What a line comes to: quantity × unit price, rounded half away from zero to the minor unit. */
export function lineAmount(quantity: Decimal, unitPrice: Decimal, currency: string): Decimal {
  return roundMoney(new Big(quantity).times(unitPrice).toFixed(), currency);
}

/** Exact sum; `0` of nothing. */
export function sum(values: Iterable<Decimal>): Decimal {
  let total = new Big(0);
  for (const value of values) total = total.plus(value);
  return total.toFixed();
}

/** Gross margin = (amount − cost) / amount, in percent with one decimal; null where there is no amount to divide by. */
export function marginPercent(amount: Decimal, cost: Decimal): Decimal | null {
  const whole = new Big(amount);
  if (whole.eq(0)) return null;
  return whole.minus(cost).div(whole).times(100).round(1, Big.roundHalfUp).toFixed(1);
}

/** `left` compared with `right`: below, at or above 0. */
export function compareDecimal(left: Decimal, right: Decimal): number {
  return new Big(left).cmp(right);
}

export function plus(left: Decimal, right: Decimal): Decimal {
  return new Big(left).plus(right).toFixed();
}

export function minus(left: Decimal, right: Decimal): Decimal {
  return new Big(left).minus(right).toFixed();
}

export function times(left: Decimal, right: Decimal | number): Decimal {
  return new Big(left).times(right).toFixed();
}

/** `left` ÷ `right`, rounded half away from zero to `digits` decimals. */
export function divide(left: Decimal, right: Decimal | number, digits: number): Decimal {
  return new Big(left).div(right).round(digits, Big.roundHalfUp).toFixed();
}

export function least(left: Decimal, right: Decimal): Decimal {
  return compareDecimal(left, right) <= 0 ? left : right;
}
