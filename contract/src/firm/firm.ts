import { email, flag, get, history, integer, list, note, object, put, text, type Of } from '../shape';

const MANAGER = ['manager'] as const;

/** Where the firm is and how it is reached, as papers and mails say it. */
export const firmDetails = {
  name: text(80),
  /** What suppliers' programs call it, in the files exchanged with them. */
  code: text(20),
  street: note(100),
  postcode: note(20),
  town: note(60),
  country: note(2),
  phone: note(40),
  /** What mail comes from. */
  email: email(),
  taxNumber: note(40),
  /** GS1 company prefix, 7 to 10 digits: cartons are numbered from it; may be empty. */
  gs1Prefix: note(10),
  /** Stands at the foot of every paper, before the page number. */
  footer: note(160),
  /** Three letters of ISO 4217: all orders, invoices and purchases are in it. */
  currency: text(3),
};

/** Numbers that documents of a kind are given, one after the other. */
export const numberSeries = object({ name: text(40), prefix: note(8), next: integer(1) });
export type NumberSeries = Of<typeof numberSeries>;

const firm = object({
  ...firmDetails,
  email: note(254),
  version: integer(),
  /** Amounts stand in the currency: it cannot be changed any more. */
  currencySettled: flag(),
  series: list(numberSeries),
});
export type Firm = Of<typeof firm>;

export const firmRoutes = {
  readFirm: get('/firm', { summary: 'The firm as its papers, mails and files name it, and its number series', roles: MANAGER, reply: firm }),
  setFirm: put('/firm', {
    summary: 'Edit the firm; papers made before keep what they said',
    roles: MANAGER,
    body: object({ version: integer(), ...firmDetails }),
    reply: firm,
  }),
  setSeries: put('/firm/series', {
    summary: 'Edit the prefix or the next number of a series; no number is given twice',
    roles: MANAGER,
    body: object({ version: integer(), name: text(40), prefix: note(8), next: integer(1) }),
    reply: firm,
  }),
  firmHistory: get('/firm/history', { summary: 'What was changed of the firm', roles: MANAGER, reply: history }),
};
