import type { CustomerId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount } from '@nockwright/core/money';
import { code, day, decimal, id, integer, list, note, nullable, object, oneOf, text, type Of } from '../shape';
import { ORDER_SOURCES, ORDER_STATES } from './order-views';

const row = object({
  id: id(),
  kind: oneOf('order', 'quote'),
  number: nullable(text()),
  customer: text(),
  customerId: id<CustomerId>(),
  town: text(),
  poNumber: note(),
  state: oneOf(...ORDER_STATES),
  progress: text(),
  requestedDay: day(),
  promisedDay: nullable(day()),
  amount: decimal<Amount>(),
  lines: integer(),
  waiting: integer(),
  /** Of a quote: the last day it binds. */
  validUntil: nullable(day()),
  entered: day(),
  source: oneOf(...ORDER_SOURCES),
  warehouse: code<WarehouseCode>(),
});
export type OrderRow = Of<typeof row>;

/** What the list of orders may be sorted by. */
export const ORDER_SORTS = ['newest', 'customer', 'requested', 'promised', 'amount'] as const;
export type OrderSort = (typeof ORDER_SORTS)[number];

/** A page of orders; `next` asks for the one behind it. */
export const orderList = object({ rows: list(row), next: nullable(text(300)) });
export type OrderList = Of<typeof orderList>;

/** A view of the list of orders that somebody keeps: its filter, sort and columns as they stand in the address. */
export const savedView = object({ id: id(), name: text(), query: note(500) });
export type SavedView = Of<typeof savedView>;

/** An order a promise of which is reached too late by its supply, with the day it is; null: not at all. */
export const orderRisks = list(object({ order: id<OrderId>(), day: nullable(day()) }));
