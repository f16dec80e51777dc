import type { CustomerId, ItemCode, LineId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity } from '@nockwright/core/money';
import { dealing } from '../history';
import { accepting, rippleView } from '../promise';
import { code, day, decimal, flag, get, id, integer, list, note, nullable, object, oneOf, optional, post, put, text, uuid, type Of } from '../shape';
import { consentAnswer, consentView, consentWish } from './consent';
import { policyName, routeChoice, routeWish } from './route-shapes';

const row = object({
  order: id<OrderId>(),
  number: text(),
  line: id<LineId>(),
  lineNo: integer(),
  customer: text(),
  customerId: id<CustomerId>(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  warehouse: code<WarehouseCode>(),
  requested: day(),
  quantity: decimal<Quantity>(),
  value: decimal<Amount>(),
  /** `waiting`: not promised. `late`: promised, but its supply comes later. `broken`: promised, and no supply is left. */
  kind: oneOf('waiting', 'late', 'broken'),
  promisedDay: nullable(day()),
  /** The day it could leave now. */
  possibleDay: nullable(day()),
  daysLate: nullable(integer()),
  /** The supplier ships it to the customer, later than was told. */
  dropShip: flag(),
  /** Who sells the item, the cheapest first. */
  suppliers: list(text()),
  /** The customer has been asked, and has not answered. */
  asked: flag(),
});
export type ShortageRow = Of<typeof row>;

/** The first of all that is short, and what all of it comes to. */
const shortages = object({
  /** Most value first. */
  rows: list(row),
  count: integer(),
  value: decimal<Amount>(),
  /** The lines of all of it, each once, as far as they can be routed in one act. */
  lines: list(id<LineId>()),
  /** Of the lines asked about, those that are short. */
  chosen: list(id()),
});
export type Shortages = Of<typeof shortages>;

/** Lines that are routed in one act at most. */
export const MOST_ROUTED = 2000;

/** What would be done for each of many lines, and what it comes to. */
const planned = object({
  line: id<LineId>(),
  order: id<OrderId>(),
  /** Of the order as it was planned for. */
  version: integer(),
  number: text(),
  lineNo: integer(),
  customer: text(),
  item: code<ItemCode>(),
  unit: text(),
  quantity: decimal<Quantity>(),
  /** The best by the policy; null where there is no way but to wait without a day. */
  route: nullable(routeChoice),
  /** Drop shipments that are taken back from their suppliers by it, in words. */
  takesBack: list(text(300)),
});
export type PlannedRoute = Of<typeof planned>;

const gathered = object({
  kind: oneOf('purchase', 'drop_ship', 'transfer', 'assembly'),
  /** Supplier or warehouse it comes from, in words. */
  from: text(),
  to: text(),
  /** The draft that is joined; null: a new one. */
  joins: nullable(text()),
  lines: integer(),
  value: decimal<Amount>(),
  /** What is bought beyond the need, in words; and that it is below the supplier's minimum. */
  remarks: list(text(400)),
});
export type Gathered = Of<typeof gathered>;

const plan = object({
  rows: list(planned),
  gathered: list(gathered),
  /** Lines whose customer must be asked first: they are left out when the plan is done. */
  asks: integer(),
  /** Lines for which there is no way with a day. */
  without: integer(),
  ripple: rippleView,
});
export type RoutePlan = Of<typeof plan>;

const weights = object({
  latePercent: decimal(),
  shipmentCost: decimal<Amount>(),
  surplusPercent: decimal(),
  cutPercent: decimal(),
});

const policy = object({
  /** What the desk prefers, and what each of its policies weighs. */
  name: policyName,
  weights: object({ on_time: weights, cheapest: weights, fewest_shipments: weights }),
});
export type RoutePolicyView = Of<typeof policy>;

const routed = object({
  /** How many lines were routed, and what was made for them. */
  lines: integer(),
  documents: list(object({ kind: oneOf('purchase', 'transfer', 'assembly'), id: id(), number: text() })),
  /** What was taken back from suppliers, or is bound to nobody any more. */
  freed: list(dealing),
  /** Lines that could not be routed as chosen, with why; nothing was done for these. */
  left: list(object({ line: id<LineId>(), why: text(800) })),
});
export type Routed = Of<typeof routed>;

const desk = ['coordinator', 'manager'] as const;
const consentId = object({ consent: id() });

export const shortageRoutes = {
  listShortages: get('/shortages', {
    summary: 'Released quantities without cover or with late cover, most value first; `q`: words they are found by; `only` and `chosen`: lines, as 12,15',
    query: object({ q: optional(note(200)), only: optional(note(14_000)), chosen: optional(note(14_000)), most: optional(integer(1, MOST_ROUTED)) }),
    reply: shortages,
  }),
  planRoutes: get('/shortages/plan', {
    summary: 'The best way for each of many lines, given that the others take theirs; `lines` as 12,15. What it makes and whom it moves',
    query: object({ lines: note(14_000), policy: optional(policyName), accept: accepting }),
    reply: plan,
  }),
  routeMany: post('/shortages/routes', {
    summary: 'Route many lines in one act, as was planned; progress is told as the topic routing:{run}:{done}:{total}',
    roles: desk,
    body: object({
      run: uuid(),
      /** `version`: of the order as it was looked at; where it has changed since, its line is left. */
      choices: list(object({ line: id<LineId>(), version: optional(integer()), parts: list(routeWish, 1, 3) }), 1, MOST_ROUTED),
      /** Offers that are taken: lines that get what the others give back. */
      accept: list(id<LineId>()),
    }),
    reply: routed,
  }),
  readPolicy: get('/route-policy', { summary: 'How ways are ranked where a customer has no wish of their own', reply: policy }),
  setPolicy: put('/route-policy', { summary: 'Set how ways are ranked, and what weighs how much', roles: ['manager'], body: policy, reply: policy }),
  setCustomerPolicy: put('/customers/{customer}/route-policy', {
    summary: 'How ways are ranked for a customer (null: as the desk does), and whether they are asked before a later day is settled',
    roles: desk,
    params: object({ customer: id<CustomerId>() }),
    body: object({ policy: nullable(policyName), asksWhenLate: flag() }),
    reply: object({ policy: nullable(policyName), asksWhenLate: flag() }),
  }),
  listConsents: get('/consents', {
    summary: 'Questions to customers: those that wait for an answer or for somebody to act on it, the most pressing first; or of one order all',
    query: object({ order: optional(id<OrderId>()) }),
    reply: list(consentView),
  }),
  askCustomer: post('/orders/{order}/lines/{line}/consents', {
    summary: 'Ask the customer about a way for a line: by mail with a link that works once, or to be asked by phone',
    roles: desk,
    params: object({ order: id<OrderId>(), line: id<LineId>() }),
    body: consentWish,
    reply: consentView,
  }),
  answerConsent: post('/consents/{consent}/answer', {
    summary: 'Record what the customer said on the phone, and act on it',
    roles: desk,
    params: consentId,
    body: consentAnswer,
    reply: consentView,
  }),
  withdrawConsent: post('/consents/{consent}/withdraw', {
    summary: 'Take a question back; its link ends. An answer that was looked at is set aside',
    roles: desk,
    params: consentId,
    body: object({}),
    reply: consentView,
  }),
};
