import { plus, roundMoney, sum, times, type Amount } from '../money';
import type { LineTax } from './tax';

export interface TaxedLine extends LineTax {
  /** Without tax. */
  readonly amount: Amount;
}

/** The tax of one category and rate. */
export interface TaxTotal extends LineTax {
  readonly base: Amount;
  readonly tax: Amount;
}

export interface InvoiceTotals {
  readonly net: Amount;
  readonly tax: Amount;
  readonly total: Amount;
  /** By category and rate, the dearest rate first. */
  readonly taxes: readonly TaxTotal[];
}

/**
 * What an invoice comes to: the lines' sum, tax on the sum of each category and rate, rounded half away from zero to the minor unit, and all of it.
 * Source: EN 16931-1, BR-CO-10, BR-CO-13 to BR-CO-15 and BR-S-08, BR-S-09 (from memory).
 */
export function invoiceTotals(lines: readonly TaxedLine[], currency: string): InvoiceTotals {
  const groups = new Map<string, TaxedLine[]>();
  for (const line of lines) {
    const key = `${line.category} ${Number(line.percent)} ${line.reason}`;
    groups.set(key, [...(groups.get(key) ?? []), line]);
  }
  const taxes = [...groups.values()]
    .map((group): TaxTotal => {
      const { category, percent, reason } = group[0]!;
      const base = roundMoney(sum(group.map((line) => line.amount)), currency);
      return { category, percent, reason, base, tax: roundMoney(times(base, times(percent, '0.01')), currency) };
    })
    .sort((a, b) => Number(b.percent) - Number(a.percent) || (a.category < b.category ? -1 : 1));
  const net = roundMoney(sum(lines.map((line) => line.amount)), currency);
  const tax = roundMoney(sum(taxes.map((row) => row.tax)), currency);
  return { net, tax, total: roundMoney(plus(net, tax), currency), taxes };
}
