import { bookSlice } from './book-slice';
import { accepting, decision, rippleView } from '../promise';
import { policyName, routeChoices, routeWish, undoing } from '../shortages';
import {
  code,
  day,
  flag,
  get,
  history,
  id,
  integer,
  list,
  note,
  nullable,
  object,
  oneOf,
  optional,
  pasted,
  post,
  put,
  quantity,
  remove,
  ROLES,
  text,
  unitPrice,
} from '../shape';
import {
  CANCEL_REASONS,
  cancellationPreview,
  carrier,
  lineView,
  ORDER_SOURCES,
  ORDER_SORTS,
  orderList,
  orderRisks,
  savedView,
  orderView,
  pricePin,
  raisePreview,
  textRead,
} from './order-views';

const order = object({ order: id() });
const lineOf = object({ order: id(), line: id() });
const routeOf = object({ order: id(), line: id(), route: id() });
const version = integer();

/** Fields of a draft's line that can be changed. */
const lineChange = {
  unit: optional(text(10)),
  quantity: optional(quantity()),
  requestedDay: optional(nullable(day())),
  warehouse: optional(code()),
  note: optional(note(500)),
  /** Another address than the order's; null: the order's. */
  shipTo: optional(nullable(id())),
  /** Of a quote: offered beside the others, perhaps instead of one of them. */
  alternative: optional(flag()),
  alternativeTo: optional(nullable(id())),
};

/** Fields of a new line. */
const lineFields = { ...lineChange, item: code(), quantity: quantity() };

/** Fields of a draft's head. */
const headFields = {
  shipTo: optional(id()),
  poNumber: optional(note(60)),
  requestKind: optional(oneOf('ship_by', 'deliver_by')),
  requestedDay: optional(day()),
  warehouse: optional(code()),
  shipComplete: optional(flag()),
  /** In how many shipments it may come at most; null: as many as it takes. */
  mostShipments: optional(nullable(integer(1, 99))),
  /** Days after the invoice within which it is paid. */
  termsDays: optional(integer(0, 365)),
  /** What it is about, in the customer's words: on the papers. */
  description: optional(note(200)),
  /** Who brings it, and how fast: days to be there are counted by it. */
  carrierService: optional(code()),
  /** The contract the customer names for the order; null: none. */
  contract: optional(nullable(id())),
  source: optional(oneOf(...ORDER_SOURCES)),
  note: optional(note(2000)),
  /** Of a quote: the last day it binds. */
  validUntil: optional(day()),
};

/** What the coordinator saw of a line when they decided: the server compares it with what is true under lock. */
export const seen = object({ line: id(), schedule: list(object({ day: day(), quantity: quantity() })), uncovered: text(20) });

/** What a list of orders is filtered and sorted by. */
const listed = {
  search: optional(note(100)),
  state: optional(oneOf('open', 'draft', 'held', 'waiting', 'quote', 'done', 'all')),
  sort: optional(oneOf(...ORDER_SORTS)),
  /** Sorted the other way round. */
  reverse: optional(flag()),
  /** Only these of them, by id: 12,15,20. */
  orders: optional(note(20_000)),
};

