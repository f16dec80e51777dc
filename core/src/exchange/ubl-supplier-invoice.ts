import { parseDay } from '../calendar';
import { allOf, at, readXml, textAt, type Read, type Tree } from './xml';

/** A line as the supplier wrote it: the item by their code or ours, in their unit. */
export interface SupplierInvoiceLine {
  readonly purchase: string;
  readonly lineNo: number | null;
  readonly theirCode: string;
  readonly ourCode: string;
  readonly quantity: string;
  readonly price: string;
}

export interface SupplierInvoiceMessage {
  readonly number: string;
  readonly day: string;
  readonly dueDay: string;
  readonly currency: string;
  /** Charges on the whole of it: freight. */
  readonly freight: string;
  readonly tax: string;
  readonly total: string;
  readonly lines: readonly SupplierInvoiceLine[];
}

const AMOUNT = /^\d{1,9}(\.\d{1,4})?$/;

/** Reads a supplier's invoice as UBL 2.1. Gives why it could not be read, by line and element. */
export function readSupplierInvoice(xml: string): Read<SupplierInvoiceMessage> {
  const read = readXml(xml, ['Invoice']);
  if (!read.ok) return read;
  const { content } = read.document;
  const order = textAt(content, 'OrderReference/ID');
  const faults: string[] = [];
  const amount = (tree: Tree, path: string, name: string) => {
    const found = textAt(tree, path);
    if (!AMOUNT.test(found)) faults.push(`${name}: ${path.split('/').at(-1)}: expected an amount, got ${found || 'nothing'}`);
    return found;
  };
  const day = textAt(content, 'IssueDate');
  const dueDay = textAt(content, 'DueDate') || day;
  for (const [name, value] of [
    ['IssueDate', day],
    ['DueDate', dueDay],
  ] as const)
    if (parseDay(value) === null) faults.push(`${name}: expected a day, got ${value || 'nothing'}`);
  const number = textAt(content, 'ID');
  if (number === '') faults.push('ID: missing');
  const lines = allOf(content, 'InvoiceLine').map((line, index): SupplierInvoiceLine => {
    const name = `line ${index + 1}`;
    const base = textAt(line, 'Price/BaseQuantity');
    const price = amount(line, 'Price/PriceAmount', name);
    const purchase = textAt(line, 'OrderLineReference/OrderReference/ID') || order;
    if (purchase === '') faults.push(`${name}: OrderReference: expected the number of a purchase order`);
    const lineNo = Number(textAt(line, 'OrderLineReference/LineID'));
    return {
      purchase,
      lineNo: Number.isInteger(lineNo) && lineNo > 0 ? lineNo : null,
      theirCode: textAt(line, 'Item/SellersItemIdentification/ID'),
      ourCode: textAt(line, 'Item/BuyersItemIdentification/ID'),
      quantity: amount(line, 'InvoicedQuantity', name),
      price: base === '' || Number(base) === 1 ? price : String(Number(price) / Number(base)),
    };
  });
  if (lines.length === 0) faults.push('InvoiceLine: expected at least one');
  const totals = at(content, 'LegalMonetaryTotal') ?? {};
  const total = amount(totals, 'PayableAmount', 'LegalMonetaryTotal');
  if (faults.length > 0) return { ok: false, faults };
  return {
    ok: true,
    document: {
      number,
      day,
      dueDay,
      currency: textAt(content, 'DocumentCurrencyCode'),
      freight: textAt(totals, 'ChargeTotalAmount') || '0',
      tax: textAt(content, 'TaxTotal/TaxAmount') || '0',
      total,
      lines,
    },
  };
}
