import type { CustomerId, MailId, OrderId } from '@nockwright/core/ids';
import { orderView } from '../orders';
import { email, flag, get, id, integer, list, moment, note, nullable, object, oneOf, optional, post, put, text, type Of } from '../shape';

const MAIL_STATES = ['waiting', 'sent', 'failed'] as const;
const DESK = ['coordinator', 'manager'] as const;

const row = object({
  id: id(),
  about: object({ kind: oneOf('order', 'purchase'), id: id(), label: text(), name: text() }),
  /** Null: a question without a paper. */
  paper: nullable(object({ id: id(), kind: oneOf('acknowledgement', 'quote', 'pro_forma', 'purchase', 'packing_list', 'invoice') })),
  recipients: list(text()),
  /** What became of each of them, as far as it is known. */
  fates: list(object({ address: text(), taken: flag(), why: note(300) })),
  subject: text(500),
  state: oneOf(...MAIL_STATES),
  attempts: integer(),
  /** Why the last attempt failed. */
  fault: note(1000),
  by: text(),
  at: moment(),
  sentAt: nullable(moment()),
});
export type MailRow = Of<typeof row>;

/** `before`: the id of the last row, for the page behind it. */
const rows = object({ rows: list(row), next: nullable(id()), waiting: integer(), failed: integer() });
export type MailList = Of<typeof rows>;

const mail = object({
  row,
  body: note(10_000),
  attachments: list(object({ name: text(), href: text(500) })),
  /** It went over the wire as this message; null until then. */
  message: nullable(text(500)),
});
export type MailView = Of<typeof mail>;

const postOffice = object({ open: flag() });

export const mailRoutes = {
  mailPaper: post('/orders/{order}/mail', {
    summary: 'Mail a paper of an order, with files of it; it waits in the outbox until the post office has taken it',
    roles: DESK,
    params: object({ order: id<OrderId>() }),
    body: object({
      paper: id(),
      recipients: list(email(), 1, 10),
      subject: text(200),
      text: note(10_000),
      files: list(id(), 0, 20),
    }),
    reply: orderView,
  }),
  listMail: get('/mail', {
    summary: 'What was mailed, newest first',
    query: object({ search: optional(note(100)), customer: optional(id<CustomerId>()), state: optional(oneOf(...MAIL_STATES, 'all')), before: optional(id()) }),
    reply: rows,
  }),
  readMail: get('/mail/{mail}', { summary: 'A mail with its text and attachments', params: object({ mail: id<MailId>() }), reply: mail }),
  readMessage: get('/mail/{mail}/message', {
    summary: 'A mail as it went over the wire, RFC 5322, to be saved',
    params: object({ mail: id<MailId>() }),
    media: 'message/rfc822',
  }),
  retryMail: post('/mail/{mail}/retry', {
    summary: 'Try a mail again now; other recipients may be given',
    roles: DESK,
    params: object({ mail: id<MailId>() }),
    body: object({ recipients: optional(list(email(), 1, 10)) }),
    reply: mail,
  }),
  readPostOffice: get('/post-office', { summary: 'Whether the stand-in post office takes mail', reply: postOffice }),
  setPostOffice: put('/post-office', {
    summary: 'Open or close the stand-in post office: to see what becomes of mail it does not take',
    roles: ['manager'],
    body: postOffice,
    reply: postOffice,
  }),
};
