import type { CustomerId, LineId, OrderId } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { awaited, day, decimal, email, flag, id, integer, list, moment, note, nullable, object, oneOf, optional, text, type Of } from '../shape';
import { partWords } from '../history';
import { routeWish } from './route-shapes';

export const CONSENT_STATES = ['open', 'accepted', 'refused', 'part', 'withdrawn'] as const;

/** What was done after an answer: the parts that were taken, what is still owed a way, or why it could not be done; `words` of one from before there were facts. */
const consentOutcome = object({ done: list(routeWish), owed: nullable(decimal<Quantity>()), failed: nullable(note(1000)), words: optional(note(1000)) });
export type ConsentOutcome = Of<typeof consentOutcome>;

/** `done: 12 special order from SLOW; 4 need another way`. */
export function outcomeWords({ done, owed, failed, words }: ConsentOutcome): string {
  if (words !== undefined) return words;
  if (failed !== null) return `could not be done: ${failed}`;
  return [...(done.length > 0 ? [`done: ${done.map(partWords).join(', ')}`] : []), ...(owed === null ? [] : [`${owed} need another way`])].join('; ');
}

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
  outcome: nullable(consentOutcome),
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
