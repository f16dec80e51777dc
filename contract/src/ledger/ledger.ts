import type { Amount } from '@nockwright/core/money';
import { day, decimal, flag, get, id, integer, list, note, nullable, object, oneOf, optional, post, text, type Of } from '../shape';

const MONEY = ['finance', 'manager'] as const;

const account = object({
  code: text(),
  name: text(),
  kind: oneOf('asset', 'liability', 'equity', 'income', 'expense'),
  debit: decimal<Amount>(),
  credit: decimal<Amount>(),
  /** Debit less credit. */
  balance: decimal<Amount>(),
});
export type AccountRow = Of<typeof account>;

const line = object({ account: text(), name: text(), item: note(40), percent: nullable(decimal()), debit: decimal<Amount>(), credit: decimal<Amount>() });

const entry = object({
  id: id(),
  day: day(),
  postedAt: text(),
  kind: oneOf(
    'opening',
    'receipt',
    'shipment',
    'transfer',
    'assembly',
    'count',
    'adjustment',
    'drop_ship',
    'transfer_lost',
    'invoice',
    'credit_note',
    'payment',
    'payment_reversed',
    'settlement',
    'supplier_invoice',
    'supplier_paid',
    'refund',
  ),
  reference: note(140),
  /** The paper it is of; null: it has none. */
  paper: nullable(object({ kind: oneOf('invoice', 'order', 'purchase', 'transfer', 'assembly', 'customer', 'item', 'supplier_invoice'), key: text() })),
  lines: list(line),
});
export type EntryRow = Of<typeof entry>;

const side = object({ label: text(), ledger: decimal<Amount>(), books: decimal<Amount>(), difference: decimal<Amount>() });
const check = object({ name: text(), what: text(), ledger: decimal<Amount>(), books: decimal<Amount>(), different: integer(), rows: list(side) });
const reconciliation = object({ currency: text(), checks: list(check) });
export type Reconciliation = Of<typeof reconciliation>;

const month = object({ month: day(), entries: integer(), closed: nullable(object({ at: text(), by: text() })), closable: flag() });
export type LedgerMonth = Of<typeof month>;

const found = {
  account: optional(text(20)),
  from: optional(day()),
  to: optional(day()),
  q: optional(text(100)),
};

export const ledgerRoutes = {
  readAccounts: get('/ledger/accounts', {
    summary: 'Every account with its debits, credits and balance, up to a day',
    roles: MONEY,
    query: object({ to: optional(day()) }),
    reply: object({ currency: text(), accounts: list(account) }),
  }),
  listEntries: get('/ledger/entries', {
    summary: 'Entries of the ledger, newest first, a page at a time: of an account, of days, or of a paper',
    roles: MONEY,
    query: object({ ...found, before: optional(id()) }),
    reply: object({ entries: list(entry), more: flag() }),
  }),
  exportEntries: get('/ledger/export', {
    summary: 'The lines of the ledger between two days as comma-separated values, in the sequence in which they were posted',
    roles: MONEY,
    query: object({ from: optional(day()), to: optional(day()) }),
    media: 'text/csv',
  }),
  reconcile: get('/ledger/reconciliation', {
    summary: 'The ledger beside the books it is posted from: what differs, and by how much',
    roles: MONEY,
    reply: reconciliation,
  }),
  listMonths: get('/ledger/months', { summary: 'The months of the ledger, and which are closed', roles: MONEY, reply: list(month) }),
  closeMonth: post('/ledger/months', {
    summary: 'Close a month that is over: nothing is posted in it any more. Refused while something does not reconcile',
    roles: MONEY,
    body: object({ month: day() }),
    reply: list(month),
  }),
};
