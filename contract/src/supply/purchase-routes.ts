import type { ItemCode, PurchaseLineId, PurchaseId, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import { arrival, expected, purchase, receipt, row, scanned, supplyRipple, warehouse } from './purchase-views';
import { accepting, decision } from '../promise';
import {
  awaited,
  code,
  day,
  flag,
  get,
  history,
  id,
  integer,
  list,
  note,
  object,
  oneOf,
  optional,
  post,
  put,
  quantity,
  ROLES,
  text,
  unitPrice,
} from '../shape';

const purchaseId = object({ purchase: id<PurchaseId>() });
const lineId = object({ purchase: id<PurchaseId>(), line: id<PurchaseLineId>() });
const buyers = ['coordinator', 'manager'] as const;

export const purchaseRoutes = {
  listWarehouses: get('/warehouses', { roles: ROLES, summary: 'Warehouses', reply: list(warehouse) }),
  listPurchases: get('/purchases', {
    roles: ROLES,
    summary: 'Purchase orders, what is due first',
    query: object({ search: optional(note(100)), state: optional(oneOf('open', 'look', 'closed', 'all')) }),
    reply: list(row),
  }),
  readPurchase: get('/purchases/{purchase}', {
    roles: ROLES,
    summary: 'A purchase order with what is owed from each line',
    params: purchaseId,
    reply: purchase,
  }),
  createPurchase: post('/purchases', {
    summary: 'Start a purchase order to stock',
    roles: buyers,
    body: object({
      supplier: code<SupplierCode>(),
      warehouse: code<WarehouseCode>(),
      note: optional(note(500)),
      lines: list(object({ item: code<ItemCode>(), quantity: quantity(), cost: optional(unitPrice()), expectedDay: optional(day()) }), 1, 200),
    }),
    reply: purchase,
  }),
  changeDraft: put('/purchases/{purchase}/draft', {
    summary: 'Change a draft by hand: its free lines, as they stand from now on, and its note; what is bought for an order line keeps its quantity',
    roles: buyers,
    params: purchaseId,
    body: object({
      version: integer(),
      note: optional(note(500)),
      /** Lines without an id are new; free lines that are left out are struck. */
      lines: list(
        object({ id: optional(id()), item: code<ItemCode>(), quantity: quantity(), cost: optional(unitPrice()), expectedDay: optional(day()) }),
        0,
        200,
      ),
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
  acknowledge: post('/purchases/{purchase}/acknowledge', {
    summary: 'The supplier confirms a purchase order as it was sent',
    roles: buyers,
    params: purchaseId,
    body: object({ version: integer(), note: optional(note(300)) }),
    reply: purchase,
  }),
  previewReschedule: get('/purchases/{purchase}/lines/{line}/reschedule', {
    summary: 'Whose promises another expected day, or another quantity to come, would move, and whose margin another cost',
    params: lineId,
    query: object({ day: optional(day()), open: optional(awaited()), cost: optional(unitPrice()), accept: accepting }),
    reply: supplyRipple,
  }),
  reschedule: put('/purchases/{purchase}/lines/{line}', {
    summary: 'Record the day the supplier now expects, what is still to come, or what it costs; with a decision, move the promises that were seen to move',
    roles: buyers,
    params: lineId,
    body: object({
      version: integer(),
      expectedDay: optional(day()),
      open: optional(awaited()),
      cost: optional(unitPrice()),
      note: optional(note(500)),
      decision: optional(decision),
    }),
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
  previewCancel: get('/purchases/{purchase}/cancel', {
    summary: 'Whose promises would move if nothing more comes of a purchase order',
    params: purchaseId,
    query: object({ accept: accepting }),
    reply: supplyRipple,
  }),
  cancelPurchase: post('/purchases/{purchase}/cancel', {
    summary: 'Cancel what is open of a purchase order, by us or by the supplier; promises that lose their goods move as decided, or wait again',
    roles: buyers,
    params: purchaseId,
    body: object({ version: integer(), by: oneOf('us', 'supplier'), reason: text(300), decision: optional(decision) }),
    reply: purchase,
  }),
  previewReceipt: get('/purchases/{purchase}/receipt', {
    roles: ROLES,
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
      lines: list(arrival, 1, 200),
      closeRest: optional(flag()),
      /** The supplier's notice that this was announced by: it is dealt with. */
      notice: optional(id()),
      decision: optional(decision),
    }),
    reply: receipt,
  }),
  listExpected: get('/receiving', {
    roles: ROLES,
    summary: 'What is due at a warehouse, what is due first first',
    query: object({ warehouse: optional(code<WarehouseCode>()), search: optional(note(100)) }),
    reply: list(expected),
  }),
  readScan: get('/receiving/scan', {
    roles: ROLES,
    summary: 'What a scanned label or typed words mean at the dock, and where it is expected from',
    query: object({ text: note(200), warehouse: optional(code<WarehouseCode>()) }),
    reply: scanned,
  }),
  confirmDespatch: post('/purchases/{purchase}/despatch', {
    summary: "Confirm the supplier's notice that a drop shipment has left",
    roles: ['coordinator', 'warehouse', 'manager'],
    params: purchaseId,
    body: object({ version: integer(), tracking: note(80), lines: list(object({ line: id<PurchaseLineId>(), quantity: quantity() }), 1, 200) }),
    reply: purchase,
  }),
  purchaseHistory: get('/purchases/{purchase}/history', { summary: 'What happened to a purchase order, newest first', params: purchaseId, reply: history }),
};
