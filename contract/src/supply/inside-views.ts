import type { ItemCode, OrderId } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { warehouse } from './purchase-views';
import { code, day, decimal, flag, id, integer, list, nullable, object, oneOf, text, type Of } from '../shape';

/** The order line that goods are for. */
const forLine = nullable(object({ order: id<OrderId>(), number: text(), lineNo: integer(), customer: text() }));

export const transfer = object({
  id: id(),
  number: text(),
  from: warehouse,
  to: warehouse,
  state: oneOf('open', 'shipped', 'closed', 'cancelled'),
  version: integer(),
  createdDay: day(),
  shipDay: day(),
  expectedDay: day(),
  lines: list(
    object({
      id: id(),
      lineNo: integer(),
      item: code<ItemCode>(),
      description: text(),
      unit: text(),
      quantity: decimal<Quantity>(),
      cancelled: decimal<Quantity>(),
      shipped: decimal<Quantity>(),
      received: decimal<Quantity>(),
      /** Did not come, or came unfit to be sold. */
      lost: decimal<Quantity>(),
      damaged: decimal<Quantity>(),
      /** What is still to come in. */
      open: decimal<Quantity>(),
      for: forLine,
      /** Each piece of it has a serial number. */
      tracksSerials: flag(),
    }),
  ),
});
export type TransferView = Of<typeof transfer>;

export const assembly = object({
  id: id(),
  number: text(),
  item: code<ItemCode>(),
  description: text(),
  unit: text(),
  warehouse,
  state: oneOf('open', 'closed', 'cancelled'),
  version: integer(),
  quantity: decimal<Quantity>(),
  built: decimal<Quantity>(),
  cancelled: decimal<Quantity>(),
  open: decimal<Quantity>(),
  createdDay: day(),
  expectedDay: day(),
  for: forLine,
  /** The assembly it is a part of, and those that are put together for it first. */
  parent: nullable(object({ id: id(), number: text() })),
  parts: list(object({ id: id(), number: text(), item: code<ItemCode>(), state: oneOf('open', 'closed', 'cancelled') })),
  tracksSerials: flag(),
  components: list(
    object({ item: code<ItemCode>(), description: text(), unit: text(), perUnit: decimal(), needed: decimal<Quantity>(), setAside: decimal<Quantity>() }),
  ),
});
export type AssemblyView = Of<typeof assembly>;

/** A transfer or an assembly in a list. */
export const inside = object({
  kind: oneOf('transfer', 'assembly'),
  id: id(),
  number: text(),
  what: text(),
  state: oneOf('open', 'shipped', 'closed', 'cancelled'),
  expectedDay: day(),
  lines: integer(),
});
export type InsideRow = Of<typeof inside>;
