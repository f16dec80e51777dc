import { firmRoutes } from '@nockwright/contract/firm';
import type { Hono } from 'hono';
import { readHistory } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { setSeries } from './number-series';
import { readFirm } from './read-firm';
import { FIRM, setFirm } from './set-firm';

export function mountFirm(app: Hono, services: Services): void {
  mountQuery(app, services, firmRoutes.readFirm, ({ db }) => readFirm(db));
  mountCommand(app, services, firmRoutes.setFirm, (context, { body }) => setFirm(context, body));
  mountCommand(app, services, firmRoutes.setSeries, (context, { body }) => setSeries(context, body));
  mountQuery(app, services, firmRoutes.firmHistory, ({ db }) => readHistory(db, FIRM.kind, FIRM.key));
}
