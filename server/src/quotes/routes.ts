import { quoteRoutes } from '@nockwright/contract/quotes';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand } from '../http/mount';
import { acceptQuote } from './accept-quote';
import { loseQuote } from './lose-quote';
import { reviseQuote } from './revise-quote';
import { sendQuote } from './send-quote';

export function mountQuotes(app: Hono, services: Services): void {
  mountCommand(app, services, quoteRoutes.sendQuote, (context, { params, body }) => sendQuote(context, params.quote, body.version, body.seen));
  mountCommand(app, services, quoteRoutes.reviseQuote, (context, { params, body }) => reviseQuote(context, params.quote, body.version));
  mountCommand(app, services, quoteRoutes.acceptQuote, (context, { params, body }) => acceptQuote(context, params.quote, body));
  mountCommand(app, services, quoteRoutes.loseQuote, (context, { params, body }) => loseQuote(context, params.quote, body));
}
