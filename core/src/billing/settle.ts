import type { IsoDay } from '../calendar';
import { compareDecimal, least, minus, plus, sum, type Amount } from '../money';
import { discountOf } from './terms';

/** An invoice that something is owed on. */
export interface OpenInvoice {
  readonly id: number;
  readonly number: string;
  readonly total: Amount;
  readonly open: Amount;
  readonly dueDay: IsoDay;
  readonly discountUntil: IsoDay | null;
  readonly discountPercent: string;
}

/** What of a payment goes to an invoice, and what is taken off it as discount. */
export interface Settled {
  readonly invoice: number;
  readonly amount: Amount;
  readonly discount: Amount;
}

export interface Settlement {
  readonly settled: readonly Settled[];
  /** What is left: it stays on the account. */
  readonly onAccount: Amount;
}

/** Days after its last day on which a discount is still taken without a word. Common practice, no source. */
export const DISCOUNT_GRACE_DAYS = 2;

/** The discount that may be taken of an invoice that is paid on a day: none where something of it was settled before, or the day is too late. */
export function discountOn(invoice: OpenInvoice, day: IsoDay, currency: string, allowed: (until: IsoDay, day: IsoDay) => boolean): Amount {
  const { discountUntil: until, discountPercent, total, open } = invoice;
  if (until === null || compareDecimal(open, total) !== 0 || !allowed(until, day)) return '0';
  return discountOf(total, discountPercent, currency);
}

/**
 * Where a payment goes: the invoices named, or the one it fits to the cent, with or without its discount, else those due first. An invoice that is paid
 * but for the discount it may take is settled. `discountOf`: what may be taken off an invoice on the day of the payment.
 */
export function proposeSettlement(amount: Amount, invoices: readonly OpenInvoice[], discountFor: (invoice: OpenInvoice) => Amount): Settlement {
  const exact = invoices.find((row) => compareDecimal(row.open, amount) === 0 || compareDecimal(minus(row.open, discountFor(row)), amount) === 0);
  const order = exact ? [exact] : [...invoices].sort((a, b) => (a.dueDay < b.dueDay ? -1 : a.dueDay > b.dueDay ? 1 : a.id - b.id));
  let left = amount;
  const settled: Settled[] = [];
  for (const invoice of order) {
    if (compareDecimal(left, '0') <= 0) break;
    const discount = discountFor(invoice);
    const less = minus(invoice.open, discount);
    const takes = compareDecimal(discount, '0') > 0 && compareDecimal(left, less) >= 0 && compareDecimal(left, invoice.open) !== 0;
    const paid = least(left, takes ? less : invoice.open);
    settled.push({ invoice: invoice.id, amount: paid, discount: takes ? discount : '0' });
    left = minus(left, paid);
  }
  return { settled, onAccount: left };
}

/** What is wrong with how a payment is said to go, by field: never above what is open, never above what was paid. */
export function settlementFaults(
  amount: Amount,
  invoices: readonly OpenInvoice[],
  settled: readonly Settled[],
  discountFor: (invoice: OpenInvoice) => Amount,
): readonly { readonly field: string; readonly message: string }[] {
  const seen = new Set<number>();
  const faults = settled.flatMap((row, at) => {
    const field = `settled[${at}]`;
    const invoice = invoices.find((one) => one.id === row.invoice);
    if (!invoice) return [{ field: `${field}.invoice`, message: 'this invoice is not open' }];
    if (seen.has(row.invoice)) return [{ field: `${field}.invoice`, message: `invoice ${invoice.number} stands twice` }];
    seen.add(row.invoice);
    if (compareDecimal(row.amount, '0') < 0 || compareDecimal(row.discount, '0') < 0) return [{ field: `${field}.amount`, message: 'expected 0 or more' }];
    if (compareDecimal(plus(row.amount, row.discount), '0') === 0) return [{ field: `${field}.amount`, message: 'expected an amount above 0' }];
    if (compareDecimal(plus(row.amount, row.discount), invoice.open) > 0)
      return [{ field: `${field}.amount`, message: `${plus(row.amount, row.discount)} is more than the ${invoice.open} open on invoice ${invoice.number}` }];
    if (compareDecimal(row.discount, discountFor(invoice)) > 0)
      return [{ field: `${field}.discount`, message: `${row.discount} is more than the discount of ${discountFor(invoice)} on invoice ${invoice.number}` }];
    return [];
  });
  const all = sum(settled.map((row) => row.amount));
  return compareDecimal(all, amount) > 0 ? [...faults, { field: 'settled', message: `${all} is more than the ${amount} paid` }] : faults;
}
