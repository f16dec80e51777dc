import { accepting, decision, rippleView } from '../promise';
import {
  awaited,
  code,
  day,
  decimal,
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
  post,
  put,
  quantity,
  text,
  unitPrice,
  type Of,
} from '../shape';

const purchaseState = oneOf('draft', 'sent', 'acknowledged', 'closed', 'cancelled');
const purchaseKind = oneOf('stock', 'drop_ship');

/** An order that is owed goods from a purchase line. */
const owed = object({ order: id(), number: text(), lineNo: integer(), customer: text(), quantity: decimal(), day: day(), bound: flag() });

const line = object({
  id: id(),
  lineNo: integer(),
  item: code(),
  description: text(),
  unit: text(),
  quantity: decimal(),
  received: decimal(),
  closed: decimal(),
  open: decimal(),
  cost: decimal(),
  expectedDay: day(),
  /** The day its goods can leave again; null for a drop shipment. */
  availableDay: nullable(day()),
  overdue: flag(),
  owed: list(owed),
});

const purchase = object({
  id: id(),
  number: text(),
  supplier: object({ code: code(), name: text(), email: note() }),
  kind: purchaseKind,
  state: purchaseState,
  version: integer(),
  warehouse: nullable(code()),
  shipTo: note(),
  order: nullable(object({ id: id(), number: text() })),
  createdDay: day(),
  note: note(),
  value: decimal(),
  lines: list(line),
});
export type PurchaseView = Of<typeof purchase>;

const row = object({
  id: id(),
  number: text(),
  supplier: text(),
  kind: purchaseKind,
  state: purchaseState,
  warehouse: nullable(code()),
  order: nullable(text()),
  expectedDay: nullable(day()),
  lines: integer(),
  openLines: integer(),
  value: decimal(),
  overdue: flag(),
});
export type PurchaseRow = Of<typeof row>;

/** What a change of supply does to promises, and the day its goods could leave. */
const supplyRipple = object({ availableDay: nullable(day()), ripple: rippleView });
export type SupplyRipple = Of<typeof supplyRipple>;

const receipt = object({
  purchase,
  goesTo: list(object({ order: id(), number: text(), lineNo: integer(), customer: text(), item: code(), quantity: decimal(), day: day() })),
});
export type ReceiptReply = Of<typeof receipt>;

const supplier = object({ code: code(), name: text(), leadDays: integer(), dropShips: flag() });
export type Supplier = Of<typeof supplier>;

const warehouse = object({ code: code(), name: text() });
export type Warehouse = Of<typeof warehouse>;

const purchaseId = object({ purchase: id() });
const lineId = object({ purchase: id(), line: id() });
const buyers = ['coordinator', 'manager'] as const;

export const supplyRoutes = {
  listSuppliers: get('/suppliers', { summary: 'Suppliers', reply: list(supplier) }),
  listWarehouses: get('/warehouses', { summary: 'Warehouses', reply: list(warehouse) }),
  listPurchases: get('/purchases', {
    summary: 'Purchase orders, what is due first',
    query: object({ search: optional(note(100)), state: optional(oneOf('open', 'closed', 'all')) }),
    reply: list(row),
  }),
  readPurchase: get('/purchases/{purchase}', { summary: 'A purchase order with what is owed from each line', params: purchaseId, reply: purchase }),
  createPurchase: post('/purchases', {
    summary: 'Start a purchase order to stock',
    roles: buyers,
    body: object({
      supplier: code(),
      warehouse: code(),
      note: optional(note(500)),
      lines: list(object({ item: code(), quantity: quantity(), cost: optional(unitPrice()), expectedDay: optional(day()) }), 1, 200),
    }),
    reply: purchase,
  }),
  sendPurchase: post('/purchases/{purchase}/send', {
    summary: 'Send a draft to the supplier: from then on its goods can be promised',
    roles: buyers,
    params: purchaseId,
    body: object({ version: integer() }),
    reply: purchase,
  }),
  previewReschedule: get('/purchases/{purchase}/lines/{line}/reschedule', {
    summary: 'Whose promises another expected day, or another quantity to come, would move',
    params: lineId,
    query: object({ day: optional(day()), open: optional(awaited()), accept: accepting }),
    reply: supplyRipple,
  }),
  reschedule: put('/purchases/{purchase}/lines/{line}', {
    summary: 'Record the day the supplier now expects, or what is still to come; with a decision, move the promises that were seen to move',
    roles: buyers,
    params: lineId,
    body: object({ version: integer(), expectedDay: optional(day()), open: optional(awaited()), note: optional(note(500)), decision: optional(decision) }),
    reply: purchase,
  }),
  previewClose: get('/purchases/{purchase}/lines/{line}/close', {
    summary: 'Whose promises would move if the remainder is closed',
    params: lineId,
    query: object({ accept: accepting }),
    reply: supplyRipple,
  }),
  closeLine: post('/purchases/{purchase}/lines/{line}/close', {
    summary: 'Close what has not come of a line; promises that lose their goods move as decided, or wait again',
    roles: buyers,
    params: lineId,
    body: object({ version: integer(), reason: text(300), decision: optional(decision) }),
    reply: purchase,
  }),
  previewReceipt: get('/purchases/{purchase}/receipt', {
    summary: 'Whose promises a receipt would move, short or over',
    params: purchaseId,
    query: object({ lines: text(4000), closeRest: optional(flag()), accept: accepting }),
    reply: supplyRipple,
  }),
  receive: post('/purchases/{purchase}/receive', {
    summary: 'Receive goods into the warehouse, in part, whole or over; the rest of what came short stays awaited or is closed',
    roles: ['coordinator', 'warehouse', 'manager'],
    params: purchaseId,
    body: object({
      version: integer(),
      lines: list(object({ line: id(), quantity: quantity() }), 1, 200),
      closeRest: optional(flag()),
      decision: optional(decision),
    }),
    reply: receipt,
  }),
  confirmDespatch: post('/purchases/{purchase}/despatch', {
    summary: "Confirm the supplier's notice that a drop shipment has left",
    roles: ['coordinator', 'warehouse', 'manager'],
    params: purchaseId,
    body: object({ version: integer(), tracking: note(80), lines: list(object({ line: id(), quantity: quantity() }), 1, 200) }),
    reply: purchase,
  }),
  purchaseHistory: get('/purchases/{purchase}/history', { summary: 'What happened to a purchase order, newest first', params: purchaseId, reply: history }),
};
