import type { LineId } from '@nockwright/core/ids';
import { LOST_REASONS } from '@nockwright/core/orders';
import { orderView, seen } from '../orders';
import { id, integer, list, note, object, oneOf, optional, post, quantity } from '../shape';

const quote = object({ quote: id() });
const version = integer();
const DESK = ['coordinator', 'manager'] as const;

export const quoteRoutes = {
  sendQuote: post('/quotes/{quote}/send', {
    summary: 'Send a quote: it gets its number, and what is offered is kept as it was told',
    roles: DESK,
    params: quote,
    body: object({ version, seen: list(seen) }),
    reply: orderView,
  }),
  reviseQuote: post('/quotes/{quote}/revise', {
    summary: 'Write a quote anew that is out or was lost; it goes out again under the same number as the next revision',
    roles: DESK,
    params: quote,
    body: object({ version }),
    reply: orderView,
  }),
  acceptQuote: post('/quotes/{quote}/accept', {
    summary: 'Make a draft order of what the customer takes of a quote: lines, alternatives, parts of them',
    roles: DESK,
    params: quote,
    body: object({
      version,
      /** Quantities in the unit quoted; without one all that is open of the line. */
      lines: list(object({ line: id<LineId>(), quantity: optional(quantity()) }), 1, 500),
      /** Prices that are looked up otherwise today: as quoted, or left to be settled line by line. */
      prices: oneOf('quoted', 'today'),
      /** What is not taken: still open to them until the quote ends, or closed. */
      rest: oneOf('open', 'closed'),
      poNumber: optional(note(60)),
    }),
    reply: orderView,
  }),
  loseQuote: post('/quotes/{quote}/lose', {
    summary: 'Record that a quote came to nothing, and why',
    roles: DESK,
    params: quote,
    body: object({ version, reason: oneOf(...LOST_REASONS), note: note(500) }),
    reply: orderView,
  }),
};
