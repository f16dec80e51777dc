import { promiseRoutes } from '@nockwright/contract/promise';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { deskConfidence } from './arrival-odds';
import { checkPromise } from './check-promise';
import { acceptRun, previewChoice } from './accept-run';
import { readLastRun, ResequenceRuns } from './resequence-run';
import { readAccepted } from './ripple-plan';
import { setConfidence } from './set-confidence';

export function mountPromise(app: Hono, services: Services): void {
  const runs = new ResequenceRuns(services.db, services.databaseUrl, services.log);
  mountQuery(app, services, promiseRoutes.readConfidence, async ({ db }) => ({ confidence: await deskConfidence(db) }));
  mountCommand(app, services, promiseRoutes.setConfidence, (context, { body }) => setConfidence(context, body));
  mountQuery(app, services, promiseRoutes.checkPromise, ({ db, now }, { query }) => checkPromise(db, now, query));
  mountCommand(app, services, promiseRoutes.startResequence, (context) => runs.start(context));
  mountQuery(app, services, promiseRoutes.readResequence, ({ db, now }) => readLastRun(db, now));
  mountCommand(app, services, promiseRoutes.stopResequence, (context, { params }) => runs.stop(context, params.run));
  mountQuery(app, services, promiseRoutes.previewChoice, (context, { params, query }) =>
    previewChoice(services, context, params.run, readAccepted(query.lines)),
  );
  mountCommand(app, services, promiseRoutes.acceptResequence, (context, { params, body }) => acceptRun(services, context, params.run, body));
}
