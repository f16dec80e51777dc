import type { CustomerId, ItemCode, LineId, OrderId, ShipmentId, WarehouseCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { code, day, decimal, flag, get, id, integer, list, note, nullable, object, oneOf, optional, post, quantity, ROLES, text, type Of } from '../shape';

const line = object({
  line: id<LineId>(),
  lineNo: integer(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  quantity: decimal<Quantity>(),
  day: day(),
});

/** What of an order can leave a warehouse now. */
const ready = object({
  order: id<OrderId>(),
  number: text(),
  customer: text(),
  customerId: id<CustomerId>(),
  town: text(),
  warehouse: code<WarehouseCode>(),
  carrier: text(),
  shipComplete: flag(),
  day: day(),
  due: flag(),
  /** The day it is promised for and can no longer leave on; null: it can. */
  missed: nullable(day()),
  /** Rules that keep it from being released to pick by itself. */
  stops: list(oneOf('value', 'first_order', 'instructions', 'below_floor', 'new_address', 'shipments')),
  lines: list(line),
});
export type ReadyOrder = Of<typeof ready>;

const pick = object({
  id: id(),
  number: text(),
  state: oneOf('picking', 'shipped', 'cancelled'),
  order: id<OrderId>(),
  orderNumber: text(),
  customer: text(),
  customerId: id<CustomerId>(),
  address: text(1000),
  warehouse: code<WarehouseCode>(),
  carrier: text(),
  tracking: note(),
  consignment: nullable(id()),
  /** How far it is. */
  stage: oneOf('to_pick', 'picking', 'picked', 'packing', 'packed', 'labelled', 'left'),
  lines: list(
    object({
      line: id<LineId>(),
      lineNo: integer(),
      item: code<ItemCode>(),
      description: text(),
      unit: text(),
      quantity: decimal<Quantity>(),
      orderUnit: text(),
      orderQuantity: note(),
    }),
  ),
});
export type PickView = Of<typeof pick>;

/** An order that should have left by today and does not, and why. */
const notGoing = object({
  order: id<OrderId>(),
  number: text(),
  customer: text(),
  customerId: id<CustomerId>(),
  warehouse: code<WarehouseCode>(),
  day: day(),
  why: oneOf('held', 'draft_purchase', 'incomplete', 'uncovered'),
  holds: list(oneOf('below_floor', 'credit', 'customer')),
  /** The draft that has to be sent. */
  purchase: nullable(object({ id: id(), number: text() })),
  lines: list(object({ line: id<LineId>(), lineNo: integer(), item: code<ItemCode>(), missing: decimal<Quantity>() })),
});
export type NotGoingRow = Of<typeof notGoing>;

/** What leaves a warehouse today by one carrier service. */
const leaving = object({
  warehouse: code<WarehouseCode>(),
  service: text(),
  carrier: text(),
  cutoff: nullable(text()),
  ready: integer(),
  picking: integer(),
  lines: integer(),
  /** Kilograms. */
  weight: decimal(),
  cartons: integer(),
  /** Work that is left. */
  minutes: integer(),
});
export type LeavingRow = Of<typeof leaving>;

/** What was promised anew since it had missed its day. */
const missedReply = object({
  moved: list(object({ order: id<OrderId>(), number: text(), line: id<LineId>(), lineNo: integer(), item: code<ItemCode>(), day: day() })),
});
export type MissedReply = Of<typeof missedReply>;

const board = object({
  leaving: list(leaving),
  notGoing: list(notGoing),
  /** What is due first first. */
  ready: list(ready),
  /** How many there are in all. */
  count: integer(),
  picking: list(pick),
});
export type ShippingBoard = Of<typeof board>;

const movers = ['coordinator', 'warehouse', 'manager'] as const;
const shipment = object({ shipment: id<ShipmentId>() });

export const shippingRoutes = {
  readBoard: get('/shipping', {
    roles: ROLES,
    summary: 'What can leave, and what is being picked',
    query: object({ warehouse: optional(code<WarehouseCode>()), service: optional(note(40)), q: optional(note(200)), most: optional(integer(1, 2000)) }),
    reply: board,
  }),
  countDue: get('/shipping/due', {
    roles: ROLES,
    summary: 'How many orders are promised for today or earlier and have not left',
    reply: object({ orders: integer() }),
  }),
  promiseMissed: post('/shipping/missed', {
    summary: 'Promise what of some orders has missed its day anew, for the first day it can leave; customers who were told are to be called',
    roles: ['coordinator', 'manager'],
    body: object({ orders: list(id<OrderId>(), 1, 200) }),
    reply: missedReply,
  }),
  startPicks: post('/shipments/many', {
    summary: 'Start the picks of many orders; each that can be is started, the others say why not',
    roles: movers,
    body: object({
      picks: list(
        object({ order: id<OrderId>(), warehouse: code<WarehouseCode>(), lines: list(object({ line: id<LineId>(), quantity: quantity() }), 1, 500) }),
        1,
        60,
      ),
    }),
    reply: object({ started: list(pick), refused: list(object({ order: id<OrderId>(), why: text(1000) })) }),
  }),
  startPick: post('/shipments', {
    summary: 'Set goods of an order aside to be picked; stock does not fall yet',
    roles: movers,
    body: object({ order: id<OrderId>(), warehouse: code<WarehouseCode>(), lines: list(object({ line: id<LineId>(), quantity: quantity() }), 1, 500) }),
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
