import type { CustomerId, ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { ROLES, awaited, code, flag, get, history, id, integer, list, note, nullable, object, optional, put, text } from '../shape';

import { found, page, queued, row } from './item';

export const itemRoutes = {
  findItems: get('/items', {
    roles: ROLES,
    summary: 'Find items by any fragments of code, description or group; ranked by what the customer buys where one is named',
    query: object({ search: optional(note(100)), customer: optional(id<CustomerId>()), warehouse: optional(code<WarehouseCode>()) }),
    reply: list(found),
  }),
  listStock: get('/stock', {
    roles: ROLES,
    summary: 'Items with what is on hand, committed, inbound, available and waiting, the first by their code; and how many there are',
    query: object({ search: optional(note(100)), most: optional(integer(1, 2000)) }),
    reply: object({ rows: list(row), count: integer() }),
  }),
  readItem: get('/items/{item}', {
    roles: ROLES,
    summary: 'An item with its stock and timeline by warehouse',
    params: object({ item: code<ItemCode>() }),
    reply: page,
  }),
  readQueue: get('/items/{item}/queue', {
    roles: ROLES,
    summary: 'Who has their turn for an item at a warehouse, in sequence',
    params: object({ item: code<ItemCode>() }),
    query: object({ warehouse: code<WarehouseCode>() }),
    reply: list(queued),
  }),
  setDiscontinued: put('/items/{item}/discontinued', {
    summary: 'An item is no longer made, and what follows it; or it is made again',
    roles: ['coordinator', 'manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({
      discontinued: flag(),
      successor: optional(nullable(code<ItemCode>())),
      /** Suppliers do not sell it any more: it cannot be bought. */
      soldByNobody: optional(flag()),
      reason: optional(note(300)),
    }),
    reply: page,
  }),
  setAlso: put('/items/{item}/also', {
    summary: 'By which other words an item is known, and its sizes: it is found by them',
    roles: ['coordinator', 'manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({ also: note(300) }),
    reply: page,
  }),
  setStep: put('/items/{item}/step', {
    summary: 'In what steps a unit of an item is sold: 1 is whole',
    roles: ['manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({ unit: text(10), step: awaited() }),
    reply: page,
  }),
  setLeastLife: put('/items/{item}/least-life', {
    summary: 'How many days of life must be left of an item on delivery',
    roles: ['coordinator', 'manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({ days: integer(0, 3650) }),
    reply: page,
  }),
  setHandling: put('/items/{item}/handling', {
    summary: 'How an item is handled: its weight, its size in centimetres, what it may not lie with, whether each piece has a serial number',
    roles: ['coordinator', 'manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({
      weight: awaited(),
      length: nullable(awaited()),
      width: nullable(awaited()),
      height: nullable(awaited()),
      apart: note(20),
      tracksSerials: flag(),
    }),
    reply: page,
  }),
  setItemTax: put('/items/{item}/tax-class', {
    summary: 'By which class an item is taxed from the next invoice on',
    roles: ['finance', 'manager'],
    params: object({ item: code<ItemCode>() }),
    body: object({ taxClass: text(20) }),
    reply: page,
  }),
  itemHistory: get('/items/{item}/history', { summary: 'What happened to an item, newest first', params: object({ item: code<ItemCode>() }), reply: history }),
};
