import { payableRoutes } from '@nockwright/contract/payables';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { acceptSupplierInvoice, paySupplierInvoice, refuseSupplierInvoice } from './decide-invoice';
import { addSupplierInvoiceFile, enterSupplierInvoice } from './enter-invoice';
import { listSupplierInvoices } from './list-invoices';
import { listInvoiceable, readSupplierInvoice } from './load-invoice';

export function mountPayables(app: Hono, services: Services): void {
  mountQuery(app, services, payableRoutes.listSupplierInvoices, ({ db }, { query }) => listSupplierInvoices(db, query));
  mountQuery(app, services, payableRoutes.readSupplierInvoice, ({ db }, { params }) => readSupplierInvoice(db, params.payable));
  mountQuery(app, services, payableRoutes.listInvoiceable, ({ db }, { params }) => listInvoiceable(db, params.supplier));
  mountCommand(app, services, payableRoutes.enterSupplierInvoice, (context, { body }) => enterSupplierInvoice(context, body));
  mountCommand(app, services, payableRoutes.addSupplierInvoiceFile, (context, { body }) => addSupplierInvoiceFile(context, body.name, body.content));
  mountCommand(app, services, payableRoutes.acceptSupplierInvoice, (context, { params, body }) => acceptSupplierInvoice(context, params.payable, body));
  mountCommand(app, services, payableRoutes.refuseSupplierInvoice, (context, { params, body }) => refuseSupplierInvoice(context, params.payable, body));
  mountCommand(app, services, payableRoutes.paySupplierInvoice, (context, { params, body }) => paySupplierInvoice(context, params.payable, body));
}
