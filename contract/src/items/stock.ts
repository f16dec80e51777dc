import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { accepting, decision, rippleView } from '../promise';
import { awaited, code, day, decimal, flag, get, id, list, note, nullable, object, oneOf, optional, post, put, quantity, ROLES, text, type Of } from '../shape';

/** Whether goods may be promised; what is in quarantine is in the house and nobody's. */
export const stockStatus = oneOf('available', 'quarantine');
export type StockStatus = Of<typeof stockStatus>;

/** Why stock is put right. */
export const adjustmentReason = oneOf('found', 'lost', 'damaged', 'expired', 'sample', 'mixed_up', 'other');
export type AdjustmentReason = Of<typeof adjustmentReason>;

const place = object({
  id: id(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  warehouse: code<WarehouseCode>(),
  /** Empty: nobody has said where. */
  bin: note(40),
  /** Empty: none is known. */
  lot: note(20),
  expires: nullable(day()),
  status: stockStatus,
  quantity: decimal<Quantity>(),
  expired: flag(),
  /** Each piece has a serial number. */
  tracksSerials: flag(),
});
export type StockPlace = Of<typeof place>;

const counted = { warehouse: code<WarehouseCode>(), counted: awaited(), place: optional(id()) };

export const hands = ['coordinator', 'warehouse', 'manager'] as const;

export const stockRoutes = {
  listPlaces: get('/stock/places', {
    roles: ROLES,
    summary: 'What stands where: by warehouse, bin, lot and status, what expires first first',
    query: object({
      search: optional(note(100)),
      warehouse: optional(code<WarehouseCode>()),
      item: optional(code<ItemCode>()),
      only: optional(oneOf('all', 'quarantine', 'expiring', 'nowhere')),
    }),
    reply: list(place),
  }),
  listBins: get('/warehouses/{warehouse}/bins', {
    roles: ROLES,
    summary: 'The bins of a warehouse, in the sequence of the walk',
    params: object({ warehouse: code<WarehouseCode>() }),
    reply: list(code()),
  }),
  addBin: post('/warehouses/{warehouse}/bins', {
    summary: 'Add a bin to a warehouse',
    roles: hands,
    params: object({ warehouse: code<WarehouseCode>() }),
    body: object({ bin: code() }),
    reply: list(code()),
  }),
  setWalk: put('/warehouses/{warehouse}/walk', {
    summary: 'In which sequence the bins of a warehouse are walked: all of them, each once',
    roles: ['coordinator', 'manager'],
    params: object({ warehouse: code<WarehouseCode>() }),
    body: object({ bins: list(code(), 1, 60_000) }),
    reply: list(code()),
  }),
  setHome: put('/items/{item}/home', {
    summary: 'Say in which bin an item lives at a warehouse: what comes in without another word is put there',
    roles: hands,
    params: object({ item: code<ItemCode>() }),
    body: object({ warehouse: code<WarehouseCode>(), bin: nullable(code()) }),
    reply: object({ bin: nullable(code()) }),
  }),
  previewCount: get('/items/{item}/count', {
    roles: ROLES,
    summary: 'Whose promises a corrected count would move; of one place where it is named',
    params: object({ item: code<ItemCode>() }),
    query: object({ ...counted, accept: accepting }),
    reply: rippleView,
  }),
  previewMove: get('/stock/places/{place}/move', {
    roles: ROLES,
    summary: 'Whose promises would move if goods went into quarantine, or came out of it',
    params: object({ place: id() }),
    query: object({ quantity: quantity(), status: stockStatus, accept: accepting }),
    reply: rippleView,
  }),
  moveGoods: post('/stock/places/{place}/move', {
    summary: 'Put goods into another bin, into quarantine, or back among what may be sold',
    roles: hands,
    params: object({ place: id() }),
    body: object({
      quantity: quantity(),
      bin: optional(note(40)),
      status: optional(stockStatus),
      cause: optional(adjustmentReason),
      note: optional(note(200)),
      /** Of an item that has them: which pieces move. Where all of a place moves, they need not be named. */
      serials: optional(note(20_000)),
      decision: optional(decision),
    }),
    reply: list(place),
  }),
  previewLot: get('/items/{item}/lots/{lot}', {
    roles: ROLES,
    summary: 'Whose promises would move if a lot had another last day',
    params: object({ item: code<ItemCode>(), lot: text(20) }),
    query: object({ expires: optional(day()), accept: accepting }),
    reply: rippleView,
  }),
  correctLot: put('/items/{item}/lots/{lot}', {
    summary: 'Correct the last day of a lot, or its name, with a reason; promises move as was seen',
    roles: ['coordinator', 'manager'],
    params: object({ item: code<ItemCode>(), lot: text(20) }),
    body: object({ expires: nullable(day()), rename: optional(text(20)), reason: text(200), decision }),
    reply: list(place),
  }),
  countStock: post('/items/{item}/count', {
    summary: 'Correct what is on hand to what was counted, of all that may be sold or of one place; promises move as was seen',
    roles: ['coordinator', 'manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({ ...counted, cause: optional(adjustmentReason), reason: text(200), decision }),
    reply: object({ onHand: decimal<Quantity>() }),
  }),
};
