import { credit, reminder, shipTo } from '../customers';
import { part, rippleView } from '../promise';
import { chosenRoute, policyName } from '../shortages';
import { LOST_REASONS } from '@nockwright/core/orders';
import type { PricePin } from '@nockwright/core/pricing';
import {
  alternatives,
  code,
  day,
  decimal,
  flag,
  id,
  integer,
  list,
  moment,
  note,
  nullable,
  object,
  oneOf,
  optional,
  sealed,
  sealedList,
  text,
  unitPrice,
  type Of,
  type Role,
  type Shape,
} from '../shape';

/** How an order reached the desk. */
export const ORDER_SOURCES = ['phone', 'mail', 'counter', 'portal', 'file'] as const;

/** Why an order, a line or a part of it is cancelled. */
export const CANCEL_REASONS = ['customer_changed_mind', 'ordered_by_mistake', 'too_late', 'price', 'out_of_stock', 'duplicate', 'other'] as const;

/** Where a part of a schedule entry comes from. */
const peg = object({
  quantity: decimal(),
  /** `on hand at Marrowby`, `purchase P1042 line 1`. */
  label: text(),
  purchase: nullable(id()),
  /** How its day came about, in words: due, arrival, put away. */
  days: note(),
});
export type PegView = Of<typeof peg>;

const scheduleEntry = object({
  day: day(),
  quantity: decimal(),
  /** Told to the customer already; otherwise what could be promised now. */
  kept: flag(),
  dropShip: flag(),
  /** The day its supply really lets it leave, where that is later than promised. */
  arrives: nullable(day()),
  broken: flag(),
  from: list(peg),
  /** How often a promise for this day holds, in percent, by the record of the suppliers it rests on; 100 from the shelf. */
  holds: integer(0, 100),
  /** The first day that holds as surely as asked; null where none within a year does. */
  safeDay: nullable(day()),
});
export type ScheduleView = Of<typeof scheduleEntry>;

/** Supply of the line's item due at its warehouse: a tick on the date ruler. */
const tick = object({ day: day(), quantity: decimal(), label: text() });
export type SupplyTick = Of<typeof tick>;

const priceStep = object({
  source: text(),
  price: nullable(decimal()),
  why: text(500),
  chosen: flag(),
  /** It asks less than the price that was chosen, for the same goods. */
  lower: optional(flag()),
  /** Where it is a contract line: whether it holds for this line, what is left of it in stocking units, its last day. */
  contract: optional(object({ line: id(), name: text(), holds: flag(), left: nullable(decimal()), lastDay: day() })),
});

/** What is settled about a line's price by hand. */
export const pricePin = alternatives(
  object({ kind: oneOf('manual'), price: unitPrice(), reason: text(300) }),
  object({ kind: oneOf('contract'), line: id() }),
  object({ kind: oneOf('list') }),
) as Shape<PricePin>;

/** What a line would be priced at now, where that is not what was agreed: in several parts where a contract covers only one. */
const offeredPrice = object({
  parts: list(object({ quantity: decimal(), price: decimal(), source: text() })),
  amount: decimal(),
  trail: sealedList('cost', priceStep),
});

