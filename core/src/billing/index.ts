export type { BillTo } from './bill-to';
export { billedUpTo, isDue, type BillingRule } from './billing-due';
export { billLines, type BilledShipment, type InvoiceLine, type ShippedLine } from './bill-lines';
export { decideCredit, type CreditableLine, type CreditDecision, type CreditedLine, type CreditWish } from './credit';
export { creditorReference, isCreditorReference, isIban, mod97 } from './mod97';
export { brokenRules, dueOf, type BrokenRule, type ToldInvoice } from './rules';
export { DISCOUNT_GRACE_DAYS, discountOn, proposeSettlement, settlementFaults, type OpenInvoice, type Settled, type Settlement } from './settle';
export { taxFor, type LineTax, type TaxCategory, type TaxFacts } from './tax';
export {
  daysInWords,
  daysSalesOutstanding,
  discountOf,
  discountUntil,
  dueDay,
  payableInWords,
  termsInWords,
  yearlyCostOfDiscount,
  type PaymentTerms,
} from './terms';
export { invoiceTotals, type InvoiceTotals, type TaxedLine, type TaxTotal } from './totals';
