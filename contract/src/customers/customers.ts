import type { CustomerId, ItemCode, OrderId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import {
  amount,
  code,
  day,
  decimal,
  email,
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
  remove,
  ROLES,
  text,
  type Of,
} from '../shape';

export const shipTo = object({ id: id(), name: text(), street: text(), postcode: text(), town: text(), country: text() });
export type ShipTo = Of<typeof shipTo>;

const found = object({ id: id(), number: text(), prospect: flag(), name: text(), contact: note(), phone: note(), town: text(), postcode: text() });
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

const contact = object({ id: id(), name: text(60), role: note(60), phone: note(40), email: note(200) });
export type Contact = Of<typeof contact>;

/** What a customer calls an item on their own papers. */
const itemNumber = object({ item: code<ItemCode>(), description: text(), code: text(40) });
export type ItemNumber = Of<typeof itemNumber>;

/** How a customer pays for freight: not at all, so much an order, what the carrier asks, or the carrier directly. */
const freightRule = oneOf('included', 'flat', 'at_cost', 'own_account');

const customer = object({
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

const address = { name: text(100), street: text(100), postcode: text(20), town: text(60), country: text(2) };

/** A customer who is like one that is to be made, and in what. */
const double = object({ customer: found, alike: list(text()) });
export type Double = Of<typeof double>;

/** An item a customer bought: how often, and how much of it last or on a named order. */
const bought = object({
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

const pastOrder = object({ id: id(), number: text(), poNumber: note(), day: day(), lines: integer() });
export type PastOrder = Of<typeof pastOrder>;

const DESK = ['coordinator', 'manager'] as const;
const who = object({ customer: id<CustomerId>() });

export const customerRoutes = {
  findCustomers: get('/customers', {
    summary: 'Find customers by any fragment of name, number, phone, town, postcode or contact',
    roles: ROLES,
    query: object({ search: optional(note(100)) }),
    reply: list(found),
  }),
  readCustomer: get('/customers/{customer}', {
    summary: 'A customer with ship-tos and what they bought last',
    params: who,
    reply: customer,
  }),
  findDoubles: get('/customers/doubles', {
    summary: 'Customers like one that is to be made: in name, phone, mail or postcode',
    query: object({ name: optional(note(100)), phone: optional(note(40)), email: optional(note(200)), postcode: optional(note(20)) }),
    reply: list(double),
  }),
  createCustomer: post('/customers', {
    summary: 'Make a customer, or a prospect who may be quoted; they begin without credit',
    roles: DESK,
    body: object({
      ...address,
      contact: note(60),
      phone: note(40),
      email: optional(email()),
      prospect: flag(),
      termsDays: optional(integer(0, 180)),
      warehouse: optional(code<WarehouseCode>()),
      priceList: optional(nullable(code())),
    }),
    reply: customer,
  }),
  changeCustomer: put('/customers/{customer}', {
    summary: 'Change the record of a customer: name, how to reach them, and what their orders begin with',
    roles: DESK,
    params: who,
    body: object({
      version: integer(1),
      ...address,
      contact: note(60),
      phone: note(40),
      email: nullable(email()),
      deliveryRule: oneOf('complete', 'parts'),
      mostShipments: nullable(integer(1, 99)),
      warehouse: code<WarehouseCode>(),
      carrierService: code(),
      termsDays: integer(0, 180),
      priority: integer(1, 9),
      notes: note(1000),
    }),
    reply: customer,
  }),
  setShippingTerms: put('/customers/{customer}/shipping-terms', {
    summary: 'What a customer pays for freight, and whether they take despatch advices as files (UBL 2.1)',
    roles: DESK,
    params: who,
    body: object({
      version: integer(1),
      freightRule,
      freightFlat: nullable(amount()),
      freightFreeFrom: nullable(amount()),
      freightAccount: note(40),
      takesAdvices: flag(),
    }),
    reply: customer,
  }),
  storeContact: put('/customers/{customer}/contacts', {
    summary: 'Keep a person one speaks to at a customer; with an `id` in the place of what was kept of them',
    roles: DESK,
    params: who,
    body: object({ id: optional(id()), name: text(60), role: note(60), phone: note(40), email: nullable(email()) }),
    reply: customer,
  }),
  removeContact: remove('/customers/{customer}/contacts/{contact}', {
    summary: 'Remove a person from those one speaks to at a customer',
    roles: DESK,
    params: object({ customer: id<CustomerId>(), contact: id() }),
    reply: customer,
  }),
  setItemNumber: put('/customers/{customer}/item-numbers/{item}', {
    summary: 'What a customer calls an item: found by it, read in their mails, written on their papers; null: as we do',
    roles: DESK,
    params: object({ customer: id<CustomerId>(), item: code<ItemCode>() }),
    body: object({ code: nullable(text(40)) }),
    reply: customer,
  }),
  customerHistory: get('/customers/{customer}/history', { summary: 'What happened with a customer’s record', params: who, reply: history }),
  makeCustomer: post('/customers/{customer}/promote', {
    summary: 'Make a prospect a customer: they may be sold to from now on',
    roles: DESK,
    params: who,
    reply: customer,
  }),
  addShipTo: post('/customers/{customer}/ship-tos', {
    summary: 'Add an address goods may be sent to',
    roles: DESK,
    params: who,
    body: object(address),
    reply: shipTo,
  }),
  addReminder: post('/customers/{customer}/reminders', {
    summary: 'Leave a note that shows when the customer is spoken to next',
    params: who,
    body: object({ text: text(500) }),
    reply: customer,
  }),
  closeReminder: post('/customers/{customer}/reminders/{reminder}/close', {
    summary: 'Take a note away that is dealt with',
    params: object({ customer: id<CustomerId>(), reminder: id() }),
    reply: customer,
  }),
  setCreditLimit: put('/customers/{customer}/credit-limit', {
    summary: 'Set how much a customer may owe; null: no limit',
    roles: ['finance', 'manager'],
    params: who,
    body: object({ limit: nullable(amount()), reason: text(300), /** The limit that was seen. */ was: nullable(decimal<Amount>()) }),
    reply: customer,
  }),
  setLifeAsked: put('/customers/{customer}/least-life', {
    summary: 'How many days of life must be left on delivery to a customer; null: as the items say',
    roles: ['coordinator', 'manager'],
    params: who,
    body: object({ days: nullable(integer(0, 3650)) }),
    reply: object({ days: nullable(integer()) }),
  }),
  readBought: get('/customers/{customer}/bought', {
    summary: 'What a customer buys, most often first; or what was on one of their orders',
    params: who,
    query: object({ order: optional(id<OrderId>()) }),
    reply: list(bought),
  }),
  listPastOrders: get('/customers/{customer}/orders', {
    summary: 'The last orders of a customer, newest first',
    params: who,
    reply: list(pastOrder),
  }),
};
