import { worklistRoutes } from '@nockwright/contract/worklist';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { closeCall, listCalls } from './calls';

export function mountWorklist(app: Hono, services: Services): void {
  mountQuery(app, services, worklistRoutes.listCalls, ({ db }, { query }) => listCalls(db, query));
  mountCommand(app, services, worklistRoutes.closeCall, (context, { params, body }) => closeCall(context, params.call, body.told));
}
