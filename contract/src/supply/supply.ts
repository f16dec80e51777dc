import { exchangeFileRoutes, message } from './exchange';
import { supplierRoutes } from './suppliers';
import { accepting, decision, rippleView } from '../promise';
import {
  awaited,
  code,
  day,
  decimal,
  flag,
  get,
  history,
  id,
  integer,
  list,
  moment,
  note,
  nullable,
  object,
  oneOf,
  optional,
  post,
  put,
  quantity,
  ROLES,
  sealed,
  sealedList,
  text,
  unitPrice,
  type Of,
} from '../shape';

const purchaseState = oneOf('draft', 'sent', 'acknowledged', 'closed', 'cancelled');
const purchaseKind = oneOf('stock', 'drop_ship');

/** An order that is owed goods from a purchase line. */
const owed = object({ order: id(), number: text(), lineNo: integer(), customer: text(), quantity: decimal(), day: day(), bound: flag() });

const line = object({
  id: id(),
  lineNo: integer(),
  item: code(),
  description: text(),
  unit: text(),
  quantity: decimal(),
  received: decimal(),
  closed: decimal(),
  /** Came unfit to be sold, and stands in quarantine. */
  damaged: decimal(),
  open: decimal(),
  cost: sealed('cost', decimal()),
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
  /** Where it lives at the warehouse it comes to. */
  home: nullable(code()),
  owed: list(owed),
});

const purchase = object({
  id: id(),
  number: text(),
  supplier: object({ code: code(), name: text(), email: note() }),
  kind: purchaseKind,
  state: purchaseState,
  version: integer(),
  warehouse: nullable(code()),
  shipTo: note(),
  order: nullable(object({ id: id(), number: text() })),
  createdDay: day(),
  note: note(),
  value: sealed('cost', decimal()),
  lines: list(line),
  /** What the supplier says has left them and is not taken in yet. */
  notices: list(
    object({
      id: id(),
      number: text(),
      day: day(),
      tracking: note(),
      lines: list(object({ line: id(), quantity: decimal(), lot: note(), expires: nullable(day()) })),
    }),
  ),
  /** What was told them on paper, newest first, and where it was mailed. */
  papers: list(object({ id: id(), at: moment() })),
  mails: list(object({ id: id(), subject: text(500), recipients: list(text()), state: oneOf('waiting', 'sent', 'failed'), at: moment() })),
  messages: sealedList('cost', message),
});
export type PurchaseView = Of<typeof purchase>;

const row = object({
  id: id(),
  number: text(),
  supplier: text(),
  kind: purchaseKind,
  state: purchaseState,
  warehouse: nullable(code()),
  order: nullable(text()),
  expectedDay: nullable(day()),
  lines: integer(),
  openLines: integer(),
  value: sealed('cost', decimal()),
  overdue: flag(),
  /** The supplier answered other than as ordered, and nobody has seen to it. */
  toLook: flag(),
});
export type PurchaseRow = Of<typeof row>;

/** What another cost makes of the margin on goods that are owed from a purchase line. */
const marginMove = object({
  order: id(),
  number: text(),
  lineNo: integer(),
  customer: text(),
  quantity: decimal(),
  /** In percent of what the customer pays for them; null where that is nothing. */
  before: nullable(decimal()),
  after: nullable(decimal()),
  /** Of the margin, in the order's currency; below 0 where there is more. */
  lost: decimal(),
  currency: text(3),
});
export type MarginMove = Of<typeof marginMove>;

/** What a change of supply does to promises, the day its goods could leave, and what another cost does to margins. */
const supplyRipple = object({ availableDay: nullable(day()), ripple: rippleView, margins: optional(sealedList('margin', marginMove)) });
export type SupplyRipple = Of<typeof supplyRipple>;

const receipt = object({
  purchase,
  goesTo: list(object({ order: id(), number: text(), lineNo: integer(), customer: text(), item: code(), quantity: decimal(), day: day() })),
});
export type ReceiptReply = Of<typeof receipt>;

const warehouse = object({ code: code(), name: text() });
export type Warehouse = Of<typeof warehouse>;

/** What has come of a line, of one lot into one bin; the same line may stand more than once. */
const arrival = object({
  line: id(),
  /** Fit to be sold. */
  quantity: awaited(),
  /** Goes into quarantine; as much is still awaited. */
  damaged: optional(quantity()),
  lot: optional(note(20)),
  expires: optional(day()),
  bin: optional(note(40)),
});
export type Arrival = Of<typeof arrival>;

/** Goods that are due at a warehouse. */
const expected = object({
  kind: oneOf('purchase', 'transfer'),
  id: id(),
  number: text(),
  from: text(),
  warehouse: code(),
  expectedDay: day(),
  overdue: flag(),
  lines: integer(),
  items: note(),
});
export type ExpectedRow = Of<typeof expected>;

