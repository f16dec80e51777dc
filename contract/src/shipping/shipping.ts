import { code, day, decimal, flag, get, id, integer, list, note, object, oneOf, optional, post, quantity, ROLES, text, type Of } from '../shape';

const line = object({ line: id(), lineNo: integer(), item: code(), description: text(), unit: text(), quantity: decimal(), day: day() });

/** What of an order can leave a warehouse now. */
const ready = object({
  order: id(),
  number: text(),
  customer: text(),
  town: text(),
  warehouse: code(),
  carrier: text(),
  shipComplete: flag(),
  day: day(),
  due: flag(),
  lines: list(line),
});
export type ReadyOrder = Of<typeof ready>;

const pick = object({
  id: id(),
  number: text(),
  state: oneOf('picking', 'shipped', 'cancelled'),
  order: id(),
  orderNumber: text(),
  customer: text(),
  address: text(1000),
  warehouse: code(),
  carrier: text(),
  tracking: note(),
  lines: list(
    object({ line: id(), lineNo: integer(), item: code(), description: text(), unit: text(), quantity: decimal(), orderUnit: text(), orderQuantity: note() }),
  ),
});
export type PickView = Of<typeof pick>;

const board = object({
  /** What is due first first. */
  ready: list(ready),
  /** How many there are in all. */
  count: integer(),
  picking: list(pick),
});
export type ShippingBoard = Of<typeof board>;

const movers = ['coordinator', 'warehouse', 'manager'] as const;
const shipment = object({ shipment: id() });

export const shippingRoutes = {
  readBoard: get('/shipping', {
    roles: ROLES,
    summary: 'What can leave, and what is being picked',
    query: object({ warehouse: optional(code()), q: optional(note(200)), most: optional(integer(1, 2000)) }),
    reply: board,
  }),
  startPick: post('/shipments', {
    summary: 'Set goods of an order aside to be picked; stock does not fall yet',
    roles: movers,
    body: object({ order: id(), warehouse: code(), lines: list(object({ line: id(), quantity: quantity() }), 1, 500) }),
    reply: pick,
  }),
  readShipment: get('/shipments/{shipment}', { roles: ROLES, summary: 'A shipment with its lines', params: shipment, reply: pick }),
  ship: post('/shipments/{shipment}/ship', {
    summary: 'The goods have left: stock falls',
    roles: movers,
    params: shipment,
    body: object({ tracking: note(80) }),
    reply: pick,
  }),
  cancelPick: post('/shipments/{shipment}/cancel', {
    summary: 'Put the goods of a pick back',
    roles: movers,
    params: shipment,
    body: object({ reason: text(300) }),
    reply: pick,
  }),
};