export const orderRoutes = {
  listOrders: get('/orders', {
    roles: ROLES,
    summary: 'Orders and quotes, a page at a time: newest first, or sorted otherwise',
    query: object({ ...listed, after: optional(text(300)) }),
    reply: orderList,
  }),
  exportOrders: get('/order-export', {
    summary: 'The orders of a list as comma-separated values, at most 50,000',
    query: object(listed),
    media: 'text/csv',
  }),
  printPapers: get('/order-print', {
    summary: 'The newest paper of each of these orders, one behind the other; those without one are left out',
    query: object({ orders: note(2000) }),
    media: 'application/pdf',
  }),
  listViews: get('/order-views', { roles: ROLES, summary: 'The views of the list of orders you have kept', reply: list(savedView) }),
  saveView: put('/order-views', {
    roles: ROLES,
    summary: 'Keep a view of the list of orders under a name; one of that name is replaced',
    body: object({ name: text(40), query: note(500) }),
    reply: list(savedView),
  }),
  removeView: remove('/order-views/{view}', { roles: ROLES, summary: 'Forget a view', params: object({ view: id() }), reply: list(savedView) }),
  readRisks: get('/order-risks', {
    summary: 'Which of these orders have a promise that is reached too late, or not at all, by its supply',
    query: object({ orders: note(2000) }),
    reply: orderRisks,
  }),
  createOrder: post('/orders', {
    summary: 'Start a draft of an order or a quote for a customer; the header comes from their record',
    roles: ['coordinator', 'manager'],
    body: object({ customer: id(), kind: optional(oneOf('order', 'quote')) }),
    reply: orderView,
  }),
  readOrder: get('/orders/{order}', { roles: ROLES, summary: 'An order with its lines, promises and why', params: order, reply: orderView }),
  listCarriers: get('/carrier-services', { roles: ROLES, summary: 'Services of carriers, the quickest first', reply: list(carrier) }),
  changeOrder: put('/orders/{order}', {
    summary: 'Change the header of a draft; with what was `seen` of its fields, others may have changed the rest meanwhile',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, seen: optional(object(headFields)), ...headFields }),
    reply: orderView,
  }),
  discardOrder: post('/orders/{order}/discard', {
    summary: 'Throw a draft away',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version }),
    reply: object({ discarded: flag() }),
  }),
  addLine: post('/orders/{order}/lines', {
    summary: 'Add a line to a draft',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object(lineFields),
    reply: orderView,
  }),
  addLines: post('/orders/{order}/lines/many', {
    summary: 'Add lines to a draft at once, with what was read of its head; all or nothing',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({
      version,
      lines: list(object(lineFields), 0, 500),
      /** What the text asks for that is no line: it stays with the order until somebody has dealt with it. */
      tasks: optional(list(text(500), 0, 50)),
      /** What stood in the head where it is changed, too. */
      seen: optional(object({ poNumber: headFields.poNumber, requestKind: headFields.requestKind, requestedDay: headFields.requestedDay })),
      poNumber: optional(note(60)),
      requestKind: optional(oneOf('ship_by', 'deliver_by')),
      requestedDay: optional(day()),
    }),
    reply: orderView,
  }),
  readText: post('/orders/{order}/read-text', {
    summary: 'Read a mail or a pasted list as lines of an order; nothing is added yet',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ text: pasted(20_000) }),
    reply: textRead,
  }),
  changeLine: put('/orders/{order}/lines/{line}', {
    summary: 'Change a line of a draft; with what was `seen` of its fields, others may have changed the rest meanwhile',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    body: object({ version, seen: optional(object(lineChange)), ...lineChange }),
    reply: orderView,
  }),
  setPrice: put('/orders/{order}/lines/{line}/price', {
    summary: 'Settle the price of a line: accept what is looked up now, keep what was agreed, choose a contract line, or set it by hand with a reason',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    body: object({
      version,
      /** `accept` and `seen`: the price on the screen; refused where it is another by now. Null: look it up anew. */
      pin: optional(nullable(pricePin)),
      accept: optional(list(object({ quantity: quantity(), price: unitPrice() }), 1)),
    }),
    reply: orderView,
  }),
  holdOrder: post('/orders/{order}/hold', {
    summary: 'Hold a draft until the customer has answered',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, why: text(300) }),
    reply: orderView,
  }),
  clearHold: post('/orders/{order}/holds/{hold}/clear', {
    summary: 'Let a held order go, with a reason: below the floor margin by a manager, credit by finance or a manager, the customer by the desk',
    params: object({ order: id(), hold: id() }),
    body: object({ version, why: text(300) }),
    reply: orderView,
  }),
  moveLine: post('/orders/{order}/lines/{line}/move', {
    summary: 'Put a line of a draft at another place among the lines',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    body: object({ to: integer(1, 500) }),
    reply: orderView,
  }),
  removeLine: remove('/orders/{order}/lines/{line}', {
    summary: 'Take a line off a draft',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    reply: orderView,
  }),
  closeTask: post('/orders/{order}/tasks/{task}/close', {
    summary: 'Close what was dealt with of the customer’s text, with how',
    roles: ['coordinator', 'manager'],
    params: object({ order: id(), task: id() }),
    body: object({ how: note(300) }),
    reply: orderView,
  }),
  readSlice: get('/orders/{order}/slice', {
    summary: 'The part of the live book that decides about an item on a draft: what lines of it are tried on without asking again',
    roles: ['coordinator', 'manager'],
    params: order,
    query: object({ item: code() }),
    reply: bookSlice,
  }),
  previewLine: get('/orders/{order}/preview', {
    summary: 'What a line would be promised and cost, without adding it',
    roles: ['coordinator', 'manager'],
    params: order,
    query: object({ item: code(), unit: optional(text(10)), quantity: quantity(), requestedDay: optional(day()), warehouse: optional(code()) }),
    reply: lineView,
  }),
  releaseOrder: post('/orders/{order}/release', {
    summary: 'Release a draft: give it its number, commit its goods, make the purchases its routes need',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, seen: list(seen) }),
    reply: orderView,
  }),
  readRoutes: get('/orders/{order}/lines/{line}/routes', {
    summary: 'The ways to serve what is short or late of a line, with days, cost and margin; what the policy prefers first',
    params: lineOf,
    query: object({ quantity: optional(quantity()), policy: optional(policyName) }),
    reply: routeChoices,
  }),
  chooseRoute: post('/orders/{order}/lines/{line}/routes', {
    summary: 'Route a quantity of a line, over up to three ways; of a released order it is carried out at once',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    body: object({ parts: list(routeWish, 1, 3) }),
    reply: orderView,
  }),
  previewUndo: get('/orders/{order}/lines/{line}/routes/{route}/undo', {
    summary: 'What taking a route back does, or why it cannot be',
    params: routeOf,
    reply: undoing,
  }),
  undoRoute: post('/orders/{order}/lines/{line}/routes/{route}/undo', {
    summary: 'Take a route back; where the supplier has the order, cancel it with them or keep the goods for others',
    roles: ['coordinator', 'manager'],
    params: routeOf,
    body: object({ supplier: optional(oneOf('cancel', 'keep')) }),
    reply: orderView,
  }),
  promiseRest: post('/orders/{order}/lines/{line}/promise', {
    summary: 'Promise what waits of a released line on the days now possible',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    reply: orderView,
  }),
  previewRaise: get('/orders/{order}/lines/{line}/raise', {
    summary: 'What a greater quantity of a released line would be promised, and whom it would move',
    params: lineOf,
    query: object({ quantity: quantity(), claim: optional(flag()) }),
    reply: raisePreview,
  }),
  raiseLine: post('/orders/{order}/lines/{line}/raise', {
    summary: 'Raise the quantity of a released line; where it claims its turn, those behind it move as was seen',
    roles: ['coordinator', 'manager'],
    params: lineOf,
    body: object({ version, quantity: quantity(), claim: flag(), decision }),
    reply: orderView,
  }),
  previewCancellation: get('/orders/{order}/cancellation', {
    summary: 'What a cancellation would free and what hangs on it',
    params: order,
    query: object({ line: optional(id()), quantity: optional(quantity()), purchases: optional(oneOf('cancel', 'keep')), accept: accepting }),
    reply: cancellationPreview,
  }),
  cancelOrder: post('/orders/{order}/cancel', {
    summary: 'Cancel a released order, a line or a quantity (in the unit ordered), with a reason',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({
      version,
      line: optional(id()),
      quantity: optional(quantity()),
      reason: oneOf(...CANCEL_REASONS),
      note: optional(note(500)),
      purchases: oneOf('cancel', 'keep'),
      decision: optional(decision),
    }),
    reply: orderView,
  }),
  previewTurn: get('/orders/{order}/turn', {
    summary: 'What another class, or a place ahead of another order, would do to everyone’s promises',
    params: order,
    query: object({ priority: optional(integer(1, 9)), ahead: optional(id()), accept: accepting }),
    reply: rippleView,
  }),
  rankOrder: post('/orders/{order}/turn', {
    summary: 'Give a released order another class, or a place ahead of another order, and move the promises that were seen to move',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, priority: optional(integer(1, 9)), ahead: optional(id()), reason: note(300), decision }),
    reply: orderView,
  }),
  orderHistory: get('/orders/{order}/history', { summary: 'What happened to an order, newest first', params: order, reply: history }),
  acknowledgement: get('/orders/{order}/acknowledgement', {
    summary: 'The acknowledgement of a released order, as it was sent',
    params: order,
    media: 'application/pdf',
  }),
};
