import { finding } from '../history';
import { code, flag, get, id, integer, list, moment, note, nullable, object, oneOf, optional, post, put, text, type Of, type Shape } from '../shape';

/** What went to a supplier or came from them as a file. */
export const message = object({
  id: id(),
  supplier: object({ code: code(), name: text() }),
  direction: oneOf('out', 'in'),
  kind: oneOf('order', 'cancellation', 'order_response', 'despatch_advice', 'unreadable'),
  purchase: nullable(object({ id: id(), number: text() })),
  number: text(),
  /** Held: it would change more than may hold by itself; a person decides. */
  state: oneOf('waiting', 'written', 'taken', 'held', 'refused'),
  /** What is not as ordered, or why it was refused. */
  findings: list(finding),
  /** Order lines whose promises it left at risk. */
  hurts: list(id()),
  needsLook: flag(),
  at: moment(),
});
export type MessageView = Of<typeof message>;

/**
 * What a supplier of the stand-in does with an order: answers as asked, later, with fewer, dearer; says two weeks later after it
 * had agreed; ships short; refuses; says nothing. `away`: the stand-in leaves the folder to a real partner.
 */
export const HABITS = ['as_asked', 'later', 'fewer', 'dearer', 'slips', 'short_ships', 'refuses', 'silent', 'away'] as const;
export type Habit = (typeof HABITS)[number];

const standIn = object({
  /** Between getting an order, answering it, and each thing after. */
  seconds: integer(0, 86_400),
  suppliers: list(object({ code: code(), name: text(), exchanges: flag(), habit: oneOf(...HABITS) as Shape<Habit> })),
});
export type StandInView = Of<typeof standIn>;

const buyers = ['coordinator', 'manager'] as const;

export const exchangeFileRoutes = {
  listMessages: get('/messages', {
    summary: 'What went to suppliers and came from them as files, newest first',
    query: object({ search: optional(note(100)), which: optional(oneOf('look', 'all')), before: optional(id()) }),
    reply: object({ rows: list(message), next: nullable(id()), toLook: integer() }),
  }),
  readExchangeFile: get('/messages/{message}/file', {
    summary: 'The file as it went or came, UBL 2.1',
    params: object({ message: id() }),
    media: 'application/xml',
  }),
  lookedAt: post('/messages/{message}/looked-at', {
    summary: 'Somebody has seen to what a supplier answered',
    roles: buyers,
    params: object({ message: id() }),
    reply: message,
  }),
  decideAnswer: post('/messages/{message}/decision', {
    summary: 'Take an answer that waits, as it is, or leave everything as it was ordered',
    roles: buyers,
    params: object({ message: id() }),
    body: object({ take: flag() }),
    reply: message,
  }),
  readStandIn: get('/supplier-stand-in', { summary: 'How the stand-in for suppliers answers', reply: standIn }),
  setStandIn: put('/supplier-stand-in', {
    summary: 'Set how fast the stand-in answers, and what each supplier does with an order',
    roles: ['manager'],
    body: object({
      seconds: integer(0, 86_400),
      suppliers: list(object({ code: code(), exchanges: flag(), habit: oneOf(...HABITS) as Shape<Habit> }), 0, 500),
    }),
    reply: standIn,
  }),
};
