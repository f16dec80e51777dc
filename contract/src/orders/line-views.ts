import type { ItemCode, LineId, PurchaseId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import { shipTo } from '../customers';
import { chosenRoute } from '../shortages';
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
  type Shape,
} from '../shape';

/** Where a part of a schedule entry comes from. */
const peg = object({
  quantity: decimal<Quantity>(),
  /** `on hand at Marrowby`, `purchase P1042 line 1`. */
  label: text(),
  purchase: nullable(id<PurchaseId>()),
  /** How its day came about, in words: due, arrival, put away. */
  days: note(),
});
export type PegView = Of<typeof peg>;

const scheduleEntry = object({
  day: day(),
  quantity: decimal<Quantity>(),
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
const tick = object({ day: day(), quantity: decimal<Quantity>(), label: text() });
export type SupplyTick = Of<typeof tick>;

const priceStep = object({
  source: text(),
  price: nullable(decimal<UnitPrice>()),
  why: text(500),
  chosen: flag(),
  /** It asks less than the price that was chosen, for the same goods. */
  lower: optional(flag()),
  /** Where it is a contract line: whether it holds for this line, what is left of it in stocking units, its last day. */
  contract: optional(object({ line: id<LineId>(), name: text(), holds: flag(), left: nullable(decimal()), lastDay: day() })),
});

/** What is settled about a line's price by hand. */
export const pricePin = alternatives(
  object({ kind: oneOf('manual'), price: unitPrice(), reason: text(300) }),
  object({ kind: oneOf('contract'), line: id<LineId>() }),
  object({ kind: oneOf('list') }),
) as Shape<PricePin>;

/** What a line would be priced at now, where that is not what was agreed: in several parts where a contract covers only one. */
const offeredPrice = object({
  parts: list(object({ quantity: decimal<Quantity>(), price: decimal<UnitPrice>(), source: text() })),
  amount: decimal<Amount>(),
  trail: sealedList('cost', priceStep),
});

const line = object({
  /** 0 for a line that is only looked at, not yet added. */
  id: integer(),
  lineNo: integer(),
  item: code<ItemCode>(),
  description: text(),
  /** The customer's own number of the item; null: they have none. */
  theirCode: nullable(text()),
  /** Of a quote: offered beside the others, in no total; and the line it may be taken instead of. */
  alternative: flag(),
  alternativeTo: nullable(id()),
  /** Of a quote: what has become part of an order, in the unit quoted. */
  accepted: decimal(),
  /** What the customer was quoted for it, where it is on a quote that is out, or came from one. */
  quoted: nullable(object({ quantity: decimal<Quantity>(), unit: text(), price: decimal<UnitPrice>(), day: nullable(day()) })),
  unit: text(),
  quantity: decimal<Quantity>(),
  stockUnit: text(),
  /** In stocking units, as every quantity below. */
  stockQuantity: decimal<Quantity>(),
  price: decimal<UnitPrice>(),
  priceSource: text(),
  priceTrail: sealedList('cost', priceStep),
  contractLine: nullable(id()),
  pin: nullable(pricePin),
  /** Of a draft: another price than the one agreed, to be accepted or not. */
  offered: nullable(offeredPrice),
  /** Of a line that is only looked at: what falls to the next source. */
  splits: list(object({ quantity: decimal<Quantity>(), price: decimal<UnitPrice>(), source: text() })),
  amount: decimal<Amount>(),
  marginPercent: sealed('margin', decimal()),
  /** What the margin is judged by: so many at a landed cost of an option, at the cost of a purchase, at the item's standard cost. */
  cost: sealedList('cost', object({ quantity: decimal<Quantity>(), each: decimal(), basis: oneOf('landed', 'purchase', 'standard') })),
  warehouse: code<WarehouseCode>(),
  /** The line's own day asked for; null: the order's. */
  requestedDay: nullable(day()),
  /** Where it goes, where that is another address than the order's. */
  shipTo: nullable(shipTo),
  /** The ship day asked for. */
  requested: day(),
  note: note(),
  shipped: decimal<Quantity>(),
  cancelled: decimal<Quantity>(),
  picking: decimal(),
  promised: decimal<Quantity>(),
  dropShip: decimal(),
  waiting: decimal<Quantity>(),
  schedule: list(scheduleEntry),
  uncovered: decimal<Quantity>(),
  daysLate: nullable(integer()),
  /** Of the whole line: how often it holds, the safe day at that confidence, and both in words. */
  holds: integer(0, 100),
  safeDay: nullable(day()),
  sure: integer(50, 99),
  holdsWords: note(400),
  state: oneOf('covered', 'late', 'uncovered', 'done'),
  stateWords: text(),
  stateDays: note(),
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
