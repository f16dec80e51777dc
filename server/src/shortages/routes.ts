import { orderRoutes } from '@nockwright/contract/orders';
import { shortageRoutes } from '@nockwright/contract/shortages';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { chooseRoute, removeRoute } from './choose-route';
import { listShortages } from './list-shortages';
import { readRoutes } from './read-routes';

export function mountShortages(app: Hono, services: Services): void {
  mountQuery(app, services, shortageRoutes.listShortages, ({ db, now }) => listShortages(db, now));
  mountQuery(app, services, orderRoutes.readRoutes, ({ db, now }, { params, query }) => readRoutes(db, now, params.order, params.line, query.quantity));
  mountCommand(app, services, orderRoutes.chooseRoute, (context, { params, body }) => chooseRoute(context, params.order, params.line, body));
  mountCommand(app, services, orderRoutes.removeRoute, (context, { params }) => removeRoute(context, params.order, params.line, params.route));
}
