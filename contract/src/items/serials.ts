import type { CustomerId, ItemCode, OrderId, WarehouseCode } from '@nockwright/core/ids';
import { code, flag, get, id, list, moment, note, nullable, object, oneOf, optional, post, ROLES, text, type Of } from '../shape';
import { hands, stockStatus } from './stock';

const row = object({
  id: id(),
  serial: text(20),
  /** Whether it is free in the house, packed, in a basket, with a customer, or nobody has said. */
  state: oneOf('in_stock', 'packed', 'basket', 'shipped', 'missing'),
  /** In words. */
  where: text(200),
  warehouse: note(),
  bin: note(),
  lot: note(),
  shipment: nullable(text()),
  order: nullable(id<OrderId>()),
  customer: nullable(text()),
  customerId: nullable(id<CustomerId>()),
});
export type SerialRow = Of<typeof row>;

/** A step of its way. */
const step = object({
  at: moment(),
  kind: oneOf('received', 'placed', 'packed', 'shipped', 'brought_back', 'missed'),
  warehouse: note(),
  bin: note(),
  lot: note(),
  /** The paper it moved with. */
  reference: note(),
  by: nullable(text()),
});
export type SerialStep = Of<typeof step>;

const page = object({ item: code<ItemCode>(), description: text(), now: row, steps: list(step) });
export type SerialPage = Of<typeof page>;

export const serialRoutes = {
  readSerial: get('/serials/{serial}', { summary: 'Where a serial number is, and where it was', roles: ROLES, params: object({ serial: id() }), reply: page }),
  listSerials: get('/items/{item}/serials', {
    summary: 'The serial numbers of an item, those in the house first; the first 2,000',
    roles: ROLES,
    params: object({ item: code<ItemCode>() }),
    query: object({ search: optional(note(100)) }),
    reply: object({ item: code<ItemCode>(), description: text(), tracked: flag(), rows: list(row) }),
  }),
  placeSerials: post('/items/{item}/serials', {
    summary:
      'Say which serial numbers are in a bin: scanned, typed or as a range A-01..A-20. Those that were thought to be there beyond what it holds are missing',
    roles: hands,
    params: object({ item: code<ItemCode>() }),
    body: object({
      warehouse: code<WarehouseCode>(),
      bin: note(40),
      lot: optional(note(20)),
      status: optional(stockStatus),
      /** As many as stand there, or fewer. */
      serials: note(20_000),
      reason: optional(note(200)),
    }),
    reply: object({ item: code<ItemCode>(), description: text(), tracked: flag(), rows: list(row) }),
  }),
};
