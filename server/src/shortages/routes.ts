import { orderRoutes } from '@nockwright/contract/orders';
import { shortageRoutes } from '@nockwright/contract/shortages';
import type { Hono } from 'hono';
import { freshenBoards } from '../boards';
import { notify } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { readAccepted } from '../promise';
import { chooseRoute, routeOrder } from './choose-route';
import { answerByPhone, askCustomer, withdrawConsent } from './consent';
import { listConsents } from './read-consents';
import { mountAnswerPage } from './answer-page';
import { listShortages } from './list-shortages';
import { readPlan } from './plan-routes';
import { readPolicy, setCustomerPolicy, setPolicy } from './policy';
import { readCombinations } from './read-combinations';
import { readRoutes } from './read-routes';
import { routeLines } from './route-lines';
import { previewUndo, undoRoute } from './undo-route';

export function mountShortages(app: Hono, services: Services): void {
  mountQuery(
    app,
    services,
    shortageRoutes.listShortages,
    ({ db }, { query: { q, only, chosen, most } }) =>
      listShortages(db, {
        ...(q ? { q } : {}),
        ...(only ? { only: readAccepted(only) } : {}),
        chosen: readAccepted(chosen),
        ...(most ? { most } : {}),
      }),
    freshenBoards,
  );
  mountQuery(app, services, shortageRoutes.planRoutes, (context, { query }) =>
    readPlan(services, context, {
      lines: readAccepted(query.lines),
      ...(query.policy ? { policy: query.policy } : {}),
      accept: readAccepted(query.accept),
    }),
  );
  mountCommand(app, services, shortageRoutes.routeMany, (context, { body }) =>
    routeLines(context, body.choices, {
      accept: body.accept,
      services,
      // Told at once, over another connection: the act itself is not seen before it is done.
      tell: (done, total) => void notify(services.db, [`routing:${body.run}:${done}:${total}`]),
    }),
  );
  mountQuery(app, services, shortageRoutes.readPolicy, ({ db }) => readPolicy(db));
  mountCommand(app, services, shortageRoutes.setPolicy, (context, { body }) => setPolicy(context, body));
  mountCommand(app, services, shortageRoutes.setCustomerPolicy, (context, { params, body }) => setCustomerPolicy(context, params.customer, body));
  mountQuery(app, services, shortageRoutes.listConsents, ({ db, now }, { query }) => listConsents(db, now, query.order));
  mountCommand(app, services, shortageRoutes.askCustomer, (context, { params, body }) => askCustomer(context, params.order, params.line, body));
  mountCommand(app, services, shortageRoutes.answerConsent, (context, { params, body }) => answerByPhone(context, params.consent, body));
  mountCommand(app, services, shortageRoutes.withdrawConsent, (context, { params }) => withdrawConsent(context, params.consent));
  mountAnswerPage(app, services);
  mountQuery(app, services, orderRoutes.readCombinations, (context, { params }) => readCombinations(services, context, params.order));
  mountCommand(app, services, orderRoutes.routeOrder, (context, { params, body }) => routeOrder(context, params.order, body));
  mountQuery(app, services, orderRoutes.readRoutes, ({ db, now }, { params, query }) => readRoutes(db, now, params.order, params.line, query));
  mountCommand(app, services, orderRoutes.chooseRoute, (context, { params, body }) => chooseRoute(context, params.order, params.line, body));
  mountQuery(app, services, orderRoutes.previewUndo, ({ db, now }, { params }) => previewUndo(db, now, params.order, params.line, params.route));
  mountCommand(app, services, orderRoutes.undoRoute, (context, { params, body }) => undoRoute(context, params.order, params.line, params.route, body.supplier));
}
