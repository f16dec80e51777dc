import { itemRoutes } from '@nockwright/contract/items';
import type { Hono } from 'hono';
import { readHistory } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { notFound } from '../http/refusal';
import { readAccepted } from '../promise';
import { countStock, previewCount } from './count-stock';
import { findItems, listStock } from './find-items';
import { readItem } from './read-item';
import { readQueue } from './read-queue';

export function mountItems(app: Hono, services: Services): void {
  mountQuery(app, services, itemRoutes.findItems, ({ db }, { query }) => findItems(db, query.search, query.customer, query.warehouse));
  mountQuery(app, services, itemRoutes.listStock, ({ db }, { query }) => listStock(db, query.search));
  mountQuery(app, services, itemRoutes.readItem, ({ db, now }, { params }) => readItem(db, now, params.item));
  mountQuery(app, services, itemRoutes.readQueue, ({ db, now }, { params, query }) => readQueue(db, now, params.item, query.warehouse));
  mountQuery(app, services, itemRoutes.previewCount, ({ db, now }, { params, query }) =>
    previewCount(db, now, params.item, query.warehouse, query.counted, readAccepted(query.accept)),
  );
  mountCommand(app, services, itemRoutes.countStock, (context, { params, body }) => countStock(context, params.item, body));
  mountQuery(app, services, itemRoutes.itemHistory, async ({ db }, { params }) => {
    const known = await db.selectFrom('item').select('code').where('code', '=', params.item).executeTakeFirst();
    if (!known) throw notFound(`item ${params.item}`);
    return readHistory(db, 'item', params.item);
  });
}
