import { bankRoutes, invoiceRoutes, paymentRoutes } from '@nockwright/contract/billing';
import { writeInvoice } from '@nockwright/core/exchange';
import type { Hono } from 'hono';
import type { Db } from '../database';
import { loadInvoicePaper, paperReply } from '../documents';
import { loadFirm } from '../firm';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { invalid } from '../http/refusal';
import { bookBankEntry, bookSureEntries, listBankEntries, setBankEntryAside, takeBankEntryUp } from './bank-entries';
import { addBankFile } from './bank-files';
import { listTaxClasses, setBilling, setTaxClass } from './billing-terms';
import { creditInvoice, writeOff } from './credit-invoice';
import { billNext, issueInvoice, previewInvoice } from './issue-invoice';
import { listInvoices } from './list-invoices';
import { listBillable } from './load-billable';
import { applyCredit, applyPayment, proposePayment, recordPayment, reversePayment } from './payments';
import { readInvoice } from './read-invoice';
import { readMoney } from './read-money';
import { readStatement } from './statement';
import { refundCustomer } from './refunds';
import { asTold, loadTold } from './told-invoice';

export function mountBilling(app: Hono, services: Services): void {
  mountQuery(app, services, invoiceRoutes.listBillable, ({ db, now }, { query }) => listBillable(db, now, query.q));
  mountQuery(app, services, invoiceRoutes.previewInvoice, ({ db, now }, { query }) => previewInvoice(db, now, readIds(query.shipments)));
  mountCommand(app, services, invoiceRoutes.issueInvoice, (context, { body }) => issueInvoice(context, body.shipments, body.total));
  mountCommand(app, services, invoiceRoutes.billNext, (context) => billNext(context));
  mountQuery(app, services, invoiceRoutes.listInvoices, ({ db, now }, { query }) => listInvoices(db, now, query));
  mountQuery(app, services, invoiceRoutes.readInvoice, ({ db, now }, { params }) => readInvoice(db, now, params.invoice));
  mountQuery(app, services, invoiceRoutes.invoicePaper, async ({ db, user }, { params }) =>
    paperReply(services.work, user.id, await loadInvoicePaper(db, params.invoice)),
  );
  mountQuery(app, services, invoiceRoutes.invoiceUbl, ({ db }, { params }) => ublReply(db, params.invoice));
  mountCommand(app, services, invoiceRoutes.creditInvoice, (context, { params, body }) => creditInvoice(context, params.invoice, body));
  mountCommand(app, services, invoiceRoutes.writeOff, (context, { params, body }) => writeOff(context, params.invoice, body));
  mountQuery(app, services, paymentRoutes.readMoney, ({ db, now }, { params }) => readMoney(db, now, params.customer));
  mountQuery(app, services, paymentRoutes.statement, ({ db, now, user }, { params }) => readStatement(db, now, services.work, user.id, params.customer));
  mountQuery(app, services, paymentRoutes.proposePayment, ({ db, now }, { params, query }) =>
    proposePayment(db, now, params.customer, query.amount, query.day),
  );
  mountCommand(app, services, paymentRoutes.recordPayment, (context, { params, body }) => recordPayment(context, params.customer, body));
  mountCommand(app, services, paymentRoutes.applyPayment, (context, { params, body }) => applyPayment(context, params.payment, body));
  mountCommand(app, services, paymentRoutes.applyCredit, (context, { params, body }) => applyCredit(context, params.invoice, body));
  mountCommand(app, services, paymentRoutes.reversePayment, (context, { params, body }) => reversePayment(context, params.payment, body));
  mountCommand(app, services, paymentRoutes.refundCustomer, (context, { params, body }) => refundCustomer(context, params.customer, body));
  mountBank(app, services);
  mountCommand(app, services, paymentRoutes.setBilling, (context, { params, body }) => setBilling(context, params.customer, body));
  mountQuery(app, services, paymentRoutes.listTaxClasses, ({ db }) => listTaxClasses(db));
  mountCommand(app, services, paymentRoutes.setTaxClass, (context, { body }) => setTaxClass(context, body));
}

function mountBank(app: Hono, services: Services): void {
  mountCommand(app, services, bankRoutes.addBankFile, (context, { body }) => addBankFile(context, body.name, body.content));
  mountQuery(app, services, bankRoutes.listBankEntries, ({ db }, { query }) => listBankEntries(db, query));
  mountCommand(app, services, bankRoutes.bookBankEntry, (context, { params, body }) => bookBankEntry(context, params.entry, body));
  mountCommand(app, services, bankRoutes.bookSureEntries, (context) => bookSureEntries(context));
  mountCommand(app, services, bankRoutes.setBankEntryAside, (context, { params, body }) => setBankEntryAside(context, params.entry, body.why));
  mountCommand(app, services, bankRoutes.takeBankEntryUp, (context, { params }) => takeBankEntryUp(context, params.entry));
}

/** `12,13` as ids. */
function readIds(text: string): number[] {
  const ids = text.split(',').map(Number);
  if (ids.some((id) => !Number.isInteger(id) || id < 1)) throw invalid('query.shipments', `expected ids as 12,13, got ${text.slice(0, 40)}`);
  return ids;
}

/** An invoice as UBL 2.1. */
async function ublReply(db: Db, id: number): Promise<Response> {
  const [row, firm] = [await loadTold(db, id), await loadFirm(db)];
  const { name, street, postcode, town, country } = firm;
  const buyer = row.billTo ?? { name: row.customer, number: '', street: '', postcode: '', town: '', country, taxNumber: '' };
  const xml = writeInvoice(
    asTold(row, firm),
    { name, street, postcode, town, country, taxNumber: firm.tax_number },
    { ...buyer, ...(buyer.number ? { code: buyer.number } : {}) },
  );
  return new Response(xml, {
    headers: { 'Content-Type': 'application/xml', 'Content-Disposition': `attachment; filename="${row.kind.replace('_', '-')}-${row.number}.xml"` },
  });
}
