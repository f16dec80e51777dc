export { payableRoutes, type InvoiceableLine, type SupplierInvoiceRow, type SupplierInvoiceView } from './payables';
