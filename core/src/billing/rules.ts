import type { IsoDay } from '../calendar';
import { compareDecimal, lineAmount, minorUnit, minus, plus, roundMoney, sum, times, type Amount, type Decimal } from '../money';
import type { LineTax } from './tax';
import type { TaxTotal } from './totals';

/** An invoice or a credit note as it is told to others. */
export interface ToldInvoice {
  readonly kind: 'invoice' | 'credit_note';
  readonly number: string;
  readonly day: IsoDay;
  readonly dueDay: IsoDay;
  readonly currency: string;
  readonly terms: string;
  readonly reference: string;
  readonly seller: { readonly name: string; readonly taxNumber: string; readonly country: string };
  readonly buyer: { readonly name: string; readonly country: string };
  /** The invoice that a credit note corrects. */
  readonly credits: { readonly number: string; readonly day: IsoDay } | null;
  readonly lines: readonly (LineTax & {
    readonly id: string;
    readonly text: string;
    readonly quantity: Decimal;
    readonly unit: string;
    readonly price: Decimal;
    readonly amount: Amount;
  })[];
  readonly taxes: readonly TaxTotal[];
  readonly net: Amount;
  readonly tax: Amount;
  readonly total: Amount;
  readonly paid: Amount;
}

export interface BrokenRule {
  /** Its name in the standard. */
  readonly rule: string;
  readonly message: string;
}

/**
 * The business rules of an electronic invoice that this desk's invoices can break, each with its name. Source: EN 16931-1:2017, clause 6.4 and tables
 * BR-CO, BR-S, BR-Z, BR-E and BR-G (from memory).
 */
export function brokenRules(invoice: ToldInvoice): readonly BrokenRule[] {
  return [...headRules(invoice), ...lineRules(invoice), ...totalRules(invoice), ...taxRules(invoice)];
}

const broken = (rule: string, message: string, holds: boolean): readonly BrokenRule[] => (holds ? [] : [{ rule, message }]);
const same = (left: Decimal, right: Decimal) => compareDecimal(left, right) === 0;

function headRules({ kind, number, day, currency, seller, buyer, lines, total, paid, dueDay, terms, credits }: ToldInvoice): readonly BrokenRule[] {
  return [
    ...broken('BR-02', 'it has no number', number !== ''),
    ...broken('BR-03', 'it has no day', day !== ''),
    ...broken('BR-05', 'it has no currency', /^[A-Z]{3}$/.test(currency)),
    ...broken('BR-06', 'the seller has no name', seller.name !== ''),
    ...broken('BR-07', 'the buyer has no name', buyer.name !== ''),
    ...broken('BR-09', 'the seller has no country', /^[A-Z]{2}$/.test(seller.country)),
    ...broken('BR-11', 'the buyer has no country', /^[A-Z]{2}$/.test(buyer.country)),
    ...broken('BR-16', 'it has no line', lines.length > 0),
    ...broken('BR-CO-25', 'an amount is due and neither a day nor terms say when', compareDecimal(total, paid) <= 0 || dueDay !== '' || terms !== ''),
    ...broken('BR-55', 'a credit note names no invoice', kind === 'invoice' || (credits !== null && credits.number !== '')),
  ];
}

function lineRules({ lines, currency }: ToldInvoice): readonly BrokenRule[] {
  return lines.flatMap((line) => [
    ...broken('BR-21', 'a line has no id', line.id !== ''),
    ...broken('BR-23', `line ${line.id} has no unit`, line.unit !== ''),
    ...broken('BR-25', `line ${line.id} has no name`, line.text !== ''),
    ...broken('BR-27', `line ${line.id}: the price is below 0`, compareDecimal(line.price, '0') >= 0),
    ...broken(
      'BR-24',
      `line ${line.id}: ${line.quantity} × ${line.price} is not ${line.amount}`,
      same(lineAmount(line.quantity, line.price, currency), line.amount),
    ),
  ]);
}

function totalRules({ lines, net, tax, total, taxes, currency }: ToldInvoice): readonly BrokenRule[] {
  const digits = minorUnit(currency);
  const short = (amount: Decimal) => (amount.split('.')[1] ?? '').length <= digits;
  return [
    ...broken('BR-CO-10', 'the lines do not sum up', same(sum(lines.map((line) => line.amount)), net)),
    ...broken('BR-CO-14', 'the taxes do not sum up', same(sum(taxes.map((row) => row.tax)), tax)),
    ...broken('BR-CO-15', 'the total is not net and tax', same(plus(net, tax), total)),
    ...broken('BR-CO-18', 'it has no tax breakdown', taxes.length > 0),
    ...broken('BR-DEC', `an amount has more than ${digits} decimals`, [net, tax, total, ...lines.map((line) => line.amount)].every(short)),
  ];
}

/** What each category asks for: name of its table, whether there is a rate, and whether a reason must be said. */
const CATEGORIES = {
  S: { table: 'BR-S', rate: true, reason: false },
  Z: { table: 'BR-Z', rate: false, reason: false },
  E: { table: 'BR-E', rate: false, reason: true },
  G: { table: 'BR-G', rate: false, reason: true },
};

function taxRules({ lines, taxes, currency, seller }: ToldInvoice): readonly BrokenRule[] {
  const key = (row: LineTax) => `${row.category} ${Number(row.percent)}`;
  const totals = taxes.flatMap((row) => {
    const { table, rate, reason } = CATEGORIES[row.category];
    const base = sum(lines.filter((line) => key(line) === key(row)).map((line) => line.amount));
    const asked = sum(taxes.filter((other) => key(other) === key(row)).map((other) => other.base));
    return [
      ...broken(`${table}-08`, `${row.percent} %: the lines come to ${base}, not ${asked}`, same(base, asked)),
      ...broken(
        `${table}-09`,
        `${row.percent} % of ${row.base} is not ${row.tax}`,
        same(roundMoney(times(row.base, times(row.percent, '0.01')), currency), row.tax),
      ),
      ...broken(`${table}-10`, reason ? 'the reason for no tax is missing' : 'a reason for no tax stands where there is tax', reason === (row.reason !== '')),
      ...broken(`${table}-05`, rate ? 'the rate must be above 0' : 'there must be no rate', rate === compareDecimal(row.percent, '0') > 0),
    ];
  });
  const unlisted = lines.filter((line) => !taxes.some((row) => key(row) === key(line)));
  return [
    ...totals,
    ...unlisted.map((line) => ({ rule: `${CATEGORIES[line.category].table}-01`, message: `line ${line.id}: its tax is not in the breakdown` })),
    ...broken('BR-S-02', 'tax is asked and the seller has no tax number', seller.taxNumber !== '' || !lines.some((line) => line.category === 'S')),
  ];
}

/** What is still due of it. BR-CO-16: the total less what is paid. */
export function dueOf({ total, paid }: Pick<ToldInvoice, 'total' | 'paid'>, currency: string): Amount {
  return roundMoney(minus(total, paid), currency);
}
