import { code, day, decimal, get, id, integer, list, note, nullable, object, oneOf, optional, text, type Of } from '../shape';

export const shipTo = object({ id: id(), name: text(), street: text(), postcode: text(), town: text(), country: text() });
export type ShipTo = Of<typeof shipTo>;

const found = object({ id: id(), number: text(), name: text(), contact: note(), phone: note(), town: text(), postcode: text() });
export type CustomerFound = Of<typeof found>;

/** What a customer owes and may owe. */
export const credit = object({
  /** Null: no limit. */
  limit: nullable(decimal()),
  unpaid: decimal(),
  shippedNotBilled: decimal(),
  openOrders: decimal(),
  /** The three above together. */
  exposure: decimal(),
  /** What may still be ordered; below 0 where they are over the limit. */
  left: nullable(decimal()),
  overdue: decimal(),
  overdueSince: nullable(day()),
});
export type CreditView = Of<typeof credit>;

const customer = object({
  id: id(),
  number: text(),
  name: text(),
  contact: note(),
  phone: note(),
  email: note(),
  street: text(),
  postcode: text(),
  town: text(),
  deliveryRule: oneOf('complete', 'parts'),
  warehouse: code(),
  carrierService: code(),
  priceList: nullable(text()),
  termsDays: integer(),
  priority: integer(),
  notes: note(),
  shipTos: list(shipTo),
  openOrders: integer(),
  credit,
  /** What they bought last, newest first. */
  bought: list(object({ item: code(), description: text(), day: day(), quantity: decimal(), unit: text(), price: decimal() })),
});
export type Customer = Of<typeof customer>;

export const customerRoutes = {
  findCustomers: get('/customers', {
    summary: 'Find customers by any fragment of name, number, phone, town, postcode or contact',
    query: object({ search: optional(note(100)) }),
    reply: list(found),
  }),
  readCustomer: get('/customers/{customer}', {
    summary: 'A customer with ship-tos and what they bought last',
    params: object({ customer: id() }),
    reply: customer,
  }),
};
