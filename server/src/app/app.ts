import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { serveStatic } from '@hono/node-server/serve-static';
import { openApi } from '@nockwright/contract/api';
import { Hono, type Context, type Handler } from 'hono';
import { requestId } from 'hono/request-id';
import { mountAccess } from '../access';
import { mountBoards } from '../boards';
import { mountCustomers } from '../customers';
import { mountDocuments } from '../documents';
import type { LiveFeed } from '../events';
import { mountExchange } from '../exchange';
import { mountFirm } from '../firm';
import { mountItems, mountStock } from '../items';
import { mountSerials } from '../serials';
import { mountLedger } from '../ledger';
import { mountMail } from '../mail';
import { mountOrders } from '../orders';
import { mountPayables } from '../payables';
import { mountPricing } from '../pricing';
import { mountPromise } from '../promise';
import { mountQuotes } from '../quotes';
import { mountBilling } from '../billing';
import { mountCounter } from '../counter';
import { mountShipping } from '../shipping';
import { mountShortages } from '../shortages';
import { mountSupply } from '../supply';
import { mountWorklist } from '../worklist';
import { mountApiPage } from './api-page';
import type { Services } from '../http/context';
import { noValueOf, outageOf } from '../http/outage';
import { Refusal, type RefusalKind } from '../http/refusal';
import { deadline, headers, limitBody, namesItself, sameOrigin, sandboxed } from '../http/security';

/** PostgreSQL's own refusals that a request can cause, told as ours: the constraint says what it guards. */
const GUARDS: Record<string, string> = {
  stock_not_oversold: 'There is not enough supply for this promise.',
  most_not_exceeded: 'More would be bought under the contract than it allows.',
  stock_not_picked_twice: 'These goods are allocated to another pick.',
  place_not_allocated_twice: 'These goods are allocated to a pick. Report there what is missing, or return the pick to stock first.',
  line_not_exceeded: 'More would be shipped or cancelled than was ordered.',
  purchase_not_exceeded: 'More would be received or closed than was ordered.',
};

/** Refusals by which somebody is seen to try what they may not. */
const WATCHED: ReadonlySet<RefusalKind> = new Set(['not-logged-in', 'wrong-log-in', 'code-needed', 'not-allowed', 'wrong-origin', 'too-many']);

/** The whole application. `pages`: the folder of the built web pages; none for the API alone. */
export function createApp(services: Services, feed: LiveFeed, pages?: string): Hono {
  const app = new Hono();
  app.use(requestId());
  app.use(sandboxed);
  app.use('/answer/*', namesItself);
  app.use(headers);
  app.use('/api/*', deadline, sameOrigin, limitBody, async (c, next) => {
    await next();
    c.header('Cache-Control', 'no-store');
  });
  app.onError((error, c) => toProblem(error, c, services));
  let page: string | null = null;
  app.get('/api/openapi.json', (c) => c.body((page ??= JSON.stringify(openApi())), 200, { 'Content-Type': 'application/json' }));
  mountApiPage(app);
  mountAccess(app, services);
  mountFirm(app, services);
  mountCustomers(app, services);
  mountItems(app, services);
  mountStock(app, services);
  mountSerials(app, services);
  mountOrders(app, services);
  mountPricing(app, services);
  mountQuotes(app, services);
  mountDocuments(app, services);
  mountMail(app, services);
  mountShortages(app, services);
  mountSupply(app, services);
  mountShipping(app, services);
  mountCounter(app, services);
  mountBilling(app, services);
  mountLedger(app, services);
  mountPayables(app, services);
  mountPromise(app, services);
  mountBoards(app, services);
  mountWorklist(app, services);
  mountExchange(app, services, feed);
  app.all('/api/*', () => {
    throw new Refusal('not-found', 'There is no such route; /api/docs lists them.');
  });
  if (pages) mountPages(app, pages);
  return app;
}

function toProblem(error: Error, c: Context, { log }: Services): Response {
  const request = c.get('requestId') as string | undefined;
  const asked = { request, path: withoutLink(c.req.path), method: c.req.method };
  const refusal = error instanceof Refusal ? error : (guardOf(error) ?? outageOf(error) ?? noValueOf(error));
  if (refusal) {
    if (refusal.status === 503) {
      log.warn({ error: error.message, ...asked }, refusal.message);
      c.header('Retry-After', '1');
    }
    if (WATCHED.has(refusal.kind)) log.info({ refused: refusal.kind, ...asked }, 'refused');
    return c.json({ ...refusal.toProblem(), instance: instanceOf(request) }, refusal.status as 400, { 'Content-Type': 'application/problem+json' });
  }
  log.error({ error, ...asked }, 'unexpected error');
  const problem = {
    type: '/problems/unexpected',
    title: 'Something went wrong on our side',
    status: 500,
    detail: `Nothing was changed. Try again; if it happens again, tell who looks after Nockwright, with the number ${request}.`,
    instance: instanceOf(request),
  };
  return c.json(problem, 500, { 'Content-Type': 'application/problem+json' });
}

/** Whoever has the link may answer: it is in no log. */
function withoutLink(path: string): string {
  return path.replace(/^\/answer\/.*/, '/answer/…');
}

/** Names the one request in the problem and in the log. */
function instanceOf(request: string | undefined): string {
  return `/requests/${request ?? 'unknown'}`;
}

function guardOf(error: Error): Refusal | null {
  const constraint = (error as { constraint?: string }).constraint;
  const guard = constraint ? GUARDS[constraint] : undefined;
  return guard ? new Refusal('conflict', `${guard} Nothing was changed.`) : null;
}

/** Where index.html holds the place of the nonce that lets Angular add its styles. */
const NONCE_PLACE = 'page-nonce';

function mountPages(app: Hono, pages: string) {
  const page: Handler = async (c) => {
    const html = await readFile(join(pages, 'index.html'), 'utf8');
    return c.html(html.replace(NONCE_PLACE, String(c.get('secureHeadersNonce'))), 200, { 'Cache-Control': 'no-cache' });
  };
  const files = serveStatic({ root: pages, onFound: (_path, c) => c.header('Cache-Control', 'public, max-age=31536000, immutable') });
  // A file where there is one; any other address is a page of the application, which has its own router.
  app.get('*', (c, next) => (isFile(c.req.path) ? files(c, next) : page(c, next)), page);
}

/** Built files have an ending; the start page is not among them, since it needs its nonce. */
function isFile(path: string): boolean {
  return path !== '/index.html' && path.split('/').at(-1)!.includes('.');
}
