import { daysBetween, type IsoDay } from '../calendar';
import { compareDecimal, divide, minus, times } from '../money';
import { beyondCleared, type ClearedCosts } from '../supply';
import type { OrderResponseMessage } from './documents';

/** Per cent that a cost may differ from the one that stands, and days that a day may. */
export interface Tolerance {
  readonly percent: string;
  readonly days: number;
}

/** A line of ours that a supplier answers; quantities and cost in stocking units. */
export interface AnsweredLine {
  readonly lineNo: number;
  readonly item: string;
  readonly quantity: string;
  readonly open: string;
  readonly cost: string;
  readonly expectedDay: IsoDay;
  /** The supplier ships it to our customer, whose order bounds it. */
  readonly dropShip: boolean;
}

type Of = Pick<AnsweredLine, 'lineNo' | 'item'>;
export type Beyond =
  | (Of & { readonly about: 'over_ordered'; readonly quantity: string; readonly more: string })
  | (Of & { readonly about: 'cost_apart'; readonly cost: string; readonly was: string; readonly percent: string })
  | (Of & { readonly about: 'cost_outside'; readonly cost: string; readonly was: string; readonly percent: string } & ClearedCosts)
  | (Of & { readonly about: 'day_apart'; readonly day: IsoDay; readonly was: IsoDay; readonly days: number });

/**
 * What of a line's answer may not hold by itself: more than was ordered, a cost or a day further away than the supplier's terms
 * let it be, or a cost further from what was `cleared` than may be, since step by step a cost goes no further than at once.
 * The figures of the answer are in stocking units. Empty: it holds. Each with what a person needs to decide.
 */
export function beyondTolerance(
  line: AnsweredLine,
  answer: Pick<OrderResponseMessage['lines'][number], 'answer' | 'quantity' | 'price' | 'day'>,
  { percent, days }: Tolerance,
  cleared: ClearedCosts | null,
  today: IsoDay,
): Beyond[] {
  if (answer.answer === 'refused' || line.open === '0') return [];
  const of = { lineNo: line.lineNo, item: line.item };
  const beyond: Beyond[] = [];
  const { quantity, price, day } = answer;
  if (!line.dropShip && quantity !== null && compareDecimal(quantity, line.quantity) > 0)
    beyond.push({ ...of, about: 'over_ordered', quantity, more: minus(quantity, line.quantity) });
  if (price !== null && differsBy(price, line.cost, percent)) beyond.push({ ...of, about: 'cost_apart', cost: price, was: line.cost, percent });
  else if (price !== null && compareDecimal(price, line.cost) !== 0 && cleared !== null && beyondCleared(price, cleared, percent))
    beyond.push({ ...of, about: 'cost_outside', cost: price, was: line.cost, percent, ...cleared });
  if (day !== null && day >= today && Math.abs(daysBetween(line.expectedDay, day)) > days)
    beyond.push({ ...of, about: 'day_apart', day, was: line.expectedDay, days });
  return beyond;
}

/** Whether a price is further than so many per cent from the one that stands. From nothing, any price is. */
export function differsBy(price: string, stands: string, percent: string): boolean {
  if (compareDecimal(price, stands) === 0) return false;
  if (compareDecimal(stands, '0') === 0) return true;
  const apart = minus(price, stands).replace('-', '');
  return compareDecimal(divide(times(apart, '100'), stands, 6), percent) > 0;
}
