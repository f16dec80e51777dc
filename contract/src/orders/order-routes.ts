import type { CustomerId, LineId, OrderId } from '@nockwright/core/ids';
import { accepting, decision, rippleView } from '../promise';
import { flag, get, history, id, integer, list, note, object, oneOf, optional, post, put, quantity, remove, ROLES, text } from '../shape';
import { cancellationPreview } from './act-views';
import { ORDER_SORTS, orderList, orderRisks, savedView } from './list-views';
import { CANCEL_REASONS, carrier, orderView } from './order-views';
import { lineRoutes } from './line-routes';
import { headFields, order, seen, version } from './route-parts';

/** What a list of orders is filtered and sorted by. */
const listed = {
  search: optional(note(100)),
  state: optional(oneOf('open', 'draft', 'held', 'waiting', 'quote', 'done', 'all')),
  sort: optional(oneOf(...ORDER_SORTS)),
  /** Sorted the other way round. */
  reverse: optional(flag()),
  /** Only these of them, by id: 12,15,20. */
  orders: optional(note(20_000)),
  customer: optional(id<CustomerId>()),
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
    body: object({ customer: id<CustomerId>(), kind: optional(oneOf('order', 'quote')) }),
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
  holdOrder: post('/orders/{order}/hold', {
    summary: 'Hold a draft until the customer has answered',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, why: text(300) }),
    reply: orderView,
  }),
  clearHold: post('/orders/{order}/holds/{hold}/clear', {
    summary: 'Let a held order go, with a reason: below the floor margin by a manager, credit by finance or a manager, the customer by the desk',
    params: object({ order: id<OrderId>(), hold: id() }),
    body: object({ version, why: text(300) }),
    reply: orderView,
  }),
  closeTask: post('/orders/{order}/tasks/{task}/close', {
    summary: 'Close what was dealt with of the customer’s text, with how',
    roles: ['coordinator', 'manager'],
    params: object({ order: id<OrderId>(), task: id() }),
    body: object({ how: note(300) }),
    reply: orderView,
  }),
  releaseOrder: post('/orders/{order}/release', {
    summary: 'Release a draft: give it its number, commit its goods, make the purchases its routes need',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, seen: list(seen) }),
    reply: orderView,
  }),
  previewCancellation: get('/orders/{order}/cancellation', {
    summary: 'What a cancellation would free and linked supply',
    params: order,
    query: object({ line: optional(id<LineId>()), quantity: optional(quantity()), purchases: optional(oneOf('cancel', 'keep')), accept: accepting }),
    reply: cancellationPreview,
  }),
  cancelOrder: post('/orders/{order}/cancel', {
    summary: 'Cancel a released order, a line or a quantity (in the unit ordered), with a reason',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({
      version,
      line: optional(id<LineId>()),
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
  ...lineRoutes,
};
