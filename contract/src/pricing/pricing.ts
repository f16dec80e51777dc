import type { ContractId, CustomerId, ItemCode, ShipToId } from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
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
  note,
  nullable,
  object,
  oneOf,
  optional,
  post,
  put,
  quantity,
  text,
  type Of,
  unitPrice,
} from '../shape';

const TERMS = ['fixed', 'off_list', 'cost_plus'] as const;

const contractRow = object({
  id: id(),
  number: text(),
  name: text(),
  customers: note(),
  firstDay: day(),
  lastDay: day(),
  state: oneOf('coming', 'in_force', 'ended'),
  /** Days until it ends; null where it has ended or not begun. */
  endsIn: nullable(integer()),
  lines: integer(),
  /** Of the line that is used most, in percent; null where no line has a most. */
  used: nullable(decimal<Quantity>()),
});
export type ContractRow = Of<typeof contractRow>;

const contractLine = object({
  id: id(),
  lineNo: integer(1),
  item: nullable(code<ItemCode>()),
  group: nullable(text()),
  description: note(),
  kind: oneOf(...TERMS),
  unit: nullable(text(10)),
  price: nullable(decimal<UnitPrice>()),
  percent: nullable(decimal()),
  /** In stocking units, as the next two. */
  minimum: nullable(decimal<Quantity>()),
  most: nullable(decimal<Quantity>()),
  used: decimal<Quantity>(),
  /** What the list asks for one of the unit, and the margin this line leaves; null where it is for a group. */
  listPrice: nullable(decimal<UnitPrice>()),
  marginPercent: nullable(decimal()),
  /** What asks less than this line: the list, or a buyer's own. */
  lower: list(text(300)),
  /** Lines of other contracts in force at the same time for the same customers and goods. */
  overlaps: list(text(300)),
});
export type ContractLineView = Of<typeof contractLine>;

const place = object({ id: id(), name: text() });
const buyer = object({
  customer: id<CustomerId>(),
  number: text(),
  name: text(),
  /** The one address it is for; null: every address of theirs. */
  shipTo: nullable(place),
  /** All their addresses. */
  places: list(place),
});
export type ContractBuyer = Of<typeof buyer>;

const contract = object({
  id: id(),
  number: text(),
  name: text(),
  firstDay: day(),
  lastDay: day(),
  state: oneOf('coming', 'in_force', 'ended'),
  note: note(),
  version: integer(),
  buyers: list(buyer),
  lines: list(contractLine),
  /** What was sold under it so far, what that would have been at list price, and what is left after cost. */
  sold: object({ amount: decimal<Amount>(), atList: decimal(), marginPercent: nullable(decimal()), listMarginPercent: nullable(decimal()) }),
});
export type ContractView = Of<typeof contract>;

const lineWish = object({
  item: optional(code<ItemCode>()),
  group: optional(text()),
  kind: oneOf(...TERMS),
  unit: optional(text(10)),
  price: optional(unitPrice()),
  percent: optional(awaited()),
  minimum: optional(quantity()),
  most: optional(quantity()),
});
export type ContractLineWish = Of<typeof lineWish>;

const listRow = object({ code: code(), name: text(), prices: integer(), customers: integer() });
export type PriceListRow = Of<typeof listRow>;

const priceRow = object({
  item: code<ItemCode>(),
  description: text(),
  unit: text(10),
  from: decimal(),
  price: decimal<UnitPrice>(),
  listPrice: decimal<UnitPrice>(),
  marginPercent: nullable(decimal()),
  /** Another price of the list by which the same goods cost less; null where there is none. */
  lower: nullable(object({ unit: text(10), from: decimal(), price: decimal<UnitPrice>() })),
});
export type PriceRow = Of<typeof priceRow>;
const priceList = object({ code: code(), name: text(), version: integer(), prices: list(priceRow, 0, 100_000) });
export type PriceListView = Of<typeof priceList>;

const contractPath = object({ contract: id<ContractId>() });

export const pricingRoutes = {
  listContracts: get('/contracts', {
    summary: 'Contracts, those that end first before the others',
    query: object({ search: optional(note(100)), customer: optional(id<CustomerId>()), state: optional(oneOf('coming', 'in_force', 'ended', 'all')) }),
    reply: list(contractRow),
  }),
  readContract: get('/contracts/{contract}', {
    summary: 'A contract with who buys under it, its lines, what is used and what it did to margin',
    params: contractPath,
    reply: contract,
  }),
  createContract: post('/contracts', {
    summary: 'Make a contract',
    roles: ['manager'],
    body: object({ name: text(), firstDay: day(), lastDay: day(), note: optional(note()) }),
    reply: contract,
  }),
  changeContract: put('/contracts/{contract}', {
    summary: 'Change name, days or note of a contract, and who buys under it',
    roles: ['manager'],
    params: contractPath,
    body: object({
      version: integer(),
      name: optional(text()),
      firstDay: optional(day()),
      lastDay: optional(day()),
      note: optional(note()),
      buyers: optional(list(object({ customer: id<CustomerId>(), shipTo: nullable(id<ShipToId>()) }), 0, 500)),
    }),
    reply: contract,
  }),
  storeContractLines: put('/contracts/{contract}/lines', {
    summary: 'Write lines of a contract: those for the same item or group and unit are changed, others added; `all`: those not named are taken off',
    roles: ['manager'],
    params: contractPath,
    body: object({ version: integer(), lines: list(lineWish, 0, 2000), all: flag() }),
    reply: contract,
  }),
  contractHistory: get('/contracts/{contract}/history', { summary: 'What happened to a contract, newest first', params: contractPath, reply: history }),
  listPriceLists: get('/price-lists', { summary: 'Price lists', reply: list(listRow) }),
  readPriceList: get('/price-lists/{list}', { summary: 'A price list with its quantity breaks', params: object({ list: code() }), reply: priceList }),
  storePrices: put('/price-lists/{list}', {
    summary: 'Write prices of a list: those for the same item, unit and quantity are changed, others added; `all`: those not named are taken off',
    roles: ['manager'],
    params: object({ list: code() }),
    body: object({
      prices: list(object({ item: code<ItemCode>(), unit: text(10), from: quantity(), price: unitPrice() }), 0, 20_000),
      all: flag(),
      version: integer(),
    }),
    reply: priceList,
  }),
  priceListHistory: get('/price-lists/{list}/history', {
    summary: 'What happened to a price list, newest first',
    params: object({ list: code() }),
    reply: history,
  }),
};
