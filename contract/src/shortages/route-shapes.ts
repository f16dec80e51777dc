import type { ItemCode, ShipToId, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import { POLICY_NAMES, ROUTE_KINDS } from '@nockwright/core/shortages';
import { code, day, decimal, flag, id, integer, list, nullable, number, object, oneOf, optional, quantity, sealed, text, type Of } from '../shape';

export const routeKind = oneOf(...ROUTE_KINDS);
export const policyName = oneOf(...POLICY_NAMES);

/** A way to be taken for a quantity, in stocking units. */
export const routeWish = object({
  kind: routeKind,
  quantity: quantity(),
  /** Who is bought from: special order and drop ship. */
  supplier: optional(code<SupplierCode>()),
  /** Where a transfer comes from. */
  warehouse: optional(code<WarehouseCode>()),
  /** What goes instead. */
  item: optional(code<ItemCode>()),
  /** Where a drop shipment goes, where that is another address of the customer than the line's. */
  shipTo: optional(id<ShipToId>()),
  /** What is bought for stock besides, where the whole purchase comes to less so: special order. */
  more: optional(quantity()),
});
export type RouteWish = Of<typeof routeWish>;

const leaving = object({ day: day(), quantity: decimal<Quantity>() });
const obligation = object({ kind: oneOf('consent', 'below_minimum', 'not_returnable', 'surplus'), words: text(400) });

const part = object({
  kind: routeKind,
  supplier: nullable(code<SupplierCode>()),
  warehouse: nullable(code<WarehouseCode>()),
  item: nullable(code<ItemCode>()),
  label: text(400),
  quantity: decimal<Quantity>(),
  buys: decimal<Quantity>(),
  more: decimal<Quantity>(),
  leaves: list(leaving),
  shipDay: nullable(day()),
  deliveryDay: nullable(day()),
  unitCost: decimal<UnitPrice>(),
  holds: integer(0, 100),
  /** The day that holds as often as is asked; null: none is known. */
  safeDay: nullable(day()),
  /** It waits for a purchase that nobody has made yet. */
  unbought: flag(),
});

/** One answer to a shortage: a way, or two or three that share the quantity. */
export const routeChoice = object({
  parts: list(part, 1, 3),
  label: text(800),
  quantity: decimal<Quantity>(),
  shipDay: nullable(day()),
  deliveryDay: nullable(day()),
  daysLate: nullable(integer()),
  /** Calendar days late of one on average. */
  meanLate: nullable(number()),
  unitCost: decimal<UnitPrice>(),
  marginAmount: decimal<Amount>(),
  marginPercent: nullable(decimal()),
  shipments: integer(),
  holds: integer(0, 100),
  obliges: list(obligation),
  remarks: list(text(800)),
  possible: flag(),
  beaten: flag(),
});
export type RouteChoice = Of<typeof routeChoice>;

/** The ways for what is short of a line, what the policy prefers first. */
export const routeChoices = object({
  short: decimal<Quantity>(),
  unit: text(),
  policy: policyName,
  /** Who has their promise earlier, or one at all, from the goods a line gives back that it was promised late. */
  frees: list(object({ number: text(), customer: text(), item: code<ItemCode>(), quantity: decimal<Quantity>(), to: nullable(day()) })),
  /** Drop shipments that another way takes back from their suppliers, in words. */
  takesBack: list(text(300)),
  routes: list(routeChoice),
});
export type RouteChoices = Of<typeof routeChoices>;

/** What a route has led to. */
const ledTo = object({ kind: oneOf('purchase', 'transfer', 'assembly', 'line'), id: id(), number: text(), state: text() });

/** A route that was chosen for a line. */
export const chosenRoute = object({
  id: id(),
  kind: routeKind,
  /** From whom, from where, or what instead, in words; empty where there is nothing to say. */
  from: nullable(text()),
  quantity: decimal<Quantity>(),
  day: nullable(day()),
  unitCost: sealed('cost', decimal<UnitPrice>()),
  document: nullable(ledTo),
});
export type ChosenRoute = Of<typeof chosenRoute>;

/** What taking a route back does and takes. */
export const undoing = object({
  /** What happens, a sentence each. */
  does: list(text(400)),
  /** What the line is promised when it is done, and what has no day; null for a line of a draft. */
  after: nullable(object({ schedule: list(object({ day: day(), quantity: decimal<Quantity>() })), uncovered: decimal<Quantity>() })),
  /** The supplier has the order: cancel it with them, or keep the goods for others. */
  asksSupplier: flag(),
  /** Why it cannot be taken back; empty where it can. */
  barred: list(text(400)),
});
export type Undoing = Of<typeof undoing>;
