import { documentRoutes } from '@nockwright/contract/documents';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountQuery } from '../http/mount';
import { loadPaper, paperReply } from './read-paper';

export function mountDocuments(app: Hono, services: Services): void {
  mountQuery(app, services, documentRoutes.readPaper, async ({ db, user }, { params }) =>
    paperReply(services.work, user.id, await loadPaper(db, params.paper)),
  );
}
