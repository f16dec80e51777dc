import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import { code, day, decimal, flag, id, integer, list, moment, note, nullable, object, oneOf, text, type Of } from '../shape';

export const shipTo = object({ id: id(), name: text(), street: text(), postcode: text(), town: text(), country: text() });
export type ShipTo = Of<typeof shipTo>;

export const found = object({ id: id(), number: text(), prospect: flag(), name: text(), contact: note(), phone: note(), town: text(), postcode: text() });
export type CustomerFound = Of<typeof found>;

/** Left by somebody for whoever speaks to the customer next. */
export const reminder = object({ id: id(), text: text(500), by: text(), at: moment() });
export type Reminder = Of<typeof reminder>;

/** What a customer owes and may owe. */
export const credit = object({
  /** Null: no limit. */
  limit: nullable(decimal<Amount>()),
  unpaid: decimal(),
  shippedNotBilled: decimal(),
  openOrders: decimal(),
  /** The three above together. */
  exposure: decimal<Amount>(),
  /** What may still be ordered; below 0 where they are over the limit. */
  left: nullable(decimal()),
  overdue: decimal<Amount>(),
  overdueSince: nullable(day()),
});
export type CreditView = Of<typeof credit>;

export const contact = object({ id: id(), name: text(60), role: note(60), phone: note(40), email: note(200) });
export type Contact = Of<typeof contact>;

/** What a customer calls an item on their own papers. */
const itemNumber = object({ item: code<ItemCode>(), description: text(), code: text(40) });
export type ItemNumber = Of<typeof itemNumber>;

/** How a customer pays for freight: not at all, so much an order, what the carrier asks, or the carrier directly. */
export const freightRule = oneOf('included', 'flat', 'at_cost', 'own_account');

export const customer = object({
  id: id(),
  version: integer(1),
  number: text(),
  /** Quoted, not sold to yet. */
  prospect: flag(),
  name: text(),
  contact: note(),
  phone: note(),
  email: note(),
  street: text(),
  postcode: text(),
  town: text(),
  country: text(),
  deliveryRule: oneOf('complete', 'parts'),
  mostShipments: nullable(integer()),
  freightRule,
  freightFlat: nullable(decimal<Amount>()),
  freightFreeFrom: nullable(decimal<Amount>()),
  freightAccount: note(),
  /** Takes a despatch advice as a file with the mail that says goods have left. */
  takesAdvices: flag(),
  warehouse: code<WarehouseCode>(),
  warehouseName: text(),
  carrierService: code(),
  carrierName: text(),
  priceList: nullable(text()),
  /** Must one contract be named on each of their orders. */
  mustNameContract: flag(),
  termsDays: integer(),
  termsKind: oneOf('net', 'month_end'),
  discountPercent: decimal(),
  discountDays: integer(),
  priority: integer(),
  notes: note(),
  reminders: list(reminder),
  contacts: list(contact),
  itemNumbers: list(itemNumber),
  shipTos: list(shipTo),
  openOrders: integer(),
  credit,
  /** What they bought last, newest first. */
  bought: list(object({ item: code<ItemCode>(), description: text(), day: day(), quantity: decimal<Quantity>(), unit: text(), price: decimal<UnitPrice>() })),
});
export type Customer = Of<typeof customer>;

export const address = { name: text(100), street: text(100), postcode: text(20), town: text(60), country: text(2) };

/** A customer who is like one that is to be made, and in what. */
export const double = object({ customer: found, alike: list(text()) });
export type Double = Of<typeof double>;

/** An item a customer bought: how often, and how much of it last or on a named order. */
export const bought = object({
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  units: list(text()),
  quantity: decimal<Quantity>(),
  times: integer(1),
  day: day(),
  price: decimal<UnitPrice>(),
  discontinued: flag(),
});
export type BoughtItem = Of<typeof bought>;

export const pastOrder = object({ id: id(), number: text(), poNumber: note(), day: day(), lines: integer() });
export type PastOrder = Of<typeof pastOrder>;
