import { dueOf, type ToldInvoice } from '../billing';
import type { TradeParty } from './documents';
import { party } from './ubl-parts';
import { writeXml } from './xml';

const PROFILE = 'urn:cen.eu:en16931:2017';

/** Who an invoice is from or for, with what taxes want to know of them. */
export interface InvoiceParty extends TradeParty {
  readonly street: string;
  readonly town: string;
  readonly postcode: string;
  readonly country: string;
  readonly taxNumber: string;
}

function fullParty({ street, town, postcode, country, taxNumber, ...who }: InvoiceParty) {
  const { 'cac:Party': short } = party(who) as { 'cac:Party': Record<string, unknown> };
  return {
    'cac:Party': {
      ...short,
      'cac:PostalAddress': { 'cbc:StreetName': street, 'cbc:CityName': town, 'cbc:PostalZone': postcode, 'cac:Country': { 'cbc:IdentificationCode': country } },
      ...(taxNumber ? { 'cac:PartyTaxScheme': { 'cbc:CompanyID': taxNumber, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } } } : {}),
      'cac:PartyLegalEntity': { 'cbc:RegistrationName': who.name },
    },
  };
}

/** An invoice or a credit note as UBL 2.1, in the profile of EN 16931. */
export function writeInvoice(told: ToldInvoice, seller: InvoiceParty, buyer: InvoiceParty): string {
  const note = told.kind === 'credit_note';
  const money = (amount: string) => ({ '@currencyID': told.currency, '#text': amount });
  const category = (row: { readonly category: string; readonly percent: string; readonly reason?: string }) => ({
    'cbc:ID': row.category,
    'cbc:Percent': row.percent,
    ...(row.reason ? { 'cbc:TaxExemptionReason': row.reason } : {}),
    'cac:TaxScheme': { 'cbc:ID': 'VAT' },
  });
  return writeXml(note ? 'CreditNote' : 'Invoice', {
    'cbc:CustomizationID': PROFILE,
    'cbc:ID': told.number,
    'cbc:IssueDate': told.day,
    ...(note ? {} : { 'cbc:DueDate': told.dueDay }),
    // 380: commercial invoice, 381: credit note. Source: UN/CEFACT code list 1001 (from memory).
    [note ? 'cbc:CreditNoteTypeCode' : 'cbc:InvoiceTypeCode']: note ? '381' : '380',
    'cbc:DocumentCurrencyCode': told.currency,
    ...(told.credits
      ? { 'cac:BillingReference': { 'cac:InvoiceDocumentReference': { 'cbc:ID': told.credits.number, 'cbc:IssueDate': told.credits.day } } }
      : {}),
    'cac:AccountingSupplierParty': fullParty(seller),
    'cac:AccountingCustomerParty': fullParty(buyer),
    ...(note ? {} : { 'cac:PaymentMeans': { 'cbc:PaymentMeansCode': '30', 'cbc:PaymentID': told.reference } }),
    ...(told.terms ? { 'cac:PaymentTerms': { 'cbc:Note': told.terms } } : {}),
    'cac:TaxTotal': {
      'cbc:TaxAmount': money(told.tax),
      'cac:TaxSubtotal': told.taxes.map((row) => ({ 'cbc:TaxableAmount': money(row.base), 'cbc:TaxAmount': money(row.tax), 'cac:TaxCategory': category(row) })),
    },
    'cac:LegalMonetaryTotal': {
      'cbc:LineExtensionAmount': money(told.net),
      'cbc:TaxExclusiveAmount': money(told.net),
      'cbc:TaxInclusiveAmount': money(told.total),
      ...(Number(told.paid) > 0 ? { 'cbc:PrepaidAmount': money(told.paid) } : {}),
      'cbc:PayableAmount': money(dueOf(told, told.currency)),
    },
    [note ? 'cac:CreditNoteLine' : 'cac:InvoiceLine']: told.lines.map((line) => ({
      'cbc:ID': line.id,
      [note ? 'cbc:CreditedQuantity' : 'cbc:InvoicedQuantity']: { '@unitCode': line.unit, '#text': line.quantity },
      'cbc:LineExtensionAmount': money(line.amount),
      'cac:Item': { 'cbc:Name': line.text, 'cac:ClassifiedTaxCategory': category({ category: line.category, percent: line.percent }) },
      'cac:Price': { 'cbc:PriceAmount': money(line.price) },
    })),
  });
}
