import { type Quantity, type UnitPrice, compareDecimal, divide, times, type Decimal } from '../money';
import type { UnitRatio } from '../units';

/** What is sold of a line, for one stocking unit: its price, how many, and the cost it is judged by. */
export interface SoldAt {
  readonly unitPrice: UnitPrice;
  /** In stocking units. */
  readonly quantity: Quantity;
  readonly unitCost: UnitPrice;
}

/** Enough that no two prices of four decimals, of whatever units, are the same. */
const UNIT_DECIMALS = 10;

/** A price for one of a unit as a price for one stocking unit. */
export function perStockingUnit(price: UnitPrice, { numerator, denominator }: UnitRatio): Decimal {
  return divide(times(price, denominator), numerator, UNIT_DECIMALS);
}

/** Cost for so many as cost for one; 0 of nothing. */
export function costOfOne(cost: UnitPrice, quantity: Quantity): Decimal {
  return compareDecimal(quantity, '0') > 0 ? divide(cost, quantity, UNIT_DECIMALS) : '0';
}

/**
 * Whether an approval to sell below the floor covers what is sold: at its price or more, so many at most, at the cost it was
 * judged by or less. It lapses when any of the three gets worse.
 */
export function isCovered(sold: SoldAt, approved: SoldAt): boolean {
  return (
    compareDecimal(sold.unitPrice, approved.unitPrice) >= 0 &&
    compareDecimal(sold.quantity, approved.quantity) <= 0 &&
    compareDecimal(sold.unitCost, approved.unitCost) <= 0
  );
}
