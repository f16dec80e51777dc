import type { ItemCode, LineId, OrderId, RouteId, ShipToId, WarehouseCode } from '@nockwright/core/ids';
import { bookSlice } from './book-slice';
import { decision } from '../promise';
import { combinations, policyName, routeChoices, routeWish, undoing } from '../shortages';
import {
  code,
  day,
  flag,
  get,
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
  text,
  unitPrice,
} from '../shape';
import { raisePreview } from './act-views';
import { lineView, pricePin } from './line-views';
import { orderView } from './order-views';
import { textRead } from './text-views';
import { headFields, order, version } from './route-parts';

const lineOf = object({ order: id<OrderId>(), line: id<LineId>() });

const routeOf = object({ order: id<OrderId>(), line: id<LineId>(), route: id<RouteId>() });

/** Fields of a draft's line that can be changed. */
const lineChange = {
  unit: optional(text(10)),
  quantity: optional(quantity()),
  requestedDay: optional(nullable(day())),
  warehouse: optional(code<WarehouseCode>()),
  note: optional(note(500)),
  /** Another address than the order's; null: the order's. */
  shipTo: optional(nullable(id<ShipToId>())),
  /** Of a quote: offered beside the others, perhaps instead of one of them. */
  alternative: optional(flag()),
  alternativeTo: optional(nullable(id())),
};

/** Fields of a new line. */
const lineFields = { ...lineChange, item: code<ItemCode>(), quantity: quantity() };

/** What is done with the lines of an order: typed, priced, moved, routed. */
export const lineRoutes = {
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
  readSlice: get('/orders/{order}/slice', {
    summary: 'The part of the live book that decides about an item on a draft: what lines of it are tried on without asking again',
    roles: ['coordinator', 'manager'],
    params: order,
    query: object({ item: code<ItemCode>() }),
    reply: bookSlice,
  }),
  previewLine: get('/orders/{order}/preview', {
    summary: 'What a line would be promised and cost, without adding it',
    roles: ['coordinator', 'manager'],
    params: order,
    query: object({
      item: code<ItemCode>(),
      unit: optional(text(10)),
      quantity: quantity(),
      requestedDay: optional(day()),
      warehouse: optional(code<WarehouseCode>()),
    }),
    reply: lineView,
  }),
  readCombinations: get('/orders/{order}/combinations', {
    summary: 'Options for all short lines of an order together: the best of each by every ranking, and all on one day',
    params: order,
    reply: combinations,
  }),
  routeOrder: post('/orders/{order}/routes', {
    summary: 'Give several short lines of an order their options in one act; all or none. `complete`: the draft leaves complete from now on',
    roles: ['coordinator', 'manager'],
    params: order,
    body: object({ version, complete: optional(flag()), choices: list(object({ line: id<LineId>(), parts: list(routeWish, 1, 3) }), 1, 500) }),
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
    /** `version`: of a released order as it was looked at; where it has changed since, nothing is done. */
    body: object({ version: optional(version), parts: list(routeWish, 1, 3) }),
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
};
