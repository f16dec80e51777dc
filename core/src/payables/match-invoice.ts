import { compareDecimal, lineAmount, minus, plus, roundMoney, sum, times, type Amount, type Quantity, type UnitPrice } from '../money';

/** A line of a supplier's invoice beside the purchase line it is for; quantities in stocking units. */
export interface InvoicedLine {
  readonly lineNo: number;
  readonly item: string;
  readonly quantity: Quantity;
  readonly price: UnitPrice;
  /** The cost that was agreed. */
  readonly cost: UnitPrice;
  /** What came, damaged goods too. */
  readonly received: Quantity;
  /** What other invoices took of it. */
  readonly invoiced: Quantity;
}

export interface MatchFacts {
  readonly lines: readonly InvoicedLine[];
  /** What the invoice says. */
  readonly freight: Amount;
  readonly tax: Amount;
  readonly total: Amount;
  /** The freight that was agreed; null: none was. */
  readonly agreedFreight: Amount | null;
  /** Per cent that a price may differ. */
  readonly tolerance: string;
  readonly currency: string;
}

/** What does not match. `by`: how much more it comes to than was agreed; of a quantity, how many more than came. */
export type MatchFinding =
  | { readonly kind: 'quantity'; readonly lineNo: number; readonly item: string; readonly by: Quantity }
  | { readonly kind: 'price'; readonly lineNo: number; readonly item: string; readonly by: Amount; readonly cost: UnitPrice; readonly price: UnitPrice }
  | { readonly kind: 'freight'; readonly by: Amount }
  | { readonly kind: 'total'; readonly by: Amount };

export interface InvoiceMatch {
  readonly net: Amount;
  readonly findings: readonly MatchFinding[];
  /** Nothing that was invoiced is still awaited, and it comes to what it says: it can be accepted. */
  readonly acceptable: boolean;
}

/**
 * Matches a supplier's invoice with the purchase and the receipt (three-way match): no more than came and is on no other invoice, prices within the
 * tolerance agreed with the supplier, freight no higher than agreed, and a total that is the sum of its parts to the cent. Common practice, no source.
 */
export function matchInvoice({ lines, freight, tax, total, agreedFreight, tolerance, currency }: MatchFacts): InvoiceMatch {
  const byLine = lines.flatMap((line): MatchFinding[] => {
    const { lineNo, item, quantity, price, cost } = line;
    const over = minus(quantity, minus(line.received, line.invoiced));
    const more = roundMoney(times(quantity, minus(price, cost)), currency);
    const allowed = times(cost, times(tolerance, '0.01'));
    const beyond = compareDecimal(minus(price, cost), allowed) > 0 || compareDecimal(minus(cost, price), allowed) > 0;
    return [
      ...(compareDecimal(over, '0') > 0 ? [{ kind: 'quantity' as const, lineNo, item, by: over }] : []),
      ...(beyond ? [{ kind: 'price' as const, lineNo, item, by: more, cost, price }] : []),
    ];
  });
  const net = roundMoney(sum(lines.map((line) => lineAmount(line.quantity, line.price, currency))), currency);
  const dearer = agreedFreight === null ? '0' : minus(freight, agreedFreight);
  const off = minus(total, plus(plus(net, freight), tax));
  const findings = [
    ...byLine,
    ...(compareDecimal(dearer, '0') > 0 ? [{ kind: 'freight' as const, by: roundMoney(dearer, currency) }] : []),
    ...(compareDecimal(off, '0') === 0 ? [] : [{ kind: 'total' as const, by: roundMoney(off, currency) }]),
  ];
  return { net, findings, acceptable: findings.every((finding) => finding.kind === 'price' || finding.kind === 'freight') };
}
