import type { CustomerId, LineId, OrderId } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { awaited, day, decimal, email, flag, id, integer, list, moment, note, nullable, object, oneOf, optional, text, type Of } from '../shape';
import { routeWish } from './route-shapes';

export const CONSENT_STATES = ['open', 'accepted', 'refused', 'part', 'withdrawn'] as const;

/** A question to the customer about a way for a line, and what became of it. */
export const consentView = object({
  id: id(),
  order: id<OrderId>(),
  number: text(),
  /** Null once the line was taken off a draft. */
  line: nullable(id<LineId>()),
  lineNo: nullable(integer()),
  item: nullable(text()),
  customer: text(),
  customerId: id<CustomerId>(),
  contact: note(),
  phone: note(),
  quantity: decimal<Quantity>(),
  parts: list(routeWish),
  question: text(1000),
  state: oneOf(...CONSENT_STATES),
  /** The last day an answer is looked for. */
  answerBy: day(),
  overdue: flag(),
  onNo: oneOf('cancel', 'reroute'),
  byMail: flag(),
  askedAt: moment(),
  askedBy: text(),
  answeredAt: nullable(moment()),
  answeredHow: nullable(oneOf('link', 'phone')),
  taken: nullable(decimal<Quantity>()),
  note: note(500),
  outcome: note(1000),
  /** Somebody has to look: the answer could not be acted on, or there is none and its day has passed. */
  needsWork: flag(),
});
export type ConsentView = Of<typeof consentView>;

export const consentWish = object({
  parts: list(routeWish, 1, 3),
  /** Recipients of the mail; none: they are asked by phone. */
  recipients: list(email(), 0, 5),
  question: text(1000),
  answerBy: day(),
  onNo: oneOf('cancel', 'reroute'),
});
export type ConsentWish = Of<typeof consentWish>;

export const consentAnswer = object({
  answer: oneOf('accept', 'refuse', 'part'),
  /** How much they take, in stocking units, where that is a part. */
  taken: optional(awaited()),
  note: optional(note(500)),
});
export type ConsentAnswer = Of<typeof consentAnswer>;
