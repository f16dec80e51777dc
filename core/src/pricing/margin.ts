import { type Amount, type UnitPrice, compareDecimal, divide, minus, plus, times, type Decimal } from '../money';

/** The mark-up on cost that gives a margin on price, both in percent: m ÷ (100 − m). Common practice. */
export function markUpOf(margin: Decimal, digits = 2): Decimal {
  return divide(times(margin, 100), minus('100', margin), digits);
}

/** The margin on price that a mark-up on cost gives, both in percent: u ÷ (100 + u). Common practice. */
export function marginOf(markUp: Decimal, digits = 2): Decimal {
  return divide(times(markUp, 100), plus('100', markUp), digits);
}

/** Whether an amount leaves less than the floor margin (percent of the amount) over its cost. What is given away leaves none. */
export function belowFloor(amount: Amount, cost: UnitPrice, floor: UnitPrice): boolean {
  return compareDecimal(amount, '0') <= 0 || compareDecimal(times(minus(amount, cost), 100), times(amount, floor)) < 0;
}
