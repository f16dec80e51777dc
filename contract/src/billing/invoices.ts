import type { CustomerId, ItemCode, OrderId, ShipmentId } from '@nockwright/core/ids';
import type { Amount } from '@nockwright/core/money';
import {
  amount,
  code,
  day,
  decimal,
  flag,
  get,
  history,
  id,
  integer,
  list,
  note,
  nullable,
  object,
  oneOf,
  OFFICE,
  optional,
  post,
  quantity,
  text,
  unitPrice,
  type Of,
} from '../shape';

const MONEY = ['finance', 'manager'] as const;
export const billingRule = oneOf('shipment', 'daily', 'weekly', 'monthly', 'value');

/** What has left for a customer and is on no invoice. */
const billable = object({
  customer: text(),
  customerId: id<CustomerId>(),
  rule: billingRule,
  /** By the customer's rule it is billed today. */
  due: flag(),
  currency: text(),
  net: decimal<Amount>(),
  /** Since when the oldest of it waits. */
  since: day(),
  shipments: list(
    object({
      id: id<ShipmentId>(),
      number: text(),
      order: id<OrderId>(),
      orderNumber: text(),
      poNumber: note(),
      day: day(),
      lines: integer(),
      freight: decimal<Amount>(),
      net: decimal<Amount>(),
    }),
  ),
});
export type BillableRow = Of<typeof billable>;

const category = oneOf('S', 'Z', 'E', 'G');
const tax = object({ category, percent: decimal(), reason: note(300), base: decimal<Amount>(), tax: decimal<Amount>() });

const line = object({
  id: id(),
  lineNo: integer(),
  kind: oneOf('goods', 'freight'),
  order: nullable(id<OrderId>()),
  orderNumber: note(),
  shipment: note(),
  item: nullable(code<ItemCode>()),
  /** What the customer calls it; empty: as we do. */
  theirCode: note(),
  text: text(300),
  quantity: decimal(),
  unit: text(),
  price: decimal(),
  amount: decimal<Amount>(),
  category,
  percent: decimal(),
  /** What was credited of it. */
  credited: decimal<Amount>(),
});

/** What an invoice over some shipments would say. */
const preview = object({
  customer: text(),
  customerId: id<CustomerId>(),
  currency: text(),
  dueDay: day(),
  payable: text(400),
  lines: list(line),
  taxes: list(tax),
  net: decimal<Amount>(),
  tax: decimal<Amount>(),
  total: decimal<Amount>(),
});
export type InvoicePreview = Of<typeof preview>;

/** What names an invoice or a credit note, and what is open of it. */
const heading = {
  id: id(),
  kind: oneOf('invoice', 'credit_note'),
  number: text(),
  customer: text(),
  customerId: id<CustomerId>(),
  day: day(),
  dueDay: day(),
  currency: text(),
  total: decimal<Amount>(),
  open: decimal<Amount>(),
  overdue: flag(),
};

const invoice = object({
  ...heading,
  terms: note(200),
  payable: note(400),
  reference: note(40),
  net: decimal<Amount>(),
  tax: decimal<Amount>(),
  paid: decimal<Amount>(),
  /** The invoice a credit note corrects, and why. */
  credits: nullable(object({ id: id(), number: text() })),
  reason: note(300),
  /** Credit notes to it. */
  notes: list(object({ id: id(), number: text(), day: day(), total: decimal<Amount>() })),
  lines: list(line),
  taxes: list(tax),
  settlements: list(
    object({
      kind: oneOf('payment', 'discount', 'credit', 'write_off'),
      day: day(),
      amount: decimal<Amount>(),
      payment: nullable(id()),
      /** The credit note, or the invoice a credit note went to. */
      other: nullable(object({ id: id(), number: text() })),
      reason: note(300),
    }),
  ),
  history,
});
export type InvoiceView = Of<typeof invoice>;

const row = object(heading);
export type InvoiceRow = Of<typeof row>;

const which = object({ invoice: id() });

export const invoiceRoutes = {
  listBillable: get('/billing/shipments', {
    summary: 'What has left and is on no invoice, by customer, what is due by their rule first',
    roles: OFFICE,
    query: object({ q: optional(note(100)) }),
    reply: list(billable),
  }),
  previewInvoice: get('/billing/preview', {
    summary: 'What an invoice over some shipments of a customer would say; shipments as `12,13`',
    roles: OFFICE,
    query: object({ shipments: text(4000) }),
    reply: preview,
  }),
  issueInvoice: post('/invoices', {
    summary: 'Issue an invoice over shipments of one customer, at the total that was seen',
    roles: MONEY,
    body: object({ shipments: list(id<ShipmentId>(), 1, 500), total: decimal<Amount>() }),
    reply: invoice,
  }),
  billNext: post('/billing/next', {
    summary:
      'Issue the invoice of the next customer who is due by their rule; null: nobody is. Called again and again it is a run, which can be stopped anywhere',
    roles: MONEY,
    body: object({}),
    reply: object({ invoice: nullable(object({ id: id(), number: text(), customer: text(), total: decimal<Amount>() })), left: integer() }),
  }),
  listInvoices: get('/invoices', {
    summary: 'Invoices and credit notes, newest first',
    roles: OFFICE,
    query: object({
      state: optional(oneOf('open', 'overdue', 'settled', 'all')),
      customer: optional(id<CustomerId>()),
      q: optional(note(100)),
      before: optional(id()),
    }),
    reply: object({
      rows: list(row),
      more: flag(),
      open: decimal<Amount>(),
      overdue: decimal<Amount>(),
      currency: text(),
      /** Days sales outstanding, today and 30 days ago; null where nothing was billed in the 90 days before. */
      outstanding: object({ now: nullable(decimal()), before: nullable(decimal()) }),
    }),
  }),
  readInvoice: get('/invoices/{invoice}', {
    summary: 'An invoice or a credit note with its lines, taxes and what was settled',
    roles: OFFICE,
    params: which,
    reply: invoice,
  }),
  invoicePaper: get('/invoices/{invoice}/paper', { summary: 'An invoice or a credit note as PDF', roles: OFFICE, params: which, media: 'application/pdf' }),
  invoiceUbl: get('/invoices/{invoice}/ubl', {
    summary: 'An invoice or a credit note as UBL 2.1 (EN 16931)',
    roles: OFFICE,
    params: which,
    media: 'application/xml',
  }),
  creditInvoice: post('/invoices/{invoice}/credit', {
    summary: 'Correct an invoice by a credit note: lines in whole or part, or something off their price; what is open of it is settled by it',
    roles: MONEY,
    params: which,
    body: object({
      lines: list(object({ line: id(), quantity: quantity(), /** Less for one; absent: its whole price. */ perUnit: optional(unitPrice()) }), 1, 500),
      reason: text(300),
    }),
    reply: invoice,
  }),
  writeOff: post('/invoices/{invoice}/write-off', {
    summary: 'Give up what is open of an invoice, or a part of it',
    roles: MONEY,
    params: which,
    body: object({ amount: amount(), reason: text(300) }),
    reply: invoice,
  }),
};
