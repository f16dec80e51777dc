import type { ItemCode, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import {
  amount,
  awaited,
  code,
  day,
  decimal,
  email,
  flag,
  get,
  history,
  integer,
  list,
  note,
  nullable,
  number,
  object,
  oneOf,
  optional,
  post,
  put,
  quantity,
  remove,
  text,
  type Of,
  unitPrice,
} from '../shape';

const buyers = ['coordinator', 'manager'] as const;

const supplier = object({
  code: code(),
  name: text(),
  leadDays: integer(),
  dropShips: flag(),
  exchanges: flag(),
  /** Items they sell. */
  items: integer(),
  openOrders: integer(),
  overdueOrders: integer(),
  receipts: integer(),
  onTimePercent: nullable(number()),
});
export type Supplier = Of<typeof supplier>;

/** Stocking units in one of the supplier's units, UN/ECE Recommendation 20. */
const theirUnit = object({ unit: text(3), quantity: quantity() });
const costBreak = object({ from: quantity(), cost: unitPrice() });

const supplierItem = object({
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  discontinued: flag(),
  theirCode: note(),
  cost: decimal<UnitPrice>(),
  /** Null: as the supplier's other items. */
  leadDays: nullable(integer()),
  minimum: decimal<Quantity>(),
  multiple: decimal<Quantity>(),
  returnable: flag(),
  breaks: list(object({ from: decimal(), cost: decimal<UnitPrice>() })),
  /** What their units hold: their answers may name them. */
  units: list(object({ unit: text(), quantity: decimal<Quantity>() })),
});
export type SupplierItem = Of<typeof supplierItem>;

/** How they deliver, from the record of receipts and of lines that have ended. */
const score = object({
  receipts: integer(),
  onTimePercent: nullable(number()),
  meanDays: nullable(number()),
  medianDays: nullable(number()),
  worstTenthDays: nullable(number()),
  spread: list(object({ days: number(), receipts: integer() })),
  months: list(object({ month: text(), receipts: integer(), onTimePercent: number() })),
  /** Lines of purchases that nothing more is awaited of. */
  endedLines: integer(),
  /** Of them, those of which all came. */
  inFullPercent: nullable(number()),
  damagedLines: integer(),
  /** What was bought of them in the last twelve months. */
  bought: decimal<Quantity>(),
});
export type SupplierScore = Of<typeof score>;

const supplierPage = object({
  code: code(),
  name: text(),
  version: integer(),
  email: note(),
  leadDays: integer(),
  /** ISO weekdays: 1 Monday to 7 Sunday. */
  workdays: list(integer(1, 7)),
  orderDays: list(integer(1, 7)),
  cutoff: nullable(text()),
  transitDays: integer(),
  minimumValue: decimal<Amount>(),
  freight: decimal<Amount>(),
  freightFreeFrom: nullable(decimal<Amount>()),
  dropShips: flag(),
  dropShipFee: decimal<Amount>(),
  exchanges: flag(),
  /** Per cent that a cost they answer may differ from the one that stands without anybody deciding, and days that a day may. */
  priceTolerance: decimal(),
  dayTolerance: integer(),
  closed: list(day()),
  /** The day an order placed now is taken, and the day goods of usual lead time reach us. */
  nextOrder: object({ taken: day(), arrives: day() }),
  items: list(supplierItem),
  score,
});
export type SupplierPage = Of<typeof supplierPage>;

const money = amount();
const supplierCode = object({ supplier: code<SupplierCode>() });
const itemOfSupplier = object({ supplier: code<SupplierCode>(), item: code<ItemCode>() });

const reorderRow = object({
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  warehouse: code<WarehouseCode>(),
  onHand: decimal<Quantity>(),
  /** Bought, on its way or on a draft. */
  due: decimal<Amount>(),
  /** Owed to customers: promised or waiting. */
  owed: decimal(),
  /** Of what is owed, what waits for a purchase that nobody has made. */
  waiting: decimal<Quantity>(),
  /** On hand and due less owed: what the reorder point is held against. */
  position: decimal(),
  /** Asked for on a working day. */
  perDay: number(),
  deviation: number(),
  /** Working days until what is ordered now can leave. */
  leadDays: integer(),
  leadDeviation: number(),
  safety: decimal(),
  point: decimal(),
  /** What to buy, in the supplier's lots. */
  quantity: decimal<Quantity>(),
  supplier: code<SupplierCode>(),
  supplierName: text(),
  cost: decimal<UnitPrice>(),
  value: decimal<Amount>(),
  /** Everybody who sells it, cheapest for this quantity first. */
  suppliers: list(object({ code: code(), name: text(), cost: decimal<UnitPrice>(), quantity: decimal<Quantity>(), arrives: day() })),
});
export type ReorderRow = Of<typeof reorderRow>;

const serviceLevel = oneOf('80', '85', '90', '95', '97.5', '98', '99', '99.5');
const reorderPolicy = object({ level: serviceLevel, orderCost: amount(), holdingPercent: awaited(), demandDays: integer(5, 400) });
export type ReorderPolicy = Of<typeof reorderPolicy>;

export const supplierRoutes = {
  listSuppliers: get('/suppliers', { summary: 'Suppliers, with what is open at them and how they deliver', reply: list(supplier) }),
  readSupplier: get('/suppliers/{supplier}', { summary: 'A supplier: terms, items, how they deliver', params: supplierCode, reply: supplierPage }),
  supplierHistory: get('/suppliers/{supplier}/history', { summary: 'What happened to a supplier, newest first', params: supplierCode, reply: history }),
  changeSupplier: put('/suppliers/{supplier}', {
    summary: 'Change what a supplier wants and when they work',
    roles: buyers,
    params: supplierCode,
    body: object({
      version: integer(),
      email: optional(nullable(email())),
      leadDays: optional(integer(0, 365)),
      workdays: optional(list(integer(1, 7), 1, 7)),
      orderDays: optional(list(integer(1, 7), 1, 7)),
      cutoff: optional(nullable(text(5))),
      transitDays: optional(integer(0, 60)),
      minimumValue: optional(money),
      freight: optional(money),
      freightFreeFrom: optional(nullable(money)),
      dropShips: optional(flag()),
      dropShipFee: optional(money),
      exchanges: optional(flag()),
      priceTolerance: optional(awaited()),
      dayTolerance: optional(integer(0, 365)),
      closed: optional(list(day(), 0, 366)),
    }),
    reply: supplierPage,
  }),
  setSupplierItem: put('/suppliers/{supplier}/items/{item}', {
    summary: 'Say at what terms a supplier sells an item; one they did not sell is added',
    roles: buyers,
    params: itemOfSupplier,
    body: object({
      version: integer(),
      theirCode: optional(note(60)),
      cost: unitPrice(),
      leadDays: optional(nullable(integer(0, 365))),
      minimum: quantity(),
      multiple: quantity(),
      returnable: optional(flag()),
      breaks: optional(list(costBreak, 0, 20)),
      units: optional(list(theirUnit, 0, 20)),
    }),
    reply: supplierPage,
  }),
  dropSupplierItem: remove('/suppliers/{supplier}/items/{item}', {
    summary: 'A supplier does not sell an item any more',
    roles: buyers,
    params: itemOfSupplier,
    reply: supplierPage,
  }),
  listReorder: get('/reorder', {
    summary: 'What to buy next: items at or under their reorder point, by warehouse',
    query: object({ search: optional(note(100)), warehouse: optional(code<WarehouseCode>()), which: optional(oneOf('due', 'all')) }),
    reply: list(reorderRow),
  }),
  buyToStock: post('/reorder', {
    summary: 'Put goods on the draft purchase order of their supplier for the warehouse, or on a new one',
    roles: buyers,
    body: object({
      lines: list(object({ item: code<ItemCode>(), warehouse: code<WarehouseCode>(), supplier: code<SupplierCode>(), quantity: quantity() }), 1, 500),
    }),
    reply: object({ purchases: list(object({ id: integer(1), number: text(), supplier: text(), lines: integer() })) }),
  }),
  readReorderPolicy: get('/reorder/policy', { summary: 'How it is reckoned when to buy and how much', reply: reorderPolicy }),
  setReorderPolicy: put('/reorder/policy', {
    summary: 'Set how it is reckoned when to buy and how much',
    roles: ['manager'],
    body: reorderPolicy,
    reply: reorderPolicy,
  }),
};
