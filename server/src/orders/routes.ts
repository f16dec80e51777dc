import { documentRoutes } from '@nockwright/contract/documents';
import { asLineView, orderRoutes } from '@nockwright/contract/orders';
import { placeFault, WhatIf } from '@nockwright/core/orders';
import type { Hono } from 'hono';
import { loadLastPaper, loadLastPapers, paperReply, papersReply } from '../documents';
import { readHistory } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { readAccepted } from '../promise';
import { addLine, addLines } from './add-lines';
import { cancelOrder, previewCancellation } from './cancel-order';
import { changeOrder } from './change-order';
import { createOrder } from './create-order';
import { discardOrder } from './discard-order';
import { refused } from './draft-line';
import { readBookSlice } from './book-slice';
import { changeLine, moveLine, removeLine } from './edit-lines';
import { closeTask } from './close-task';
import { ordersCsvTask, ordersReply } from './export-orders';
import { listForExport, listOrders } from './list-orders';
import { readOrderIds } from './order-ids';
import { orderRisks } from './order-risks';
import { listViews, removeView, saveView } from './saved-views';
import { loadOrder } from './load-order';
import { attachFile, fileReply, removeFile } from './files';
import { makeProForma } from './pro-forma';
import { promiseRest } from './promise-rest';
import { previewRaise, raiseLine } from './raise-line';
import { previewTurn, rankOrder } from './rank-order';
import { Turns } from '../http/turns';
import { readOrder } from './read-order';
import { readText } from './read-text';
import { releaseOrder } from './release-order';
import { clearHold, holdOrder } from './store-holds';
import { setPrice } from './set-price';

export function mountOrders(app: Hono, services: Services): void {
  mountLists(app, services);
  mountDrafts(app, services);
  mountPromises(app, services);
  mountPapers(app, services);
}

/** Many orders at once, and the views of them that users keep. */
function mountLists(app: Hono, services: Services): void {
  mountQuery(app, services, orderRoutes.listOrders, ({ db, now }, { query: { after, ...filter } }) => listOrders(db, now.today, filter, after));
  mountQuery(app, services, orderRoutes.exportOrders, async ({ db, now, user }, { query }) =>
    ordersReply(await services.work.run(ordersCsvTask, await listForExport(db, now.today, query), user.id)),
  );
  mountQuery(app, services, orderRoutes.readRisks, ({ db, now }, { query }) => orderRisks(db, now, readOrderIds(query.orders)));
  mountQuery(app, services, orderRoutes.printPapers, async ({ db, user }, { query }) =>
    papersReply(services.work, user.id, await loadLastPapers(db, readOrderIds(query.orders))),
  );
  mountQuery(app, services, orderRoutes.listViews, ({ db, user }) => listViews(db, user.id));
  mountCommand(app, services, orderRoutes.saveView, (context, { body }) => saveView(context, body.name, body.query));
  mountCommand(app, services, orderRoutes.removeView, (context, { params }) => removeView(context, params.view));
}

/** One order as it is written. */
function mountDrafts(app: Hono, services: Services): void {
  mountCommand(app, services, orderRoutes.createOrder, (context, { body }) => createOrder(context, body.customer, body.kind));
  mountQuery(app, services, orderRoutes.readOrder, ({ db, now }, { params }) => readOrder(db, now, params.order));
  mountQuery(app, services, orderRoutes.listCarriers, ({ db }) =>
    db.selectFrom('carrier_service').select(['code', 'name', 'transit_days as transitDays']).orderBy('transit_days').orderBy('name').execute(),
  );
  mountCommand(app, services, orderRoutes.changeOrder, (context, { params, body }) => changeOrder(context, params.order, body));
  mountCommand(app, services, orderRoutes.discardOrder, (context, { params, body }) => discardOrder(context, params.order, body.version));
  mountCommand(app, services, orderRoutes.addLine, (context, { params, body }) => addLine(context, params.order, body));
  mountCommand(app, services, orderRoutes.addLines, (context, { params, body }) => addLines(context, params.order, body));
  mountCommand(
    app,
    services,
    orderRoutes.readText,
    ({ trx, now, user }, { params, body }) => readText(trx, services.work, now, params.order, body.text, user.id),
    new Turns(2, 4),
  );
  mountCommand(app, services, orderRoutes.changeLine, (context, { params, body }) => changeLine(context, params.order, params.line, body));
  mountCommand(app, services, orderRoutes.setPrice, (context, { params, body }) => setPrice(context, params.order, params.line, body));
  mountCommand(app, services, orderRoutes.holdOrder, (context, { params, body }) => holdOrder(context, params.order, body.version, body.why));
  mountCommand(app, services, orderRoutes.clearHold, (context, { params, body }) => clearHold(context, params.order, params.hold, body.version, body.why));
  mountCommand(app, services, orderRoutes.closeTask, (context, { params, body }) => closeTask(context, params.order, params.task, body.how));
  mountCommand(app, services, orderRoutes.moveLine, (context, { params, body }) => moveLine(context, params.order, params.line, body.to));
  mountCommand(app, services, orderRoutes.removeLine, (context, { params }) => removeLine(context, params.order, params.line));
}

