import type { CustomerId, ItemCode, LineId, WarehouseCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { code, day, decimal, flag, get, id, integer, list, moment, note, nullable, object, oneOf, optional, post, put, ROLES, text, type Of } from '../shape';
import { accepting, decision, offersView, part, rippleView } from './ripple';

const buyers = ['coordinator', 'manager'] as const;

const lateness = object({ lateLines: integer(), lateDays: integer(), lateValue: text(30), withoutDay: integer() });
export type LatenessView = Of<typeof lateness>;

const run = object({
  id: id(),
  state: oneOf('running', 'done', 'stopped', 'failed', 'accepted'),
  startedAt: moment(),
  startedBy: text(),
  endedAt: nullable(moment()),
  /** Groups of linked pools that are done, of how many. */
  done: integer(),
  total: integer(),
  message: note(),
  before: nullable(lateness),
  after: nullable(lateness),
  customers: list(object({ customer: text(), before: lateness, after: lateness })),
  ripple: rippleView,
});
export type ResequenceRun = Of<typeof run>;

const runId = object({ run: id() });

const confidence = object({ customer: nullable(id<CustomerId>()), confidence: nullable(integer(50, 99)) });

const check = object({
  day: day(),
  /** The day all of it can leave; null while a line is not wholly covered. */
  complete: nullable(day()),
  lines: list(
    object({
      item: code<ItemCode>(),
      quantity: decimal<Quantity>(),
      schedule: list(part),
      uncovered: decimal<Quantity>(),
      daysLate: nullable(integer()),
      say: text(1000),
    }),
  ),
});
export type PromiseCheck = Of<typeof check>;

export const promiseRoutes = {
  checkPromise: get('/promise', {
    summary: 'What an order would be promised if it were released now; lines as `JAR-340:120,LID-063:120` in stocking units',
    query: object({ warehouse: code<WarehouseCode>(), day: optional(day()), lines: text(6000), priority: optional(integer(1, 9)), complete: optional(flag()) }),
    reply: check,
  }),
  readConfidence: get('/confidence', {
    roles: ROLES,
    summary: 'How sure promises are made to customers without a wish of their own, in percent; null: by the supplier’s day',
    reply: object({ confidence: nullable(integer(50, 99)) }),
  }),
  setConfidence: put('/confidence', {
    summary: 'How sure promises must be, in percent: to a customer, or to all without one of their own (customer null)',
    roles: buyers,
    body: confidence,
    reply: confidence,
  }),
  listOffers: get('/offers', {
    summary: 'What could be promised or brought forward now without making anybody later; `accept` shows some of it done',
    query: object({ accept: accepting, most: optional(integer(1, 2000)) }),
    reply: offersView,
  }),
  acceptOffers: post('/offers', {
    summary: 'Promise and bring forward what was chosen, as it was seen',
    roles: buyers,
    body: object({ decision }),
    reply: rippleView,
  }),
  startResequence: post('/resequence', { summary: 'Promise the whole book anew, to look at; nothing moves yet', roles: buyers, body: object({}), reply: run }),
  readResequence: get('/resequence', { summary: 'The last run', reply: nullable(run) }),
  stopResequence: post('/resequence/{run}/stop', { summary: 'Stop a run', roles: buyers, params: runId, body: object({}), reply: run }),
  previewChoice: get('/resequence/{run}/choice', {
    summary: 'What it would do to all if only some lines took their turn anew',
    params: runId,
    query: object({ lines: note(14_000) }),
    reply: rippleView,
  }),
  acceptResequence: post('/resequence/{run}/accept', {
    summary: 'Move the promises: of all, or of the lines that were chosen, as it was seen',
    roles: buyers,
    params: runId,
    body: object({ all: flag(), lines: list(id<LineId>()), decision: optional(decision) }),
    reply: run,
  }),
};
