/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests. */
export { billNext, issueInvoice } from './issue-invoice';
export { proposePayment, recordPayment } from './payments';
export { setBilling, setTaxClass } from './billing-terms';
export { loadBillable } from './load-billable';
