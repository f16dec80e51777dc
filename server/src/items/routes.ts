import { itemRoutes, stockRoutes } from '@nockwright/contract/items';
import type { Hono } from 'hono';
import { readHistory } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { notFound } from '../http/refusal';
import { readAccepted } from '../promise';
import { correctLot, previewLot } from './correct-lot';
import { setLeastLife } from './set-least-life';
import { countStock, previewCount } from './count-stock';
import { setDiscontinued } from './discontinue';
import { freshenBoards } from '../boards';
import { findItems, listStock } from './find-items';
import { moveGoods, previewMove } from './move-goods';
import { readItem } from './read-item';
import { readQueue } from './read-queue';
import { setAlso } from './set-also';
import { setHandling } from './set-handling';
import { setItemTax } from './set-item-tax';
import { setStep } from './set-step';
import { addBin, listBins, listPlaces, setHome, setWalk } from './stock-places';

export function mountItems(app: Hono, services: Services): void {
  mountQuery(app, services, itemRoutes.findItems, ({ db, now }, { query }) => findItems(db, now.today, query));
  mountQuery(app, services, itemRoutes.listStock, ({ db, now }, { query }) => listStock(db, now.today, query), freshenBoards);
  mountQuery(app, services, itemRoutes.readItem, ({ db, now }, { params }) => readItem(db, now, params.item));
  mountQuery(app, services, itemRoutes.readQueue, ({ db, now }, { params, query }) => readQueue(db, now, params.item, query.warehouse));
  mountCommand(app, services, itemRoutes.setDiscontinued, (context, { params, body }) => setDiscontinued(context, params.item, body));
  mountCommand(app, services, itemRoutes.setAlso, (context, { params, body }) => setAlso(context, params.item, body.also));
  mountCommand(app, services, itemRoutes.setItemTax, (context, { params, body }) => setItemTax(context, params.item, body.taxClass));
  mountCommand(app, services, itemRoutes.setHandling, (context, { params, body }) => setHandling(context, params.item, body));
  mountCommand(app, services, itemRoutes.setStep, (context, { params, body }) => setStep(context, params.item, body));
  mountCommand(app, services, itemRoutes.setLeastLife, (context, { params, body }) => setLeastLife(context, params.item, body.days));
  mountQuery(app, services, itemRoutes.itemHistory, async ({ db }, { params }) => {
    const known = await db.selectFrom('item').select('code').where('code', '=', params.item).executeTakeFirst();
    if (!known) throw notFound(`item ${params.item}`);
    return readHistory(db, 'item', params.item);
  });
}

/** What stands where, and how that is put right. */
export function mountStock(app: Hono, services: Services): void {
  mountQuery(app, services, stockRoutes.listPlaces, ({ db, now }, { query }) => listPlaces(db, now, query));
  mountQuery(app, services, stockRoutes.listBins, ({ db }, { params }) => listBins(db, params.warehouse));
  mountCommand(app, services, stockRoutes.addBin, (context, { params, body }) => addBin(context, params.warehouse, body.bin));
  mountCommand(app, services, stockRoutes.setWalk, (context, { params, body }) => setWalk(context, params.warehouse, body.bins));
  mountCommand(app, services, stockRoutes.setHome, (context, { params, body }) => setHome(context, params.item, body.warehouse, body.bin));
  mountQuery(app, services, stockRoutes.previewCount, ({ db, now }, { params, query: { accept, ...count } }) =>
    previewCount(db, now, params.item, count, readAccepted(accept)),
  );
  mountCommand(app, services, stockRoutes.countStock, (context, { params, body }) => countStock(context, params.item, body));
  mountQuery(app, services, stockRoutes.previewLot, ({ db, now }, { params, query }) =>
    previewLot(db, now, params.item, params.lot, query.expires ?? null, readAccepted(query.accept)),
  );
  mountCommand(app, services, stockRoutes.correctLot, (context, { params, body }) => correctLot(context, params.item, params.lot, body));
  mountQuery(app, services, stockRoutes.previewMove, ({ db, now }, { params, query: { accept, ...move } }) =>
    previewMove(db, now, params.place, move, readAccepted(accept)),
  );
  mountCommand(app, services, stockRoutes.moveGoods, (context, { params, body }) => moveGoods(context, params.place, body));
}
