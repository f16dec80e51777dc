import { serialRoutes } from '@nockwright/contract/items';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { nameSerials } from './name-serials';
import { listSerials, readSerial } from './read-serials';

export function mountSerials(app: Hono, services: Services): void {
  mountQuery(app, services, serialRoutes.readSerial, ({ db }, { params }) => readSerial(db, params.serial));
  mountQuery(app, services, serialRoutes.listSerials, ({ db }, { params, query }) => listSerials(db, params.item, query.search));
  mountCommand(app, services, serialRoutes.placeSerials, (context, { params, body }) => nameSerials(context, params.item, body));
}