const line = object({
  /** 0 for a line that is only looked at, not yet added. */
  id: integer(),
  lineNo: integer(),
  item: code(),
  description: text(),
  /** Of a quote: offered beside the others, in no total; and the line it may be taken instead of. */
  alternative: flag(),
  alternativeTo: nullable(id()),
  /** Of a quote: what has become part of an order, in the unit quoted. */
  accepted: decimal(),
  /** What the customer was quoted for it, where it is on a quote that is out, or came from one. */
  quoted: nullable(object({ quantity: decimal(), unit: text(), price: decimal(), day: nullable(day()) })),
  unit: text(),
  quantity: decimal(),
  stockUnit: text(),
  /** In stocking units, as every quantity below. */
  stockQuantity: decimal(),
  price: decimal(),
  priceSource: text(),
  priceTrail: sealedList('cost', priceStep),
  contractLine: nullable(id()),
  pin: nullable(pricePin),
  /** Of a draft: another price than the one agreed, to be accepted or not. */
  offered: nullable(offeredPrice),
  /** Of a line that is only looked at: what falls to the next source. */
  splits: list(object({ quantity: decimal(), price: decimal(), source: text() })),
  amount: decimal(),
  marginPercent: sealed('margin', decimal()),
  /** What the margin is judged by: so many at a landed cost of an option, at the cost of a purchase, at the item's standard cost. */
  cost: sealedList('cost', object({ quantity: decimal(), each: decimal(), basis: oneOf('landed', 'purchase', 'standard') })),
  warehouse: code(),
  /** The line's own day asked for; null: the order's. */
  requestedDay: nullable(day()),
  /** Where it goes, where that is another address than the order's. */
  shipTo: nullable(shipTo),
  /** The ship day asked for. */
  requested: day(),
  note: note(),
  shipped: decimal(),
  cancelled: decimal(),
  picking: decimal(),
  promised: decimal(),
  dropShip: decimal(),
  waiting: decimal(),
  schedule: list(scheduleEntry),
  uncovered: decimal(),
  daysLate: nullable(integer()),
  /** Of the whole line: how often it holds, the safe day at that confidence, and both in words. */
  holds: integer(0, 100),
  safeDay: nullable(day()),
  sure: integer(50, 99),
  holdsWords: note(400),
  state: oneOf('covered', 'late', 'uncovered', 'done'),
  stateWords: text(),
  why: list(text(500)),
  spoken: text(1000),
  routes: list(chosenRoute),
  /** The line it goes instead of. */
  standsFor: nullable(integer()),
  /** A question to the customer about it that is not settled. */
  asked: nullable(object({ consent: id(), question: text(1000), answerBy: day(), overdue: flag() })),
  ticks: list(tick),
});
export type LineView = Of<typeof line>;
export const lineView = line;

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
const ORDER_STATES = ['draft', 'released', 'discarded', 'quoted', 'accepted', 'lost'] as const;

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
  warehouse: code(),
  carrier,
  shipComplete: flag(),
  mostShipments: nullable(integer(1, 99)),
  /** In how many shipments it comes as it is promised now, those that have left among them. */
  shipmentsPlanned: integer(),
  termsDays: integer(0, 365),
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
  lines: list(line),
  /** The day the last line leaves; null while one has none. */
  wholeDay: nullable(day()),
  amount: decimal(),
  marginPercent: sealed('margin', decimal()),
  /** The least margin, in percent, that a price by hand leaves without an approval; null: any. */
  floor: sealed('margin', decimal()),
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
      /** The invoice that bills it. */
      invoice: nullable(text()),
      lines: list(object({ lineNo: integer(), quantity: decimal() })),
    }),
  ),
});
export type OrderView = Of<typeof order>;
export const orderView = order;

const understood = { value: text(), words: note(500) };

/** A text as it was understood: lines with their likely readings, and what is no line. */
export const textRead = object({
  poNumber: nullable(object(understood)),
  /** When the whole is wanted: the days that may be meant. One is taken; of several, or of none, a person decides. */
  wish: nullable(object({ days: list(day()), words: note(500), kind: oneOf('ship_by', 'deliver_by'), why: note(500), asks: flag() })),
  lines: list(
    object({
      /** Of the text, the first is 1; and the words it was read from. */
      row: integer(1),
      words: note(2000),
      quantity: nullable(decimal()),
      unit: nullable(text(10)),
      day: nullable(day()),
      /** `choose`: one of the readings has to be picked; `unknown`: nothing that is sold was found. */
      certainty: oneOf('sure', 'likely', 'choose', 'unknown'),
      why: note(500),
      /** What the line may be, the likeliest first: the item, how many of which unit, and its day. */
      readings: list(
        object({
          item: code(),
          description: text(),
          quantity: nullable(decimal()),
          unit: text(10),
          day: nullable(day()),
          units: list(text(10)),
          usual: flag(),
        }),
      ),
    }),
  ),
  /** `task`: it takes back, changes, puts off or hangs on something: it stays in sight until somebody has dealt with it. */
  rest: list(object({ row: integer(1), words: note(2000), kind: oneOf('courtesy', 'unknown', 'task') })),
});
export type TextRead = Of<typeof textRead>;

const row = object({
  id: id(),
  kind: oneOf('order', 'quote'),
  number: nullable(text()),
  customer: text(),
  town: text(),
  poNumber: note(),
  state: oneOf(...ORDER_STATES),
  progress: text(),
  requestedDay: day(),
  promisedDay: nullable(day()),
  amount: decimal(),
  lines: integer(),
  waiting: integer(),
  /** Of a quote: the last day it binds. */
  validUntil: nullable(day()),
  entered: day(),
  source: oneOf(...ORDER_SOURCES),
  warehouse: code(),
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
export const orderRisks = list(object({ order: id(), day: nullable(day()) }));

const bound = object({ kind: oneOf('purchase', 'drop_ship', 'transfer', 'assembly', 'pick'), label: text(), quantity: decimal(), what: text(400) });

/** What a cancellation would free, and what hangs on what is cancelled. */
export const cancellationPreview = object({
  lines: list(object({ line: id(), lineNo: integer(), item: code(), quantity: decimal(), frees: list(object({ day: day(), quantity: decimal() })) })),
  bound: list(bound),
  ripple: rippleView,
});
export type CancellationPreview = Of<typeof cancellationPreview>;

/** What a greater quantity of a line would be promised, and whom it would move where it claims its turn. */
export const raisePreview = object({
  /** Of one of the unit: as agreed, or a break that the greater quantity reaches. */
  price: decimal(),
  priceSource: text(),
  schedule: list(part),
  uncovered: decimal(),
  ripple: rippleView,
});
export type RaisePreview = Of<typeof raisePreview>;
