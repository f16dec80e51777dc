import type { WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import { credit, reminder, shipTo } from '../customers';
import { policyName } from '../shortages';
import { LOST_REASONS } from '@nockwright/core/orders';
import { code, day, decimal, flag, id, integer, list, moment, note, nullable, object, oneOf, sealed, sealedList, text, type Of, type Role } from '../shape';
import { lineView } from './line-views';

/** How an order reached the desk. */
export const ORDER_SOURCES = ['phone', 'mail', 'counter', 'portal', 'file'] as const;

/** Why an order, a line or a part of it is cancelled. */
export const CANCEL_REASONS = ['customer_changed_mind', 'ordered_by_mistake', 'too_late', 'price', 'out_of_stock', 'duplicate', 'other'] as const;

/** A paper as it was told, and to whom it was mailed. */
const paper = object({
  id: id(),
  kind: oneOf('acknowledgement', 'quote', 'pro_forma'),
  at: moment(),
  mails: list(object({ id: id(), recipients: list(text()), state: oneOf('waiting', 'sent', 'failed'), at: moment() })),
});
export type PaperView = Of<typeof paper>;

const file = object({ id: id(), name: text(), media: text(), size: integer(1), by: text(), at: moment() });
export type FileView = Of<typeof file>;

const contractName = object({ id: id(), number: text(), name: text(), lastDay: day() });

/** Who may let an order go that is held, by why it is. */
export const HOLD_CLEARED_BY: Readonly<Record<'below_floor' | 'credit' | 'customer', readonly Role[]>> = {
  below_floor: ['manager'],
  credit: ['finance', 'manager'],
  customer: ['coordinator', 'manager'],
};

/** What the customer's text asks for that is no line of the order, and how it was dealt with. */
const orderTask = object({
  id: id(),
  words: text(500),
  by: text(),
  at: moment(),
  closed: nullable(object({ by: text(), at: moment(), how: note(300) })),
});
export type OrderTask = Of<typeof orderTask>;

/** Why an order waits for someone, until they clear it. */
const hold = object({
  id: id(),
  kind: oneOf('below_floor', 'credit', 'customer'),
  why: text(500),
  by: text(),
  at: moment(),
  cleared: nullable(object({ by: text(), at: moment(), why: text(500) })),
});
export type HoldView = Of<typeof hold>;

/** What an order is in: a quote goes out (`quoted`) and is accepted or lost, an order is released. */
export const ORDER_STATES = ['draft', 'released', 'discarded', 'quoted', 'accepted', 'lost'] as const;

/** A service of a carrier, with its working days on the way. */
export const carrier = object({ code: code(), name: text(), transitDays: integer() });
export type Carrier = Of<typeof carrier>;

const order = object({
  id: id(),
  kind: oneOf('order', 'quote'),
  number: nullable(text()),
  state: oneOf(...ORDER_STATES),
  /** Of a quote: the last day it binds, how often it was revised, why it was lost, and the orders it led to. */
  validUntil: nullable(day()),
  revision: integer(1),
  lost: nullable(object({ reason: oneOf(...LOST_REASONS), note: note(500) })),
  orders: list(object({ id: id(), number: nullable(text()), progress: text() })),
  /** Of an order: the quote it came from. */
  quote: nullable(object({ id: id(), number: text(), validUntil: day() })),
  /** How far it has come, from its quantities. */
  progress: text(),
  version: integer(),
  /** Its class, 1 first to 9 last; and whether it was placed in the queue by hand. */
  priority: integer(),
  placed: flag(),
  savedAt: moment(),
  customer: object({
    id: id(),
    number: text(),
    name: text(),
    /** Quoted, not sold to yet. */
    prospect: flag(),
    phone: note(),
    contact: note(),
    email: note(),
    notes: note(),
    /** Left for whoever speaks to them next. */
    reminders: list(reminder),
    shipTos: list(shipTo),
    /** How sure promises to them must be, in percent; null: as the desk's are. */
    confidence: nullable(integer(50, 99)),
    /** How ways out of a shortage are ranked for them (null: as the desk does), and whether they are asked before a later day is settled. */
    routePolicy: nullable(policyName),
    asksWhenLate: flag(),
    /** Days of life that must be left on delivery; null: as the items say. */
    leastLife: nullable(integer()),
    credit: sealed('credit', credit),
  }),
  /** The same for customers without one of their own; null: the supplier's day is believed. */
  deskConfidence: nullable(integer(50, 99)),
  shipTo,
  poNumber: note(),
  /** Other orders of the customer with the same number: the same order twice, perhaps. */
  poRepeats: list(object({ id: id(), number: text(), day: day() })),
  requestKind: oneOf('ship_by', 'deliver_by'),
  requestedDay: day(),
  warehouse: code<WarehouseCode>(),
  carrier,
  shipComplete: flag(),
  mostShipments: nullable(integer(1, 99)),
  /** In how many shipments it comes as it is promised now, those that have left among them. */
  shipmentsPlanned: integer(),
  termsDays: integer(0, 365),
  /** What its days count from: the invoice, or the end of its month. */
  termsKind: oneOf('net', 'month_end'),
  description: note(),
  /** The contract the customer named, and those they could name. */
  contract: nullable(contractName),
  contracts: list(contractName),
  mustNameContract: flag(),
  /** Why it may not be released yet, and what was let go. */
  holds: sealedList('credit', hold),
  tasks: list(orderTask),
  /** What was told on paper, newest first, and what is attached. */
  papers: list(paper),
  files: list(file),
  source: oneOf(...ORDER_SOURCES),
  note: note(),
  lines: list(lineView),
  /** The day the last line leaves; null while one has none. */
  wholeDay: nullable(day()),
  amount: decimal<Amount>(),
  marginPercent: sealed('margin', decimal()),
  /** The least margin, in percent, that a price by hand leaves without an approval; null: any. */
  floor: sealed('margin', decimal<UnitPrice>()),
  weight: decimal(),
  currency: text(),
  spoken: note(4000),
  /** Customers of this order's lines still to be told that a promise has moved. */
  calls: integer(),
  shipments: list(
    object({
      id: id(),
      number: text(),
      state: oneOf('picking', 'shipped', 'cancelled'),
      from: text(),
      day: nullable(day()),
      tracking: note(),
      /** What it leaves with; null where a supplier ships it. */
      consignment: nullable(id()),
      /** What its carrier said last. */
      tracked: nullable(oneOf('picked_up', 'in_transit', 'out_for_delivery', 'delivered', 'exception')),
      /** The invoice that bills it. */
      invoice: nullable(text()),
      lines: list(object({ lineNo: integer(), quantity: decimal<Quantity>() })),
    }),
  ),
});
export type OrderView = Of<typeof order>;
export const orderView = order;
