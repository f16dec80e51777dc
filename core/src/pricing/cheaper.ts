import { type Quantity, type UnitPrice, compareDecimal, divide, times, type Decimal } from '../money';
import { unitName, type UnitRatio } from '../units';
import type { PriceBreak, PriceQuestion, PriceStep } from './price-question';

/** Digits that make a comparison for one stocking unit exact enough: no two prices of four decimals come so near. */
const DIGITS = 10;

/** The break with the highest `from` that the quantity reaches. */
export function bestBreak(breaks: readonly PriceBreak[], unit: string, quantity: Quantity): PriceBreak | null {
  let best: PriceBreak | null = null;
  for (const step of breaks) {
    if (step.unit !== unit || compareDecimal(step.from, quantity) > 0) continue;
    if (!best || compareDecimal(step.from, best.from) > 0) best = step;
  }
  return best;
}

/**
 * The same goods for less, bought by another unit of the item: what the customer's list, or the list, asks for them, the least
 * of all units. Trays that cost less than their pallet, say. Null where none does. The price is for one of the unit ordered.
 */
export function cheaperByUnit(question: PriceQuestion, stockQuantity: Quantity, price: UnitPrice): PriceStep | null {
  const { ratio, quantity } = question;
  let [best, least]: [PriceStep | null, Decimal] = [null, times(quantity, price)];
  for (const other of question.units ?? []) {
    if (other.unit === question.unit) continue;
    const count = divide(times(stockQuantity, other.denominator), other.numerator, DIGITS);
    if (count.includes('.')) continue;
    const found = [
      { name: question.customerList?.name ?? '', step: question.customerList ? bestBreak(question.customerList.breaks, other.unit, count) : null },
      { name: 'list', step: bestBreak(question.listBreaks, other.unit, count) },
    ].find((row) => row.step !== null);
    const each = found?.step?.price ?? divide(times(question.listPrice, other.numerator), other.denominator, 4);
    const whole = times(count, each);
    if (compareDecimal(whole, least) >= 0) continue;
    const goods = `${count} ${unitName(other.unit, count)}`;
    least = whole;
    best = {
      source: `${found?.name ?? 'list price'}, by ${goods}`,
      price: divide(times(times(each, ratio.numerator), other.denominator), times(String(ratio.denominator), other.numerator), 4),
      why: `${goods} at ${each} are the same goods, for less`,
      chosen: false,
      lower: true,
    };
  }
  return best;
}

/** A price of a list with what it is for. */
export interface ListedPrice {
  readonly unit: string;
  readonly from: Decimal;
  readonly price: UnitPrice;
  readonly ratio: UnitRatio;
}

/**
 * The price of the same list, for the same item, by which the goods of `row` are cheaper: another unit, or fewer of it. Null
 * where there is none.
 */
export function cheaperInList(row: ListedPrice, all: readonly ListedPrice[]): ListedPrice | null {
  const each = ({ price, ratio }: ListedPrice) => divide(times(price, ratio.denominator), ratio.numerator, DIGITS);
  const goods = ({ from, ratio }: ListedPrice) => divide(times(from, ratio.numerator), ratio.denominator, DIGITS);
  const cheaper = all.filter((other) => compareDecimal(goods(other), goods(row)) <= 0 && compareDecimal(each(other), each(row)) < 0);
  return cheaper.reduce<ListedPrice | null>((best, one) => (best && compareDecimal(each(best), each(one)) <= 0 ? best : one), null);
}
