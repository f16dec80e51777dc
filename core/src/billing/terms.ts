import { dayNumber, isoDay, shortDay, type IsoDay } from '../calendar';
import { compareDecimal, divide, amountInWords, minus, roundMoney, times, type Amount } from '../money';

/** When an invoice is due: so many days after its day, or after the end of its month; and what may be taken off by whoever pays early. */
export interface PaymentTerms {
  readonly kind: 'net' | 'month_end';
  readonly days: number;
  /** Per cent of the total; 0: none. */
  readonly discountPercent: string;
  readonly discountDays: number;
}

/** The day an invoice is due. A day that is no working day stays: common practice, no source. */
export function dueDay(day: IsoDay, { kind, days }: Pick<PaymentTerms, 'kind' | 'days'>): IsoDay {
  return isoDay(dayNumber(kind === 'net' ? day : monthEnd(day)) + days);
}

function monthEnd(day: IsoDay): IsoDay {
  const [year, month] = day.split('-').map(Number) as [number, number];
  const next = month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, '0')}-01`;
  return isoDay(dayNumber(next) - 1);
}

/** The last day on which the discount may be taken; null: there is none. */
export function discountUntil(day: IsoDay, { discountPercent, discountDays }: PaymentTerms): IsoDay | null {
  return Number(discountPercent) > 0 ? isoDay(dayNumber(day) + discountDays) : null;
}

/** What is taken off a total that is paid in time. */
export function discountOf(total: Amount, percent: string, currency: string): Amount {
  return roundMoney(times(total, times(percent, '0.01')), currency);
}

/** `30 days net`, `10 days after the end of the month`, `payable at once`. */
export function daysInWords(kind: PaymentTerms['kind'], days: number): string {
  if (kind === 'month_end') return `${days} days after the end of the month`;
  return days === 0 ? 'payable at once' : `${days} days net`;
}

/** The same, with the discount of those who pay early. */
export function termsInWords(terms: PaymentTerms): string {
  const net = daysInWords(terms.kind, terms.days);
  return Number(terms.discountPercent) > 0 ? `${net}, ${Number(terms.discountPercent)} % within ${terms.discountDays} days` : net;
}

/** What is to be paid and by when, as it stands on an invoice. */
export function payableInWords(
  {
    total,
    dueDay: due,
    discountUntil: until,
    discountPercent,
  }: { readonly total: Amount; readonly dueDay: IsoDay; readonly discountUntil: IsoDay | null; readonly discountPercent: string },
  currency: string,
  today: IsoDay,
): string {
  const money = (amount: Amount) => `${amountInWords(roundMoney(amount, currency))} ${currency}`;
  const all = `Please pay ${money(total)} by ${shortDay(due, today)}`;
  if (until === null) return `${all}.`;
  const less = minus(total, discountOf(total, discountPercent, currency));
  return `${all}, or ${money(less)} by ${shortDay(until, today)} (${Number(discountPercent)} % discount).`;
}

/**
 * Days sales outstanding, with one decimal: what is owed ÷ what was billed in the days before × those days; null where nothing was billed. Source: the
 * common handbook formula, from memory.
 */
export function daysSalesOutstanding(owed: Amount, billed: Amount, days: number): string | null {
  return compareDecimal(billed, '0') > 0 ? divide(times(owed, String(days)), billed, 1) : null;
}

/**
 * What it costs in a year not to take a discount, in per cent with one decimal: d / (100 − d) × year / (net days − discount days). `yearDays`: 365, or
 * 360 as some handbooks have it. 2/10 net 30 comes to 37.2 % and 36.7 %.
 */
export function yearlyCostOfDiscount(percent: number, discountDays: number, netDays: number, yearDays = 365): string {
  return ((percent / (100 - percent)) * (yearDays / (netDays - discountDays)) * 100).toFixed(1);
}
