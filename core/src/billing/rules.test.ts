import { XMLParser } from 'fast-xml-parser';
import { misplacedElements, writeInvoice, type InvoiceParty } from '../exchange';
import { brokenRules, type ToldInvoice } from './rules';
import { invoiceTotals } from './totals';

const lines = [
  { id: '1', text: 'Hexagonal jar 340 g', quantity: '3', unit: 'DZN', price: '4.08', amount: '12.24', category: 'S', percent: '20', reason: '' },
  { id: '2', text: 'Sugar syrup', quantity: '2', unit: 'EA', price: '9.5', amount: '19.00', category: 'Z', percent: '0', reason: '' },
] as const;
const told: ToldInvoice = {
  kind: 'invoice',
  number: 'I9001',
  day: '2027-03-09',
  dueDay: '2027-04-08',
  currency: 'EUR',
  terms: '30 days net',
  reference: 'RF18539007547034',
  seller: { name: 'Fell & Moor Supply', taxNumber: 'GB123456789', country: 'GB' },
  buyer: { name: 'Wether Hill', country: 'GB' },
  credits: null,
  lines,
  ...invoiceTotals(lines, 'EUR'),
  paid: '0',
};
const rules = (more: Partial<ToldInvoice>) => [...new Set(brokenRules({ ...told, ...more }).map(({ rule }) => rule))];

test('an invoice that is right breaks no rule', () => expect(brokenRules(told)).toEqual([]));

// Names and meaning of the rules: EN 16931-1:2017 (from memory).
test.each<[string, Partial<ToldInvoice>]>([
  ['BR-02', { number: '' }],
  ['BR-05', { currency: '€' }],
  ['BR-16', { lines: [], taxes: [], net: '0', tax: '0', total: '0' }],
  ['BR-CO-25', { dueDay: '', terms: '' }],
  ['BR-55', { kind: 'credit_note' }],
  ['BR-24', { lines: [{ ...lines[0], amount: '12.25' }, lines[1]] }],
  ['BR-27', { lines: [{ ...lines[0], price: '-4.08', quantity: '-3' }, lines[1]] }],
  ['BR-CO-10', { net: '31.25' }],
  ['BR-CO-14', { tax: '2.46' }],
  ['BR-CO-15', { total: '33.70' }],
  ['BR-DEC', { total: '33.690' }],
  ['BR-S-01', { taxes: told.taxes.slice(1) }],
  ['BR-S-02', { seller: { ...told.seller, taxNumber: '' } }],
  ['BR-S-08', { taxes: [{ ...told.taxes[0]!, base: '12.25' }, told.taxes[1]!] }],
  ['BR-S-09', { taxes: [{ ...told.taxes[0]!, tax: '2.44' }, told.taxes[1]!] }],
  ['BR-S-10', { taxes: [{ ...told.taxes[0]!, reason: 'why not' }, told.taxes[1]!] }],
  ['BR-E-10', { taxes: [told.taxes[0]!, { ...told.taxes[1]!, category: 'E' }], lines: [lines[0], { ...lines[1], category: 'E' }] }],
])('%s is seen', (rule, more) => expect(rules(more)).toContain(rule));

describe('as UBL 2.1', () => {
  const party = (name: string): InvoiceParty => ({ name, street: '1 Quay', town: 'Pellow', postcode: 'PI1 4QS', country: 'GB', taxNumber: 'GB123456789' });
  const read = (xml: string) => new XMLParser({ removeNSPrefix: true, ignoreAttributes: false, attributeNamePrefix: '@', parseTagValue: false }).parse(xml);

  test('its elements stand in the sequence of the schema, and its figures are those of the invoice', () => {
    const xml = writeInvoice(told, party('Fell & Moor Supply'), party('Wether Hill'));
    expect(misplacedElements(xml)).toEqual([]);
    const { Invoice } = read(xml);
    expect([Invoice.ID, Invoice.InvoiceTypeCode, Invoice.DueDate, Invoice.PaymentMeans.PaymentID]).toEqual(['I9001', '380', '2027-04-08', 'RF18539007547034']);
    expect(Invoice.LegalMonetaryTotal.PayableAmount).toEqual({ '#text': '33.69', '@currencyID': 'EUR' });
    expect(Invoice.InvoiceLine[0].InvoicedQuantity).toEqual({ '#text': '3', '@unitCode': 'DZN' });
    expect(Invoice.TaxTotal.TaxSubtotal.map((row: { TaxCategory: { ID: string } }) => row.TaxCategory.ID)).toEqual(['S', 'Z']);
    expect(Invoice.AccountingSupplierParty.Party.PartyName.Name).toBe('Fell &amp; Moor Supply'.replace('&amp;', '&'));
  });

  test('a credit note names what it corrects', () => {
    const xml = writeInvoice({ ...told, kind: 'credit_note', credits: { number: 'I9000', day: '2027-03-01' } }, party('A'), party('B'));
    expect(misplacedElements(xml)).toEqual([]);
    const { CreditNote } = read(xml);
    expect([
      CreditNote.CreditNoteTypeCode,
      CreditNote.BillingReference.InvoiceDocumentReference.ID,
      CreditNote.CreditNoteLine[1].CreditedQuantity['#text'],
    ]).toEqual(['381', 'I9000', '2']);
  });
});
