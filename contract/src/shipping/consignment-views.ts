import type { CustomerId, ItemCode, LineId, OrderId, ShipmentId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity } from '@nockwright/core/money';
import { code, day, decimal, flag, id, integer, list, moment, note, nullable, object, oneOf, text, type Of } from '../shape';

/** Goods of one lot in one bin that are allocated to a line of a shipment. Quantities in stocking units. */
export const part = object({
  id: id(),
  shipment: id<ShipmentId>(),
  line: id<LineId>(),
  lineNo: integer(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  /** What the customer calls it; may be empty. */
  theirItem: note(),
  bin: note(),
  walk: integer(),
  lot: note(),
  expires: nullable(day()),
  tracksLots: flag(),
  tracksSerials: flag(),
  /** Numbers on its labels: of one, and of its other units. */
  gtins: list(text()),
  quantity: decimal<Quantity>(),
  picked: decimal<Quantity>(),
  packed: decimal<Quantity>(),
  /** Pieces whose serial number is scanned. */
  numbered: integer(),
  /** In the unit ordered, where it is a whole number of it; may be empty. */
  ordered: note(),
});
export type PartView = Of<typeof part>;

export const shipmentOf = object({
  id: id<ShipmentId>(),
  number: text(),
  state: oneOf('picking', 'shipped', 'cancelled'),
  order: id<OrderId>(),
  orderNumber: text(),
  poNumber: note(),
  tote: note(),
  /** The day promised for the first of it. */
  promised: nullable(day()),
  deliverBy: nullable(day()),
});

export const carton = object({
  id: id(),
  number: integer(),
  type: text(),
  typeName: text(),
  sscc: text(),
  /** On the scale, in kilograms; null while it is open. */
  weight: nullable(decimal()),
  /** What its contents and the carton should weigh. */
  expected: decimal(),
  contents: list(object({ part: id(), item: code<ItemCode>(), lot: note(), quantity: decimal<Quantity>(), unit: text(), serials: list(text()) })),
});
export type CartonView = Of<typeof carton>;

export const label = object({
  id: id(),
  service: text(),
  state: oneOf('waiting', 'made', 'failed', 'voiding', 'void'),
  attempts: integer(),
  fault: note(),
  tracking: note(),
  freight: nullable(decimal<Amount>()),
});
export type LabelView = Of<typeof label>;

const tracked = object({ at: moment(), kind: oneOf('picked_up', 'in_transit', 'out_for_delivery', 'delivered', 'exception'), place: note(), words: note() });
export type TrackedView = Of<typeof tracked>;

/** What leaves one warehouse for one address at once. */
export const consignment = object({
  id: id(),
  version: integer(),
  warehouse: code<WarehouseCode>(),
  state: oneOf('picking', 'shipped', 'cancelled'),
  customer: text(),
  customerId: id<CustomerId>(),
  address: text(1000),
  service: text(),
  serviceName: text(),
  /** Whether the service has labels of its own, which are made here. */
  labelled: flag(),
  tracking: note(),
  /** What the carrier asks. */
  freight: nullable(decimal<Amount>()),
  currency: text(),
  /** What the customer pays for freight, in words; what the shipments were charged once they have left. */
  freightTerms: text(),
  charged: nullable(decimal<Amount>()),
  shipments: list(shipmentOf),
  /** In the sequence of the walk. */
  parts: list(part),
  cartons: list(carton),
  label: nullable(label),
  /** What keeps it from leaving; empty where it may. */
  missing: list(text(500)),
  /** Until when it may be undone: while the carrier has not picked it up. */
  undo: flag(),
  events: list(tracked),
  /** Other shipments for the same address that wait at this warehouse. */
  beside: list(object({ consignment: id(), shipments: list(text()) })),
});
export type ConsignmentView = Of<typeof consignment>;

export const cartonType = object({
  code: text(),
  name: text(),
  /** Inside, in centimetres. */
  length: decimal(),
  width: decimal(),
  height: decimal(),
  tare: decimal(),
  most: decimal(),
});
export type CartonTypeView = Of<typeof cartonType>;

export const proposal = object({
  cartons: list(object({ type: text(), weight: decimal(), contents: list(object({ item: code<ItemCode>(), quantity: decimal<Quantity>() })) })),
  /** What fits no carton. */
  alone: list(object({ item: code<ItemCode>(), quantity: decimal<Quantity>() })),
});
export type ProposalView = Of<typeof proposal>;

/** What a scan did: what was packed, or why it was refused. */
export const scanned = object({
  ok: flag(),
  /** What went into the carton, or what is wrong and what to do. */
  words: text(500),
  consignment,
});
export type ScannedView = Of<typeof scanned>;

export const offer = object({
  service: text(),
  name: text(),
  rate: nullable(decimal<Amount>()),
  arrives: nullable(day()),
  /** Of those that arrive in time, the cheapest. */
  best: flag(),
  inTime: flag(),
  /** Why there is no rate. */
  fault: note(),
});
export type OfferView = Of<typeof offer>;

export const walk = object({
  warehouse: code<WarehouseCode>(),
  /** Of all shipments that are walked at once, in the sequence of the bins. */
  parts: list(object({ part, shipmentNumber: text(), customer: text(), tote: note(), consignment: id() })),
});
export type WalkView = Of<typeof walk>;
