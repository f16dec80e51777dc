import { daysBetween, shortDay } from '@nockwright/core/calendar';
import type { OrderResponseMessage } from '@nockwright/core/exchange';
import { compareDecimal, divide, minus, times } from '@nockwright/core/money';
import { needsManager, outsideInWords, type CostLimits } from '../check-costs';
import type { PurchaseLineRecord } from '../load-purchase';

/** Per cent that a cost may differ from the one that stands, and days that a day may. */
export interface Tolerance {
  readonly price_tolerance: string;
  readonly day_tolerance: number;
}

/** What of a line's answer may not hold by itself, sentence by sentence. Its figures are in stocking units. */
export function beyondTolerance(
  line: PurchaseLineRecord,
  answer: OrderResponseMessage['lines'][number],
  { price_tolerance, day_tolerance }: Tolerance,
  limits: CostLimits,
  today: string,
): string[] {
  if (answer.answer === 'refused' || line.open === '0') return [];
  const name = `Line ${line.line_no}, ${line.item}`;
  const waits: string[] = [];
  // Of a drop shipment the customer's order bounds it: more is never taken.
  if (line.warehouse !== null && answer.quantity !== null && compareDecimal(answer.quantity, line.quantity) > 0)
    waits.push(`${name}: they would send ${answer.quantity}, ${minus(answer.quantity, line.quantity)} more than was ordered`);
  if (answer.price !== null && differsBy(answer.price, line.cost, price_tolerance))
    waits.push(`${name}: they ask ${answer.price} each instead of ${line.cost}, more than ${price_tolerance} % apart`);
  // Step by step a cost goes no further than at once.
  else if (answer.price !== null && compareDecimal(answer.price, line.cost) !== 0 && needsManager(limits, line.item, answer.price))
    waits.push(`${name}: they ask ${answer.price} each instead of ${line.cost}, ${outsideInWords(limits, line.item)}`);
  if (answer.day !== null && answer.day >= today && Math.abs(daysBetween(line.expected_day, answer.day)) > day_tolerance)
    waits.push(`${name}: they name ${shortDay(answer.day, today)} instead of ${shortDay(line.expected_day, today)}, more than ${day_tolerance} days apart`);
  return waits;
}

/** Whether a price is further than so many per cent from the one that stands. From nothing, any price is. */
export function differsBy(price: string, stands: string, percent: string): boolean {
  if (compareDecimal(price, stands) === 0) return false;
  if (compareDecimal(stands, '0') === 0) return true;
  const apart = minus(price, stands).replace('-', '');
  return compareDecimal(divide(times(apart, '100'), stands, 6), percent) > 0;
}
