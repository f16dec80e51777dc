import { dayNumber, isoDay, isoWeekday, type IsoDay } from '../calendar';
import { compareDecimal, type Amount } from '../money';

export type BillingRule = 'shipment' | 'daily' | 'weekly' | 'monthly' | 'value';

/** The last day whose shipments are billed today by a rule: all so far, those of yesterday, of last week, of last month. */
export function billedUpTo(rule: BillingRule, today: IsoDay): IsoDay {
  const day = dayNumber(today);
  switch (rule) {
    case 'shipment':
    case 'value':
      return today;
    case 'daily':
      return isoDay(day - 1);
    case 'weekly':
      return isoDay(day - isoWeekday(day));
    case 'monthly':
      return isoDay(day - Number(today.slice(8)));
  }
}

/** Whether what has left and is not billed is billed now: by its days, or as soon as it comes to an amount. */
export function isDue(
  rule: BillingRule,
  value: Amount | null,
  shipped: readonly { readonly day: IsoDay; readonly amount: Amount }[],
  total: Amount,
  today: IsoDay,
): boolean {
  if (rule === 'value') return compareDecimal(total, value ?? '0') >= 0;
  return shipped.some(({ day }) => day <= billedUpTo(rule, today));
}
