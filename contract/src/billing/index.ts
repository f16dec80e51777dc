export { invoiceRoutes, type BillableRow, type InvoicePreview, type InvoiceRow, type InvoiceView } from './invoices';
export { paymentRoutes, type MoneyView, type OpenInvoiceView, type PaymentView, type SettledWish } from './payments';
export { bankRoutes, type BankEntryView, type BankProposal } from './bank';