/** What a scan or typed words mean at the dock. */
const scanned = object({
  item: nullable(code()),
  description: note(),
  lot: note(),
  expires: nullable(day()),
  count: nullable(decimal()),
  /** Where it is awaited from. */
  awaited: list(
    object({ kind: oneOf('purchase', 'transfer'), id: id(), number: text(), from: text(), line: nullable(id()), open: decimal(), expectedDay: day() }),
  ),
});
export type Scanned = Of<typeof scanned>;

/** The order line that goods are for. */
const forLine = nullable(object({ order: id(), number: text(), lineNo: integer(), customer: text() }));

const transfer = object({
  id: id(),
  number: text(),
  from: warehouse,
  to: warehouse,
  state: oneOf('open', 'shipped', 'closed', 'cancelled'),
  version: integer(),
  createdDay: day(),
  shipDay: day(),
  expectedDay: day(),
  lines: list(
    object({
      id: id(),
      lineNo: integer(),
      item: code(),
      description: text(),
      unit: text(),
      quantity: decimal(),
      cancelled: decimal(),
      shipped: decimal(),
      received: decimal(),
      /** Did not come, or came unfit to be sold. */
      lost: decimal(),
      damaged: decimal(),
      /** What is still to come in. */
      open: decimal(),
      for: forLine,
    }),
  ),
});
export type TransferView = Of<typeof transfer>;

const assembly = object({
  id: id(),
  number: text(),
  item: code(),
  description: text(),
  unit: text(),
  warehouse,
  state: oneOf('open', 'closed', 'cancelled'),
  version: integer(),
  quantity: decimal(),
  built: decimal(),
  cancelled: decimal(),
  open: decimal(),
  createdDay: day(),
  expectedDay: day(),
  for: forLine,
  /** The assembly it is a part of, and those that are put together for it first. */
  parent: nullable(object({ id: id(), number: text() })),
  parts: list(object({ id: id(), number: text(), item: code(), state: oneOf('open', 'closed', 'cancelled') })),
  components: list(object({ item: code(), description: text(), unit: text(), perUnit: decimal(), needed: decimal(), setAside: decimal() })),
});
export type AssemblyView = Of<typeof assembly>;

/** A transfer or an assembly in a list. */
const inside = object({
  kind: oneOf('transfer', 'assembly'),
  id: id(),
  number: text(),
  what: text(),
  state: oneOf('open', 'shipped', 'closed', 'cancelled'),
  expectedDay: day(),
  lines: integer(),
});
export type InsideRow = Of<typeof inside>;

const transferId = object({ transfer: id() });
const assemblyId = object({ assembly: id() });
const hands = ['coordinator', 'warehouse', 'manager'] as const;
const purchaseId = object({ purchase: id() });
const lineId = object({ purchase: id(), line: id() });
const buyers = ['coordinator', 'manager'] as const;

