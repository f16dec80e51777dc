export { matchInvoice, type InvoiceMatch, type InvoicedLine, type MatchFacts, type MatchFinding } from './match-invoice';
