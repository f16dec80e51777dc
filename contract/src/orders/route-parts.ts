import type { ContractId, LineId, OrderId, ShipToId, WarehouseCode } from '@nockwright/core/ids';
import { code, day, flag, id, integer, list, note, nullable, object, oneOf, optional, quantity, text } from '../shape';
import { ORDER_SOURCES } from './order-views';

export const order = object({ order: id<OrderId>() });

export const version = integer();

/** Fields of a draft's head. */
export const headFields = {
  shipTo: optional(id<ShipToId>()),
  poNumber: optional(note(60)),
  requestKind: optional(oneOf('ship_by', 'deliver_by')),
  requestedDay: optional(day()),
  warehouse: optional(code<WarehouseCode>()),
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
  contract: optional(nullable(id<ContractId>())),
  source: optional(oneOf(...ORDER_SOURCES)),
  note: optional(note(2000)),
  /** Of a quote: the last day it binds. */
  validUntil: optional(day()),
};

/** What the coordinator saw of a line when they decided: the server compares it with what is true under lock. */
export const seen = object({ line: id<LineId>(), schedule: list(object({ day: day(), quantity: quantity() })), uncovered: text(20) });
