import type { ItemCode, LineId, OrderId } from '@nockwright/core/ids';
import type { Amount, Quantity } from '@nockwright/core/money';
import { code, day, decimal, flag, id, integer, list, note, nullable, object, optional, text, type Of } from '../shape';

export const part = object({ day: day(), quantity: decimal<Quantity>() });
export type PromisePart = Of<typeof part>;

/** A line whose promise moves, or could. */
const mover = object({
  line: id<LineId>(),
  order: id<OrderId>(),
  number: text(),
  lineNo: integer(),
  customer: text(),
  phone: note(),
  item: code<ItemCode>(),
  /** What leaves on another day than before, in stocking units; null where it waits. */
  moves: list(object({ quantity: decimal<Quantity>(), from: nullable(day()), to: nullable(day()) })),
  /** What moves in all. */
  quantity: decimal<Quantity>(),
  /** Of the part that moves furthest; null where it waits. */
  from: nullable(day()),
  to: nullable(day()),
  /** Calendar days later, or earlier where below 0; null where it begins or ceases to wait. */
  days: nullable(integer(-1_000_000, 1_000_000)),
  before: list(part),
  after: list(part),
  /** Of the quantity that moves, in the order's currency. */
  value: decimal<Amount>(),
  /** A line of the order that is changed. */
  own: flag(),
  /** The customer has been told a day. */
  told: flag(),
  /** Of an offer: only where somebody before it leaves the goods. */
  instead: flag(),
  say: text(1000),
});
export type Mover = Of<typeof mover>;

/** What a change does to the promises of others, before it is done. */
const moves = {
  /** Later or without supply, worst first. */
  later: list(mover),
  earlier: list(mover),
  /** What it frees for those who wait or are late, in the sequence of orders: taken or left. */
  offers: list(mover),
};
export const rippleView = object(moves);
export type RippleView = Of<typeof rippleView>;

/** The first of all that could be had now, and how many they are. */
export const offersView = object({ ...moves, count: integer() });
export type OffersView = Of<typeof offersView>;

/** What was decided on a ripple: the moves as they were seen, and the offers that are taken. */
export const decision = object({
  seen: list(object({ line: id<LineId>(), after: list(part) })),
  accept: list(id<LineId>()),
});
export type Decision = Of<typeof decision>;

/** Offers taken while looking: line ids with commas between. */
export const accepting = optional(note(4000));
