import { anything, get, id, list, note, object, oneOf, optional, ROLES, text, type Of } from '../shape';

/** Something the search field found. */
const finding = object({ kind: oneOf('order', 'customer', 'item', 'purchase', 'supplier', 'serial'), id: id(), key: text(), label: text(), hint: note() });
export type Finding = Of<typeof finding>;

export const exchangeRoutes = {
  orderBook: get('/order-book', { summary: 'The whole live book in the open exchange format of the promise computation', reply: anything() }),
  find: get('/find', {
    roles: ROLES,
    summary: 'Find any order, customer, item, purchase order, supplier or serial number by a fragment',
    query: object({ q: optional(note(100)) }),
    reply: list(finding),
  }),
  live: get('/live', { roles: ROLES, summary: 'Changes as server-sent events: each names the topics that changed', media: 'text/event-stream' }),
  health: get('/health', {
    summary: 'Whether the server is alive; one that is not is to be started again',
    roles: 'public',
    reply: object({ status: oneOf('ok') }),
  }),
  ready: get('/ready', {
    summary: 'Whether the server can work: it reaches its database; one that cannot gets no requests from a balancer meanwhile',
    roles: 'public',
    reply: object({ status: oneOf('ok') }),
  }),
};