/** What is promised, in which sequence, and what is taken back. */
function mountPromises(app: Hono, services: Services): void {
  mountQuery(app, services, orderRoutes.readSlice, ({ db, now }, { params, query }) => readBookSlice(db, now, params.order, query.item));
  mountQuery(app, services, orderRoutes.previewLine, async ({ db, now }, { params, query }) => {
    const slice = await readBookSlice(db, now, params.order, query.item);
    const misplaced = placeFault({ warehouses: slice.warehouses.map(({ book }) => book.id) }, query, now.today);
    if (misplaced) throw refused('query', misplaced);
    const tried = new WhatIf(slice).try(query);
    if (!tried.ok) throw refused('query', tried.fault);
    return asLineView(tried.line);
  });
  mountCommand(app, services, orderRoutes.releaseOrder, (context, { params, body }) => releaseOrder(context, params.order, body.version, body.seen));
  mountCommand(app, services, orderRoutes.promiseRest, (context, { params }) => promiseRest(context, params.order, params.line));
  mountQuery(app, services, orderRoutes.previewCancellation, ({ db, now }, { params, query: { accept, ...what } }) =>
    previewCancellation(db, now, params.order, what, readAccepted(accept)),
  );
  mountCommand(app, services, orderRoutes.cancelOrder, (context, { params, body }) => cancelOrder(context, params.order, body));
  mountQuery(app, services, orderRoutes.previewRaise, ({ db, now }, { params, query }) =>
    previewRaise(db, now, params.order, params.line, query.quantity, query.claim ?? false),
  );
  mountCommand(app, services, orderRoutes.raiseLine, (context, { params, body }) => raiseLine(context, params.order, params.line, body));
  mountQuery(app, services, orderRoutes.previewTurn, ({ db, now }, { params, query }) => previewTurn(db, now, params.order, query, readAccepted(query.accept)));
  mountCommand(app, services, orderRoutes.rankOrder, (context, { params, body }) => rankOrder(context, params.order, body));
}

/** History, papers and files of an order. */
function mountPapers(app: Hono, services: Services): void {
  mountQuery(app, services, orderRoutes.orderHistory, async ({ db }, { params }) => {
    await loadOrder(db, params.order);
    return readHistory(db, 'order', params.order);
  });
  mountQuery(app, services, orderRoutes.acknowledgement, async ({ db, user }, { params }) => {
    await loadOrder(db, params.order);
    return paperReply(services.work, user.id, await loadLastPaper(db, 'acknowledgement', params.order));
  });
  mountCommand(app, services, documentRoutes.makeProForma, (context, { params }) => makeProForma(context, params.order));
  mountCommand(app, services, documentRoutes.attachFile, (context, { params, body }) => attachFile(context, params.order, body.name, body.content));
  mountQuery(app, services, documentRoutes.readFile, ({ db }, { params }) => fileReply(db, params.file));
  mountCommand(app, services, documentRoutes.removeFile, (context, { params }) => removeFile(context, params.order, params.file));
}
