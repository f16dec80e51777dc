import { compareDecimal, lineAmount, minus, type Amount, type Decimal } from '../money';
import type { LineTax } from './tax';

/** A line of an invoice, with what was credited of it already. */
export interface CreditableLine extends LineTax {
  readonly id: number;
  readonly lineNo: number;
  readonly text: string;
  readonly quantity: Decimal;
  readonly unit: string;
  readonly price: Decimal;
  readonly amount: Amount;
  readonly credited: Amount;
}

/** What is to be credited of a line: so many of it, or so much less for each of them. */
export interface CreditWish {
  readonly line: number;
  readonly quantity: Decimal;
  /** Less for one; absent: all of its price. */
  readonly perUnit?: Decimal;
}

export interface CreditedLine extends LineTax {
  readonly credits: number;
  readonly text: string;
  readonly quantity: Decimal;
  readonly unit: string;
  readonly price: Decimal;
  readonly amount: Amount;
}

export type CreditDecision =
  | { readonly ok: true; readonly lines: readonly CreditedLine[] }
  | { readonly ok: false; readonly faults: readonly { readonly field: string; readonly message: string }[] };

/**
 * The lines of a credit note, at the price and tax of the invoice; refused by line and field where more would be credited than was billed. Nothing of a
 * quantity and price together goes above what is left of the line.
 */
export function decideCredit(lines: readonly CreditableLine[], wishes: readonly CreditWish[], currency: string): CreditDecision {
  const faults: { field: string; message: string }[] = [];
  const seen = new Set<number>();
  const found = wishes.flatMap(({ line: id, quantity, perUnit }, at): CreditedLine[] => {
    const fault = (name: string, message: string) => faults.push({ field: `lines[${at}].${name}`, message });
    const line = lines.find((row) => row.id === id);
    if (!line) return (fault('line', 'the invoice has no such line'), []);
    if (seen.has(id)) return (fault('line', `line ${line.lineNo} stands twice`), []);
    seen.add(id);
    if (compareDecimal(quantity, '0') <= 0) return (fault('quantity', `expected a quantity above 0, got ${quantity}`), []);
    if (compareDecimal(quantity, line.quantity) > 0)
      return (fault('quantity', `${quantity} is more than the ${line.quantity} billed on line ${line.lineNo}`), []);
    const price = perUnit ?? line.price;
    if (compareDecimal(price, '0') <= 0) return (fault('perUnit', `expected an amount above 0, got ${price}`), []);
    if (compareDecimal(price, line.price) > 0) return (fault('perUnit', `${price} is more than the price of ${line.price}`), []);
    // All of a line is all of its amount, whatever the rounding.
    const whole = compareDecimal(quantity, line.quantity) === 0 && price === line.price;
    const amount = whole ? line.amount : lineAmount(quantity, price, currency);
    const left = minus(line.amount, line.credited);
    if (compareDecimal(amount, left) > 0) return (fault('quantity', `${amount} is more than the ${left} left of line ${line.lineNo}`), []);
    const { category, percent, reason, text, unit } = line;
    return [{ credits: id, text, quantity, unit, price, amount, category, percent, reason }];
  });
  if (faults.length > 0) return { ok: false, faults };
  return found.length === 0 ? { ok: false, faults: [{ field: 'lines', message: 'expected at least one line' }] } : { ok: true, lines: found };
}
