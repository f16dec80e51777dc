import type { CustomerId } from '@nockwright/core/ids';
import type { Amount } from '@nockwright/core/money';
import { amount, day, decimal, flag, get, id, integer, list, note, nullable, object, oneOf, optional, pasted, post, text, type Of } from '../shape';

const MONEY = ['finance', 'manager'] as const;
/** The most signs a bank file may have. */
const MOST = 2_000_000;

const settled = object({ invoice: id(), number: text(), open: decimal<Amount>(), amount: decimal<Amount>(), discount: decimal<Amount>() });
const reason = object({ kind: oneOf('reference', 'number', 'amount', 'account', 'name', 'name_like', 'all_open'), invoice: optional(text()) });
const proposal = object({
  customer: id<CustomerId>(),
  name: text(),
  settled: list(settled),
  onAccount: decimal<Amount>(),
  why: list(reason),
  sure: flag(),
});
export type BankProposal = Of<typeof proposal>;

const entry = object({
  id: id(),
  day: day(),
  amount: decimal<Amount>(),
  direction: oneOf('in', 'out'),
  party: note(140),
  partyAccount: note(40),
  reference: note(140),
  text: note(2000),
  file: text(),
  state: oneOf('waiting', 'booked', 'set_aside'),
  why: note(300),
  /** Whose it was booked for. */
  customer: nullable(object({ id: id<CustomerId>(), name: text() })),
  /** Of whom it may be, the likeliest first. */
  proposals: list(proposal),
});
export type BankEntryView = Of<typeof entry>;

const one = object({ entry: id() });
const listed = object({ rows: list(entry), more: flag(), waiting: integer(), sure: integer(), currency: text() });

export const bankRoutes = {
  addBankFile: post('/bank/files', {
    summary: 'Take in a bank file: camt.053 of ISO 20022, or comma-separated values. A movement that is known is not taken twice',
    roles: MONEY,
    body: object({ name: text(200), content: pasted(MOST) }),
    reply: object({ found: integer(), added: integer() }),
  }),
  listBankEntries: get('/bank/entries', {
    summary: 'Movements on the bank account, those that wait with whose they may be and why',
    roles: MONEY,
    query: object({ state: optional(oneOf('waiting', 'booked', 'set_aside', 'all')), q: optional(text(100)), before: optional(id()) }),
    reply: listed,
  }),
  bookBankEntry: post('/bank/entries/{entry}/book', {
    summary: 'Record a movement as the payment of a customer, and where it goes',
    roles: MONEY,
    params: one,
    body: object({ customer: id<CustomerId>(), settled: list(object({ invoice: id(), amount: amount(), discount: amount() }), 0, 200) }),
    reply: object({ waiting: integer() }),
  }),
  bookSureEntries: post('/bank/sure', {
    summary: 'Record movements that are sure, of at most a hundred customers; says how many are left',
    roles: MONEY,
    body: object({}),
    reply: object({ booked: integer(), left: integer() }),
  }),
  setBankEntryAside: post('/bank/entries/{entry}/aside', {
    summary: 'Set a movement aside that is no payment of a customer, with why',
    roles: MONEY,
    params: one,
    body: object({ why: text(300) }),
    reply: object({ waiting: integer() }),
  }),
  takeBankEntryUp: post('/bank/entries/{entry}/up', {
    summary: 'Take up again what was set aside',
    roles: MONEY,
    params: one,
    body: object({}),
    reply: object({ waiting: integer() }),
  }),
};