export const supplyRoutes = {
  ...exchangeFileRoutes,
  ...supplierRoutes,
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
      supplier: code(),
      warehouse: code(),
      note: optional(note(500)),
      lines: list(object({ item: code(), quantity: quantity(), cost: optional(unitPrice()), expectedDay: optional(day()) }), 1, 200),
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
      lines: list(object({ id: optional(id()), item: code(), quantity: quantity(), cost: optional(unitPrice()), expectedDay: optional(day()) }), 0, 200),
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
    query: object({ warehouse: optional(code()), search: optional(note(100)) }),
    reply: list(expected),
  }),
  readScan: get('/receiving/scan', {
    roles: ROLES,
    summary: 'What a scanned label or typed words mean at the dock, and where it is awaited from',
    query: object({ text: note(200), warehouse: optional(code()) }),
    reply: scanned,
  }),
  confirmDespatch: post('/purchases/{purchase}/despatch', {
    summary: "Confirm the supplier's notice that a drop shipment has left",
    roles: ['coordinator', 'warehouse', 'manager'],
    params: purchaseId,
    body: object({ version: integer(), tracking: note(80), lines: list(object({ line: id(), quantity: quantity() }), 1, 200) }),
    reply: purchase,
  }),
  listInside: get('/inside', {
    roles: ROLES,
    summary: 'Transfers between warehouses and assemblies, what is due first',
    query: object({ state: optional(oneOf('open', 'all')) }),
    reply: list(inside),
  }),
  createTransfer: post('/transfers', {
    summary: 'Have free goods brought from one warehouse to another',
    roles: buyers,
    body: object({ from: code(), to: code(), lines: list(object({ item: code(), quantity: quantity() }), 1, 100) }),
    reply: transfer,
  }),
  createAssembly: post('/assemblies', {
    summary: 'Have an item put together from free goods',
    roles: buyers,
    body: object({ item: code(), warehouse: code(), quantity: quantity() }),
    reply: assembly,
  }),
  transferHistory: get('/transfers/{transfer}/history', {
    roles: ROLES,
    summary: 'What happened to a transfer, newest first',
    params: transferId,
    reply: history,
  }),
  assemblyHistory: get('/assemblies/{assembly}/history', {
    roles: ROLES,
    summary: 'What happened to an assembly, newest first',
    params: assemblyId,
    reply: history,
  }),
  readTransfer: get('/transfers/{transfer}', { roles: ROLES, summary: 'A transfer between warehouses', params: transferId, reply: transfer }),
  shipTransfer: post('/transfers/{transfer}/ship', {
    summary: 'The goods leave for the other warehouse',
    roles: hands,
    params: transferId,
    body: object({ version: integer() }),
    reply: transfer,
  }),
  receiveTransfer: post('/transfers/{transfer}/receive', {
    summary: 'Take in what has come; with closeRest what has not is lost, and promises made on it move as decided, or wait again',
    roles: hands,
    params: transferId,
    body: object({
      version: integer(),
      lines: list(
        object({
          line: id(),
          /** Fit to be sold. */
          quantity: awaited(),
          /** Goes into quarantine, and is awaited no more. */
          damaged: optional(quantity()),
          bin: optional(note(40)),
        }),
        1,
        200,
      ),
      closeRest: optional(flag()),
      decision: optional(decision),
    }),
    reply: transfer,
  }),
  previewTransferReceipt: get('/transfers/{transfer}/receipt', {
    roles: ROLES,
    summary: 'Whose promises would move by what has come in of a transfer, line by line: `12:5` sound, or `12:5:1` with one damaged',
    params: transferId,
    query: object({ lines: text(4000), closeRest: optional(flag()), accept: accepting }),
    reply: supplyRipple,
  }),
  previewTransferChange: get('/transfers/{transfer}/change', {
    summary: 'Whose promises another day of a transfer would move, or less of it: what is still to come by line, as `12:5,13:0`',
    params: transferId,
    query: object({ day: optional(day()), lines: optional(text(4000)), accept: accepting }),
    reply: supplyRipple,
  }),
  changeTransfer: put('/transfers/{transfer}', {
    summary: 'Another day for a transfer, or less of it while it has not left; with a decision, move the promises that were seen to move',
    roles: buyers,
    params: transferId,
    body: object({
      version: integer(),
      expectedDay: optional(day()),
      /** What is still to come of a line. */
      lines: optional(list(object({ line: id(), open: awaited() }), 0, 200)),
      note: optional(note(300)),
      decision: optional(decision),
    }),
    reply: transfer,
  }),
  cancelTransfer: post('/transfers/{transfer}/cancel', {
    summary: 'Take a transfer back that has not left; promises made on it move as decided, or wait again',
    roles: buyers,
    params: transferId,
    body: object({ version: integer(), reason: text(300), decision: optional(decision) }),
    reply: transfer,
  }),
  readAssembly: get('/assemblies/{assembly}', { roles: ROLES, summary: 'An assembly with its components', params: assemblyId, reply: assembly }),
  buildAssembly: post('/assemblies/{assembly}/build', {
    summary: 'Book what was put together: components are used up, the goods are on the shelf',
    roles: hands,
    params: assemblyId,
    body: object({ version: integer(), quantity: quantity() }),
    reply: assembly,
  }),
  previewAssemblyChange: get('/assemblies/{assembly}/change', {
    summary: 'Whose promises another day of an assembly would move, or fewer of it (open; 0: all is given up)',
    params: assemblyId,
    query: object({ day: optional(day()), open: optional(awaited()), accept: accepting }),
    reply: supplyRipple,
  }),
  changeAssembly: put('/assemblies/{assembly}', {
    summary: 'Another day for an assembly, or fewer of it; with a decision, move the promises that were seen to move',
    roles: buyers,
    params: assemblyId,
    body: object({
      version: integer(),
      expectedDay: optional(day()),
      /** How many are still to be put together. */
      open: optional(awaited()),
      note: optional(note(300)),
      decision: optional(decision),
    }),
    reply: assembly,
  }),
  cancelAssembly: post('/assemblies/{assembly}/cancel', {
    summary: 'Give an assembly up; components go back to the shelf, promises made on it move as decided, or wait again',
    roles: buyers,
    params: assemblyId,
    body: object({ version: integer(), reason: text(300), decision: optional(decision) }),
    reply: assembly,
  }),
  purchaseHistory: get('/purchases/{purchase}/history', { summary: 'What happened to a purchase order, newest first', params: purchaseId, reply: history }),
};
