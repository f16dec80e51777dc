import type { ItemCode, PurchaseId, PurchaseLineId, SupplierCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import {
  amount,
  code,
  day,
  decimal,
  flag,
  get,
  id,
  integer,
  list,
  note,
  nullable,
  object,
  oneOf,
  optional,
  pasted,
  post,
  quantity,
  text,
  unitPrice,
  type Of,
} from '../shape';

const MONEY = ['finance', 'manager'] as const;
const MOST = 2_000_000;

const state = oneOf('held', 'accepted', 'refused', 'paid');
const row = object({
  id: id(),
  supplier: code<SupplierCode>(),
  name: text(),
  number: text(40),
  day: day(),
  dueDay: day(),
  total: decimal<Amount>(),
  state,
  /** How many things do not match. */
  differs: integer(),
});
export type SupplierInvoiceRow = Of<typeof row>;

const finding = object({
  kind: oneOf('quantity', 'price', 'freight', 'total'),
  lineNo: optional(integer()),
  item: optional(code<ItemCode>()),
  by: decimal(),
  cost: optional(decimal<UnitPrice>()),
  price: optional(decimal<UnitPrice>()),
});

const line = object({
  lineNo: integer(),
  purchase: id<PurchaseId>(),
  purchaseNumber: text(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  quantity: decimal<Quantity>(),
  price: decimal<UnitPrice>(),
  amount: decimal<Amount>(),
  /** What was agreed, what came, and what is on other invoices. */
  cost: decimal<UnitPrice>(),
  received: decimal<Quantity>(),
  invoiced: decimal<Quantity>(),
});

const invoice = object({
  id: id(),
  version: integer(1),
  supplier: code<SupplierCode>(),
  name: text(),
  number: text(40),
  day: day(),
  dueDay: day(),
  currency: text(),
  net: decimal<Amount>(),
  freight: decimal<Amount>(),
  tax: decimal<Amount>(),
  total: decimal<Amount>(),
  state,
  file: note(200),
  reason: note(300),
  paidDay: nullable(day()),
  findings: list(finding),
  /** Whether it may be accepted as it stands. */
  acceptable: flag(),
  lines: list(line),
});
export type SupplierInvoiceView = Of<typeof invoice>;

const invoiceable = object({
  line: id<PurchaseLineId>(),
  purchase: id<PurchaseId>(),
  purchaseNumber: text(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  /** What came and is on no invoice. */
  quantity: decimal<Quantity>(),
  cost: decimal<UnitPrice>(),
});
export type InvoiceableLine = Of<typeof invoiceable>;

const one = object({ payable: id() });
const decided = object({ version: integer(1), reason: note(300) });

export const payableRoutes = {
  listSupplierInvoices: get('/supplier-invoices', {
    summary: 'Suppliers’ invoices, newest first: those that are held, accepted, refused or paid',
    roles: MONEY,
    query: object({ state: optional(oneOf('held', 'accepted', 'refused', 'paid', 'all')), q: optional(text(100)), before: optional(id()) }),
    reply: object({ rows: list(row), more: flag(), owed: decimal<Amount>(), currency: text() }),
  }),
  readSupplierInvoice: get('/supplier-invoices/{payable}', {
    summary: 'A supplier’s invoice beside what was ordered and what came',
    roles: MONEY,
    params: one,
    reply: invoice,
  }),
  listInvoiceable: get('/suppliers/{supplier}/invoiceable', {
    summary: 'What came from a supplier and is on no invoice',
    roles: MONEY,
    params: object({ supplier: code<SupplierCode>() }),
    reply: list(invoiceable),
  }),
  enterSupplierInvoice: post('/supplier-invoices', {
    summary: 'Enter a supplier’s invoice; it is accepted at once where it matches what was ordered and what came',
    roles: MONEY,
    body: object({
      supplier: code<SupplierCode>(),
      number: text(40),
      day: day(),
      dueDay: day(),
      freight: amount(),
      tax: amount(),
      total: amount(),
      lines: list(object({ line: id<PurchaseLineId>(), quantity: quantity(), price: unitPrice() }), 1, 500),
    }),
    reply: invoice,
  }),
  addSupplierInvoiceFile: post('/supplier-invoices/files', {
    summary: 'Take in a supplier’s invoice as UBL 2.1; it is accepted at once where it matches',
    roles: MONEY,
    body: object({ name: text(200), content: pasted(MOST) }),
    reply: invoice,
  }),
  acceptSupplierInvoice: post('/supplier-invoices/{payable}/accept', {
    summary: 'Accept an invoice whose prices or freight differ, with why; what it is dearer goes to the cost of its goods',
    roles: MONEY,
    params: one,
    body: decided,
    reply: invoice,
  }),
  refuseSupplierInvoice: post('/supplier-invoices/{payable}/refuse', {
    summary: 'Refuse an invoice, with why: another one of its number can be taken',
    roles: MONEY,
    params: one,
    body: object({ version: integer(1), reason: text(300) }),
    reply: invoice,
  }),
  paySupplierInvoice: post('/supplier-invoices/{payable}/pay', {
    summary: 'Record that an accepted invoice was paid',
    roles: MONEY,
    params: one,
    body: object({ version: integer(1), day: day() }),
    reply: invoice,
  }),
};
