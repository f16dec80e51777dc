import type { CustomerId, ItemCode, LineId, OrderId, PurchaseId, WarehouseCode } from '@nockwright/core/ids';
import type { Quantity, UnitPrice } from '@nockwright/core/money';
import { part } from '../promise';
import { code, day, decimal, flag, id, integer, list, note, nullable, object, oneOf, sealed, text, type Of } from '../shape';

/** A unit an item is sold by, in multiples of `step`. */
const unit = object({ code: text(), name: text(), numerator: decimal(), denominator: decimal(), step: decimal() });

export const found = object({
  code: code(),
  description: text(),
  group: text(),
  unit: text(),
  units: list(unit),
  available: decimal<Quantity>(),
  /** What the customer calls it; null: as we do. */
  theirCode: nullable(text()),
  discontinued: flag(),
  /** A misspelt word was taken for the one that was perhaps meant. */ corrected: flag(),
  /** A word stands only in the name of its group: it is not taken without being chosen. */
  byGroup: flag(),
});
export type ItemFound = Of<typeof found>;

export const row = object({
  code: code(),
  description: text(),
  group: text(),
  unit: text(),
  onHand: decimal<Quantity>(),
  committed: decimal<Quantity>(),
  inbound: decimal<Quantity>(),
  available: decimal<Quantity>(),
  waiting: decimal<Quantity>(),
  discontinued: flag(),
});
export type ItemRow = Of<typeof row>;

/** A change of what a pool has, and what it has after it. */
const step = object({
  day: day(),
  /** Above 0 supply, below 0 a commitment. */
  change: decimal(),
  /** Supply less commitments so far. */
  projected: decimal(),
  /** What could still be promised for this day. */
  available: decimal<Quantity>(),
  kind: oneOf('on_hand', 'purchase', 'promise'),
  label: text(),
  order: nullable(id<OrderId>()),
  purchase: nullable(id<PurchaseId>()),
});
export type TimelineStep = Of<typeof step>;

const pool = object({
  warehouse: code<WarehouseCode>(),
  name: text(),
  onHand: decimal<Quantity>(),
  allocated: decimal<Quantity>(),
  committed: decimal<Quantity>(),
  inbound: decimal<Quantity>(),
  available: decimal<Quantity>(),
  /** Of what is on hand: what has expired, and is promised to nobody. */
  expired: decimal(),
  timeline: list(step),
});
export type PoolView = Of<typeof pool>;

/** Another item, and how many of it for one. */
const other = object({ item: code<ItemCode>(), description: text(), ratio: decimal(), available: decimal<Quantity>(), unit: text() });
export type OtherItem = Of<typeof other>;

const promised = object({
  order: id<OrderId>(),
  number: text(),
  lineNo: integer(),
  customer: text(),
  customerId: id<CustomerId>(),
  warehouse: code<WarehouseCode>(),
  quantity: decimal<Quantity>(),
  day: day(),
  /** Too late: the day its goods are there instead; null where they never are. */
  atRisk: flag(),
  from: list(object({ label: text(), purchase: nullable(id<PurchaseId>()), quantity: decimal<Quantity>() })),
});
export type ItemPromise = Of<typeof promised>;

export const page = object({
  code: code(),
  description: text(),
  group: text(),
  unit: text(),
  listPrice: decimal<UnitPrice>(),
  cost: sealed('cost', decimal<UnitPrice>()),
  discontinued: flag(),
  successor: nullable(code<ItemCode>()),
  units: list(unit),
  gtin: nullable(text()),
  tracksLots: flag(),
  tracksExpiry: flag(),
  /** Of one stocking unit: kilograms, and centimetres where they are known. */
  weight: decimal(),
  length: nullable(decimal()),
  width: nullable(decimal()),
  height: nullable(decimal()),
  /** Class of goods that may not lie in a carton with another class; empty: goes with everything. */
  apart: note(),
  tracksSerials: flag(),
  /** The class by which it is taxed. */
  taxClass: text(20),
  /** Days of life that must be left on delivery. */
  leastLife: integer(),
  /** Other words it is known by, and sizes. */
  also: note(300),
  pools: list(pool),
  /** Who is promised how many of it, from what. */
  promises: list(promised),
  suppliers: list(
    object({
      code: code(),
      name: text(),
      theirCode: note(),
      cost: sealed('cost', decimal<UnitPrice>()),
      leadDays: decimal(),
      minimum: decimal<Quantity>(),
      multiple: decimal<Quantity>(),
      dropShips: flag(),
    }),
  ),
  /** What may go instead of it: so many of the substitute for one of it. */
  substitutes: list(other),
  /** What it may go instead of. */
  insteadOf: list(other),
  /** What one of it is put together from, and what it is a part of. */
  components: list(other),
  partOf: list(other),
});
export type ItemPage = Of<typeof page>;

/** An order line that waits its turn for an item. */
export const queued = object({
  order: id<OrderId>(),
  version: integer(),
  number: text(),
  line: id<LineId>(),
  lineNo: integer(),
  customer: text(),
  customerId: id<CustomerId>(),
  /** Class, 1 first. */
  priority: integer(),
  placed: flag(),
  entered: day(),
  quantity: decimal<Quantity>(),
  requested: day(),
  promised: list(part),
  waiting: decimal<Quantity>(),
  daysLate: nullable(integer()),
});
export type QueueRow = Of<typeof queued>;
