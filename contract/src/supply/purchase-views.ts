import type { ItemCode, PurchaseLineId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import { message } from './exchange';
import { rippleView } from '../promise';
import {
  awaited,
  code,
  day,
  decimal,
  flag,
  id,
  integer,
  list,
  moment,
  note,
  nullable,
  object,
  oneOf,
  optional,
  quantity,
  sealed,
  sealedList,
  text,
  type Of,
} from '../shape';

export const purchaseState = oneOf('draft', 'sent', 'acknowledged', 'closed', 'cancelled');
export const purchaseKind = oneOf('stock', 'drop_ship');

/** An order that is owed goods from a purchase line. */
const owed = object({ order: id<OrderId>(), number: text(), lineNo: integer(), customer: text(), quantity: decimal<Quantity>(), day: day(), bound: flag() });

const line = object({
  id: id(),
  lineNo: integer(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  quantity: decimal<Quantity>(),
  received: decimal<Quantity>(),
  closed: decimal<Quantity>(),
  /** Came unfit to be sold, and stands in quarantine. */
  damaged: decimal<Quantity>(),
  open: decimal<Quantity>(),
  cost: sealed('cost', decimal<UnitPrice>()),
  expectedDay: day(),
  /** Of a drop shipment: the day its customer was told. */
  toldDay: nullable(day()),
  /** The day its goods can leave again; null for a drop shipment. */
  availableDay: nullable(day()),
  overdue: flag(),
  /** For nobody in particular: it lifts the item to the supplier's minimum and lot. */
  lifts: flag(),
  /** Bought for an order line. */
  bound: flag(),
  theirCode: note(),
  gtin: nullable(text()),
  tracksLots: flag(),
  tracksExpiry: flag(),
  tracksSerials: flag(),
  /** Where it lives at the warehouse it comes to. */
  home: nullable(code()),
  owed: list(owed),
});

export const purchase = object({
  id: id(),
  number: text(),
  supplier: object({ code: code(), name: text(), email: note() }),
  kind: purchaseKind,
  state: purchaseState,
  version: integer(),
  warehouse: nullable(code<WarehouseCode>()),
  shipTo: note(),
  order: nullable(object({ id: id(), number: text() })),
  createdDay: day(),
  note: note(),
  currency: text(3),
  value: sealed('cost', decimal<Amount>()),
  lines: list(line),
  /** What the supplier says has left them and is not taken in yet. */
  notices: list(
    object({
      id: id(),
      number: text(),
      day: day(),
      tracking: note(),
      lines: list(object({ line: id<PurchaseLineId>(), quantity: decimal<Quantity>(), lot: note(), expires: nullable(day()) })),
    }),
  ),
  /** What was told them on paper, newest first, and where it was mailed. */
  papers: list(object({ id: id(), at: moment() })),
  mails: list(object({ id: id(), subject: text(500), recipients: list(text()), state: oneOf('waiting', 'sent', 'failed'), at: moment() })),
  messages: sealedList('cost', message),
});
export type PurchaseView = Of<typeof purchase>;

export const row = object({
  id: id(),
  number: text(),
  supplier: text(),
  kind: purchaseKind,
  state: purchaseState,
  warehouse: nullable(code<WarehouseCode>()),
  order: nullable(text()),
  expectedDay: nullable(day()),
  lines: integer(),
  openLines: integer(),
  value: sealed('cost', decimal<Amount>()),
  overdue: flag(),
  /** The supplier answered other than as ordered, and nobody has seen to it. */
  toLook: flag(),
});
export type PurchaseRow = Of<typeof row>;

/** What another cost makes of the margin on goods that are owed from a purchase line. */
const marginMove = object({
  order: id<OrderId>(),
  number: text(),
  lineNo: integer(),
  customer: text(),
  quantity: decimal<Quantity>(),
  /** In percent of what the customer pays for them; null where that is nothing. */
  before: nullable(decimal()),
  after: nullable(decimal()),
  /** Of the margin, in the order's currency; below 0 where there is more. */
  lost: decimal<Quantity>(),
  currency: text(3),
});
export type MarginMove = Of<typeof marginMove>;

/** What a change of supply does to promises, the day its goods could leave, and what another cost does to margins. */
export const supplyRipple = object({ availableDay: nullable(day()), ripple: rippleView, margins: optional(sealedList('margin', marginMove)) });
export type SupplyRipple = Of<typeof supplyRipple>;

export const receipt = object({
  purchase,
  goesTo: list(
    object({ order: id<OrderId>(), number: text(), lineNo: integer(), customer: text(), item: code<ItemCode>(), quantity: decimal<Quantity>(), day: day() }),
  ),
});
export type ReceiptReply = Of<typeof receipt>;

export const warehouse = object({ code: code(), name: text() });
export type Warehouse = Of<typeof warehouse>;

/** What has come of a line, of one lot into one bin; the same line may stand more than once. */
export const arrival = object({
  line: id<PurchaseLineId>(),
  /** Fit to be sold. */
  quantity: awaited(),
  /** Goes into quarantine; as much is still awaited. */
  damaged: optional(quantity()),
  lot: optional(note(20)),
  expires: optional(day()),
  bin: optional(note(40)),
  /** Of an item that has them: a number for each piece, by line or comma; ranges as A-01..A-20; labels with (21). */
  serials: optional(note(20_000)),
});
export type Arrival = Of<typeof arrival>;

/** Goods that are due at a warehouse. */
export const expected = object({
  kind: oneOf('purchase', 'transfer'),
  id: id(),
  number: text(),
  from: text(),
  warehouse: code<WarehouseCode>(),
  expectedDay: day(),
  overdue: flag(),
  lines: integer(),
  items: note(),
});
export type ExpectedRow = Of<typeof expected>;

/** What a scan or typed words mean at the dock. */
export const scanned = object({
  item: nullable(code<ItemCode>()),
  description: note(),
  lot: note(),
  expires: nullable(day()),
  count: nullable(decimal()),
  serial: note(),
  /** Where it is expected from. */
  awaited: list(
    object({
      kind: oneOf('purchase', 'transfer'),
      id: id(),
      number: text(),
      from: text(),
      /** Of the purchase or the transfer. */
      line: nullable(id()),
      open: decimal<Quantity>(),
      expectedDay: day(),
    }),
  ),
});
export type Scanned = Of<typeof scanned>;
