import type { CustomerId } from '@nockwright/core/ids';
import type { Amount } from '@nockwright/core/money';
import { amount, day, decimal, flag, get, id, integer, list, note, nullable, object, oneOf, OFFICE, optional, post, put, text, type Of } from '../shape';
import { billingRule } from './invoices';

const MONEY = ['finance', 'manager'] as const;

/** What of a payment goes to an invoice, and what is taken off it as discount. */
const settled = object({ invoice: id(), amount: amount(), discount: amount() });
export type SettledWish = Of<typeof settled>;

const open = object({
  id: id(),
  number: text(),
  day: day(),
  dueDay: day(),
  total: decimal<Amount>(),
  open: decimal<Amount>(),
  overdue: flag(),
  /** What may be taken off it today, and until when. */
  discount: decimal<Amount>(),
  discountUntil: nullable(day()),
});
export type OpenInvoiceView = Of<typeof open>;

const payment = object({
  id: id(),
  day: day(),
  method: oneOf('bank', 'card', 'cash', 'cheque'),
  amount: decimal<Amount>(),
  onAccount: decimal<Amount>(),
  reference: note(140),
  /** The order it is for: what of it is on account goes to the invoices of that order. */
  order: nullable(object({ id: id(), number: text() })),
  reversed: note(300),
  invoices: list(object({ id: id(), number: text(), amount: decimal<Amount>() })),
});
export type PaymentView = Of<typeof payment>;

/** What a customer owes: by age, invoice by invoice, and what they paid. */
const money = object({
  customerId: id<CustomerId>(),
  number: text(),
  name: text(),
  currency: text(),
  /** Open invoices less what is on account and credit notes that are not used up. */
  balance: decimal<Amount>(),
  onAccount: decimal<Amount>(),
  /** Open by days overdue: not yet, up to 30, up to 60, up to 90, above. */
  ages: list(object({ name: text(), amount: decimal<Amount>() })),
  invoices: list(open),
  /** Orders that credit holds, which a payment may let go. */
  held: list(object({ id: id(), number: text(), since: day(), total: decimal<Amount>() })),
  /** Credit notes that are not used up. */
  credits: list(object({ id: id(), number: text(), day: day(), open: decimal<Amount>() })),
  payments: list(payment),
  /** What was given back. */
  refunds: list(object({ id: id(), day: day(), method: oneOf('bank', 'card', 'cash', 'cheque'), amount: decimal<Amount>(), reason: note(300), of: text() })),
  terms: object({
    version: integer(1),
    billingRule,
    billingValue: nullable(decimal<Amount>()),
    termsKind: oneOf('net', 'month_end'),
    termsDays: integer(),
    discountPercent: decimal(),
    discountDays: integer(),
    taxNumber: note(40),
    taxExemption: note(200),
  }),
});
export type MoneyView = Of<typeof money>;

const who = object({ customer: id<CustomerId>() });

export const paymentRoutes = {
  readMoney: get('/customers/{customer}/money', {
    summary: 'What a customer owes by age and invoice, what they paid, and how they are billed',
    roles: OFFICE,
    params: who,
    reply: money,
  }),
  statement: get('/customers/{customer}/statement', {
    summary: 'A statement of account as PDF: what is open and overdue, and what is on account',
    roles: OFFICE,
    params: who,
    media: 'application/pdf',
  }),
  proposePayment: get('/customers/{customer}/payments/proposal', {
    summary: 'Where a payment would go: the invoice it fits to the cent, or those due first',
    roles: OFFICE,
    params: who,
    query: object({ amount: amount(), day: optional(day()) }),
    reply: object({ settled: list(settled), onAccount: decimal<Amount>() }),
  }),
  recordPayment: post('/customers/{customer}/payments', {
    summary: 'Record a payment and where it goes; what is left of it stays on account',
    roles: MONEY,
    params: who,
    body: object({
      day: day(),
      method: oneOf('bank', 'card', 'cash', 'cheque'),
      amount: amount(),
      reference: note(140),
      /** The number of the order it is a deposit for. */
      order: optional(note(20)),
      settled: list(settled, 0, 200),
    }),
    reply: money,
  }),
  applyPayment: post('/payments/{payment}/apply', {
    summary: 'Settle invoices with what of a payment is on account',
    roles: MONEY,
    params: object({ payment: id() }),
    body: object({ settled: list(settled, 1, 200) }),
    reply: money,
  }),
  applyCredit: post('/invoices/{invoice}/apply', {
    summary: 'Settle open invoices with what is left of a credit note',
    roles: MONEY,
    params: object({ invoice: id() }),
    body: object({ settled: list(settled, 1, 200) }),
    reply: money,
  }),
  reversePayment: post('/payments/{payment}/reverse', {
    summary: 'A payment did not come in after all, or its bank took it back: what it settled is open again',
    roles: MONEY,
    params: object({ payment: id() }),
    /** `fee`: what our bank takes for it. */
    body: object({ reason: text(300), chargeback: optional(flag()), fee: optional(amount()) }),
    reply: money,
  }),
  refundCustomer: post('/customers/{customer}/refunds', {
    summary: 'Give money back: of what is on account, the newest payment first, or of a credit note that is not used up',
    roles: MONEY,
    params: who,
    body: object({ amount: amount(), method: oneOf('bank', 'card', 'cash', 'cheque'), credit: optional(id()), reason: text(300) }),
    reply: money,
  }),
  setBilling: put('/customers/{customer}/billing', {
    summary: 'How a customer is billed: when, at which terms, with which tax',
    roles: MONEY,
    params: who,
    body: object({
      version: integer(1),
      billingRule,
      billingValue: nullable(amount()),
      termsKind: oneOf('net', 'month_end'),
      termsDays: integer(0, 180),
      discountPercent: amount(),
      discountDays: integer(0, 180),
      taxNumber: note(40),
      taxExemption: note(200),
    }),
    reply: money,
  }),
  listTaxClasses: get('/tax-classes', {
    summary: 'Classes of items by the tax on them',
    roles: OFFICE,
    reply: list(object({ code: text(20), name: text(60), percent: decimal() })),
  }),
  setTaxClass: put('/tax-classes', {
    summary: 'Another rate or name for a class; invoices that are issued stay',
    roles: ['manager'],
    body: object({ code: text(20), name: text(60), percent: amount() }),
    reply: list(object({ code: text(20), name: text(60), percent: decimal() })),
  }),
};
