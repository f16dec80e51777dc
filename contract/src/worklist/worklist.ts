import type { CustomerId, ItemCode, LineId, OrderId } from '@nockwright/core/ids';
import { part } from '../promise';
import { cause, code, flag, get, id, integer, list, moment, note, nullable, object, oneOf, optional, post, text, type Of } from '../shape';

/** A customer to be told that a promise has moved. */
const call = object({
  id: id(),
  order: id<OrderId>(),
  number: text(),
  line: id<LineId>(),
  lineNo: integer(),
  customer: text(),
  customerId: id<CustomerId>(),
  contact: note(),
  phone: note(),
  item: code<ItemCode>(),
  told: list(part),
  holds: list(part),
  say: text(1000),
  /** Why the promise moved; one from before there were causes says it in `why`. */
  cause: nullable(cause),
  why: note(),
  madeAt: moment(),
  madeBy: note(),
  doneAt: nullable(moment()),
  doneBy: note(),
});
export type CallView = Of<typeof call>;

const callList = object({ calls: list(call), open: integer() });
export type CallList = Of<typeof callList>;

export const worklistRoutes = {
  listCalls: get('/calls', {
    summary: 'Customers to be told that a promise has moved, oldest first',
    query: object({ order: optional(id<OrderId>()), customer: optional(id<CustomerId>()), state: optional(oneOf('open', 'done')) }),
    reply: callList,
  }),
  closeCall: post('/calls/{call}/told', {
    summary: 'The customer has been told',
    roles: ['coordinator', 'manager'],
    params: object({ call: id() }),
    body: object({ told: flag() }),
    reply: callList,
  }),
};
