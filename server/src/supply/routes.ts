import { supplyRoutes } from '@nockwright/contract/supply';
import type { Hono } from 'hono';
import { readHistory } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { notFound } from '../http/refusal';
import { readAccepted } from '../promise';
import { acknowledge } from './acknowledge';
import { buildAssembly } from './build-assembly';
import { cancelPurchase, previewCancel } from './cancel-purchase';
import { changeAssembly, giveUpAssembly, previewAssemblyChange } from './change-assembly';
import { changeDraft } from './change-draft';
import { cancelTransfer, changeTransfer, previewTransferChange } from './change-transfer';
import { closeLine } from './close-line';
import { confirmDespatch } from './confirm-despatch';
import { createPurchase } from './create-purchase';
import { readQuantities } from './line-quantities';
import { listPurchases } from './list-purchases';
import { createAssembly, createTransfer } from './make-by-hand';
import { readPurchase } from './load-purchase';
import { listMessages, readMessage } from './exchange/load-told';
import { decideAnswer } from './exchange/take-answer';
import { messageFile, seeTo } from './exchange/see-to';
import { readStandIn, setStandIn } from './exchange/set-stand-in';
import { listInside, readAssembly, readTransfer } from './read-inside';
import { previewTransferReceipt, receiveTransfer } from './receive-transfer';
import { buyToStock } from './reorder/buy-to-stock';
import { listReorder } from './reorder/list-reorder';
import { readReorderPolicy, setReorderPolicy } from './reorder/policy';
import { changeSupplier, dropSupplierItem, setSupplierItem } from './suppliers/change-supplier';
import { listSuppliers, readSupplier } from './suppliers/read-supplier';
import { shipTransfer } from './transfers';
import { previewReceipt, receive } from './receive';
import { listExpected, readAtDock } from './receiving';
import { previewClose, previewReschedule, reschedule } from './reschedule';
import { sendPurchase } from './send-purchase';

export function mountSupply(app: Hono, services: Services): void {
  mountSuppliers(app, services);
  mountReorder(app, services);
  mountExchangeFiles(app, services);
  mountInside(app, services);
  mountQuery(app, services, supplyRoutes.listWarehouses, ({ db }) => db.selectFrom('warehouse').select(['code', 'name']).orderBy('name').execute());
  mountQuery(app, services, supplyRoutes.listPurchases, ({ db, now }, { query }) => listPurchases(db, now, query));
  mountQuery(app, services, supplyRoutes.readPurchase, ({ db, now }, { params }) => readPurchase(db, now, params.purchase));
  mountCommand(app, services, supplyRoutes.createPurchase, (context, { body }) => createPurchase(context, body));
  mountCommand(app, services, supplyRoutes.changeDraft, (context, { params, body }) => changeDraft(context, params.purchase, body));
  mountCommand(app, services, supplyRoutes.sendPurchase, (context, { params, body }) => sendPurchase(context, params.purchase, body.version));
  mountCommand(app, services, supplyRoutes.acknowledge, (context, { params, body }) => acknowledge(context, params.purchase, body.version, body.note ?? ''));
  mountQuery(app, services, supplyRoutes.previewReschedule, ({ db, now }, { params, query: { day, open, cost, accept } }) => {
    const wish = { ...(day ? { expectedDay: day } : {}), ...(open ? { open } : {}), ...(cost ? { cost } : {}) };
    return previewReschedule(db, now, params.purchase, params.line, wish, readAccepted(accept));
  });
  mountCommand(app, services, supplyRoutes.reschedule, (context, { params, body }) => reschedule(context, params.purchase, params.line, body));
  mountQuery(app, services, supplyRoutes.previewClose, ({ db, now }, { params, query }) =>
    previewClose(db, now, params.purchase, params.line, readAccepted(query.accept)),
  );
  mountCommand(app, services, supplyRoutes.closeLine, (context, { params, body }) =>
    closeLine(context, params.purchase, params.line, body.version, { why: body.reason }, body.decision),
  );
  mountQuery(app, services, supplyRoutes.previewCancel, ({ db, now }, { params, query }) =>
    previewCancel(db, now, params.purchase, readAccepted(query.accept)),
  );
  mountCommand(app, services, supplyRoutes.cancelPurchase, (context, { params, body }) => cancelPurchase(context, params.purchase, body));
  mountQuery(app, services, supplyRoutes.previewReceipt, ({ db, now }, { params, query }) =>
    previewReceipt(db, now, params.purchase, readQuantities(query.lines), query.closeRest ?? false, readAccepted(query.accept)),
  );
  mountCommand(app, services, supplyRoutes.receive, (context, { params, body }) => receive(context, params.purchase, body));
  mountCommand(app, services, supplyRoutes.confirmDespatch, (context, { params, body }) => confirmDespatch(context, params.purchase, body));
  mountQuery(app, services, supplyRoutes.listExpected, ({ db, now }, { query }) => listExpected(db, now, query));
  mountQuery(app, services, supplyRoutes.readScan, ({ db, now }, { query }) => readAtDock(db, now, query.text, query.warehouse));
  mountQuery(app, services, supplyRoutes.purchaseHistory, async ({ db }, { params }) => {
    const known = await db.selectFrom('purchase_order').select('id').where('id', '=', params.purchase).executeTakeFirst();
    if (!known) throw notFound(`purchase order ${params.purchase}`);
    return readHistory(db, 'purchase', params.purchase);
  });
}

