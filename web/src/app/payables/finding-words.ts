import type { SupplierInvoiceView } from '@nockwright/contract/payables';
import { amountInWords, priceInWords } from '@nockwright/core/money';

/** What does not match, in words. */
export function findingInWords({ kind, lineNo, item, by, cost, price }: SupplierInvoiceView['findings'][number], currency: string): string {
  const less = by.startsWith('-');
  const much = `${amountInWords(by.replace('-', ''))} ${currency} ${less ? 'less' : 'more'}`;
  switch (kind) {
    case 'quantity':
      return `Line ${lineNo}, ${item}: ${amountInWords(by)} more than came.`;
    case 'price':
      return `Line ${lineNo}, ${item}: ${priceInWords(price!)} each, ordered at ${priceInWords(cost!)}: ${much}.`;
    case 'freight':
      return `Freight: ${much} than agreed.`;
    case 'total':
      return `Its parts come to ${amountInWords(by.replace('-', ''))} ${currency} ${less ? 'more' : 'less'} than its total.`;
  }
}
