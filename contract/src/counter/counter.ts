import type { CustomerId, ItemCode, LineId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import {
  amount,
  code,
  content,
  decimal,
  email,
  flag,
  get,
  id,
  integer,
  list,
  moment,
  nullable,
  object,
  oneOf,
  optional,
  post,
  quantity,
  text,
  unitPrice,
  type Of,
} from '../shape';

const SELLERS = ['coordinator', 'warehouse', 'manager'] as const;
/** The most a signature may have, as a picture. */
const MOST_SIGNATURE = 200_000;

const basket = object({
  order: id<OrderId>(),
  version: integer(),
  /** Once it is paid. */
  number: nullable(text()),
  warehouse: code<WarehouseCode>(),
  state: oneOf('open', 'paid', 'dropped'),
  customer: text(),
  customerId: id<CustomerId>(),
  cash: flag(),
  currency: text(),
  lines: list(
    object({
      line: id<LineId>(),
      item: code<ItemCode>(),
      description: text(),
      unit: text(),
      quantity: decimal<Quantity>(),
      price: decimal<UnitPrice>(),
      priceSource: text(),
      amount: decimal<Amount>(),
      lots: list(text()),
    }),
  ),
  net: decimal<Amount>(),
  taxes: list(object({ percent: decimal(), tax: decimal<Amount>() })),
  /** What is to be paid: with tax. */
  total: decimal<Amount>(),
  /** The number of the invoice it is billed by. */
  invoice: nullable(text()),
  payment: nullable(
    object({ method: oneOf('cash', 'card', 'account'), amount: decimal<Amount>(), given: decimal<Amount>(), change: decimal<Amount>(), reference: text(60) }),
  ),
  openedAt: moment(),
  openedBy: text(),
});
export type BasketView = Of<typeof basket>;

const row = object({
  order: id<OrderId>(),
  warehouse: code<WarehouseCode>(),
  customer: text(),
  lines: integer(),
  total: decimal<Amount>(),
  openedAt: moment(),
  openedBy: text(),
});
export type BasketRow = Of<typeof row>;

const answer = object({ ok: flag(), words: text(500), basket });
export type CounterScan = Of<typeof answer>;

const one = object({ order: id<OrderId>() });

export const counterRoutes = {
  listBaskets: get('/counter', {
    summary: 'Baskets that are open at a counter: their goods are held',
    roles: SELLERS,
    query: object({ warehouse: optional(code<WarehouseCode>()) }),
    reply: list(row),
  }),
  startBasket: post('/counter', {
    summary: 'Start a basket for a customer who stands there, or for cash (customer null)',
    roles: SELLERS,
    body: object({ warehouse: code<WarehouseCode>(), customer: nullable(id<CustomerId>()) }),
    reply: basket,
  }),
  readBasket: get('/counter/{order}', { summary: 'A basket with its lines, or what became of it', roles: SELLERS, params: one, reply: basket }),
  scanBasket: post('/counter/{order}/scan', {
    summary: 'Scan goods into a basket, where they are held from then on; or take them back',
    roles: SELLERS,
    params: one,
    body: object({ scan: text(200), count: quantity(), back: flag() }),
    reply: answer,
  }),
  priceBasket: post('/counter/{order}/price', {
    summary: 'Set the price of a line, no lower than the floor margin allows',
    roles: SELLERS,
    params: one,
    body: object({ line: id<LineId>(), price: unitPrice(), reason: text(200) }),
    reply: basket,
  }),
  payBasket: post('/counter/{order}/pay', {
    summary: 'Take the payment: the goods leave, and the receipt is made',
    roles: SELLERS,
    params: one,
    body: object({
      version: integer(1),
      method: oneOf('cash', 'card', 'account'),
      /** Of cash: what was handed over. */
      given: optional(amount()),
      /** A picture, PNG in base64. */
      signature: optional(content(MOST_SIGNATURE)),
    }),
    reply: basket,
  }),
  dropBasket: post('/counter/{order}/drop', {
    summary: 'Drop a basket: its goods are for anyone again',
    roles: SELLERS,
    params: one,
    body: object({}),
    reply: basket,
  }),
  mailReceipt: post('/counter/{order}/receipt/mail', {
    summary: 'Mail the receipt of a sale that is paid',
    roles: SELLERS,
    params: one,
    body: object({ email: email() }),
    reply: basket,
  }),
  readReceipt: get('/counter/{order}/receipt', { summary: 'The receipt, 80 mm wide', roles: SELLERS, params: one, media: 'application/pdf' }),
};