function mountSuppliers(app: Hono, services: Services): void {
  mountQuery(app, services, supplyRoutes.listSuppliers, ({ db, now }) => listSuppliers(db, now));
  mountQuery(app, services, supplyRoutes.readSupplier, ({ db, now }, { params }) => readSupplier(db, now, params.supplier));
  mountQuery(app, services, supplyRoutes.supplierHistory, async ({ db, now }, { params }) => {
    await readSupplier(db, now, params.supplier);
    return readHistory(db, 'supplier', params.supplier);
  });
  mountCommand(app, services, supplyRoutes.changeSupplier, (context, { params, body }) => changeSupplier(context, params.supplier, body));
  mountCommand(app, services, supplyRoutes.setSupplierItem, (context, { params, body }) => setSupplierItem(context, params.supplier, params.item, body));
  mountCommand(app, services, supplyRoutes.dropSupplierItem, (context, { params }) => dropSupplierItem(context, params.supplier, params.item));
}

function mountReorder(app: Hono, services: Services): void {
  mountQuery(app, services, supplyRoutes.listReorder, ({ db, now }, { query }) => listReorder(db, now, query));
  mountCommand(app, services, supplyRoutes.buyToStock, async (context, { body }) => ({ purchases: await buyToStock(context, body.lines) }));
  mountQuery(app, services, supplyRoutes.readReorderPolicy, ({ db }) => readReorderPolicy(db));
  mountCommand(app, services, supplyRoutes.setReorderPolicy, (context, { body }) => setReorderPolicy(context, body));
}

/** What goes to suppliers and comes from them as files, and who stands in for them. */
function mountExchangeFiles(app: Hono, services: Services): void {
  mountQuery(app, services, supplyRoutes.listMessages, ({ db }, { query }) => listMessages(db, query));
  mountQuery(app, services, supplyRoutes.readExchangeFile, ({ db }, { params }) => messageFile(db, params.message));
  mountCommand(app, services, supplyRoutes.lookedAt, async (context, { params }) => {
    await seeTo(context, params.message);
    return readMessage(context.trx, params.message);
  });
  mountCommand(app, services, supplyRoutes.decideAnswer, async (context, { params, body }) => {
    await decideAnswer(context, params.message, body.take);
    return readMessage(context.trx, params.message);
  });
  mountQuery(app, services, supplyRoutes.readStandIn, ({ db }) => readStandIn(db));
  mountCommand(app, services, supplyRoutes.setStandIn, (context, { body }) => setStandIn(context, body));
}

/** What moves within the house: between warehouses, and from components to what is put together of them. */
function mountInside(app: Hono, services: Services): void {
  mountQuery(app, services, supplyRoutes.listInside, ({ db }, { query }) => listInside(db, query.state));
  mountQuery(app, services, supplyRoutes.readTransfer, ({ db }, { params }) => readTransfer(db, params.transfer));
  mountCommand(app, services, supplyRoutes.shipTransfer, async (context, { params, body }) => {
    await shipTransfer(context, params.transfer, body.version);
    return readTransfer(context.trx, params.transfer);
  });
  mountCommand(app, services, supplyRoutes.receiveTransfer, (context, { params, body }) => receiveTransfer(context, params.transfer, body));
  mountQuery(app, services, supplyRoutes.previewTransferReceipt, ({ db, now }, { params, query }) =>
    previewTransferReceipt(db, now, params.transfer, readQuantities(query.lines), query.closeRest ?? false, readAccepted(query.accept)),
  );
  mountQuery(app, services, supplyRoutes.previewTransferChange, ({ db, now }, { params, query: { day, lines, accept } }) => {
    const less = lines ? { lines: readQuantities(lines).map(({ line, quantity }) => ({ line, open: quantity })) } : {};
    return previewTransferChange(db, now, params.transfer, { ...(day ? { expectedDay: day } : {}), ...less }, readAccepted(accept));
  });
  mountCommand(app, services, supplyRoutes.changeTransfer, (context, { params, body }) => changeTransfer(context, params.transfer, body));
  mountCommand(app, services, supplyRoutes.cancelTransfer, (context, { params, body }) => cancelTransfer(context, params.transfer, body));
  mountQuery(app, services, supplyRoutes.readAssembly, ({ db }, { params }) => readAssembly(db, params.assembly));
  mountCommand(app, services, supplyRoutes.buildAssembly, async (context, { params, body }) => {
    await buildAssembly(context, params.assembly, body.version, body.quantity, body.serials);
    return readAssembly(context.trx, params.assembly);
  });
  mountQuery(app, services, supplyRoutes.previewAssemblyChange, ({ db, now }, { params, query: { day, open, accept } }) =>
    previewAssemblyChange(db, now, params.assembly, { ...(day ? { expectedDay: day } : {}), ...(open ? { open } : {}) }, readAccepted(accept)),
  );
  mountCommand(app, services, supplyRoutes.changeAssembly, (context, { params, body }) => changeAssembly(context, params.assembly, body));
  mountCommand(app, services, supplyRoutes.cancelAssembly, (context, { params, body }) => giveUpAssembly(context, params.assembly, body));
  mountCommand(app, services, supplyRoutes.createTransfer, (context, { body }) => createTransfer(context, body));
  mountCommand(app, services, supplyRoutes.createAssembly, (context, { body }) => createAssembly(context, body));
  mountQuery(app, services, supplyRoutes.transferHistory, async ({ db }, { params }) => {
    await readTransfer(db, params.transfer);
    return readHistory(db, 'transfer', params.transfer);
  });
  mountQuery(app, services, supplyRoutes.assemblyHistory, async ({ db }, { params }) => {
    await readAssembly(db, params.assembly);
    return readHistory(db, 'assembly', params.assembly);
  });
}
