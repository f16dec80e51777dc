import type { SupplierInvoiceView } from '@nockwright/contract/payables';
import type { IsoDay } from '@nockwright/core/calendar';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { decide, subjectsOf } from './enter-invoice';
import { readSupplierInvoice } from './load-invoice';

interface Decided {
  readonly version: number;
  readonly reason: string;
}

/** Locks the purchases of an invoice and the invoice; refuses where somebody else decided meanwhile. */
async function locked(context: CommandContext, id: number, version: number, states: readonly SupplierInvoiceView['state'][]): Promise<SupplierInvoiceView> {
  const { trx } = context;
  const known = await trx.selectFrom('supplier_invoice').select('id').where('id', '=', id).executeTakeFirst();
  if (!known) throw notFound(`supplier invoice ${id}`);
  const lines = await trx
    .selectFrom('supplier_invoice_line as k')
    .innerJoin('purchase_line as l', 'l.id', 'k.purchase_line_id')
    .select(['l.purchase_id', 'l.item', 'l.warehouse'])
    .where('k.invoice_id', '=', id)
    .execute();
  await takeLocks(trx, {
    purchases: lines.map((line) => line.purchase_id),
    // What is dearer goes to the cost of goods on hand.
    pools: lines.flatMap(({ item, warehouse }) => (warehouse === null ? [] : [{ item, warehouse }])),
  });
  await trx.selectFrom('supplier_invoice').select('id').where('id', '=', id).forUpdate().execute();
  const invoice = await readSupplierInvoice(trx, id);
  if (invoice.version !== version)
    throw await changedSince(trx, { kind: 'supplier_invoice', key: id, label: `invoice ${invoice.number}`, given: version, current: invoice.version });
  if (!states.includes(invoice.state)) throw new Refusal('conflict', `Invoice ${invoice.number} is ${invoice.state} already.`);
  return invoice;
}

export async function acceptSupplierInvoice(context: CommandContext, id: number, { version, reason }: Decided): Promise<SupplierInvoiceView> {
  const invoice = await locked(context, id, version, ['held']);
  const over = invoice.findings.find((finding) => finding.kind === 'quantity');
  if (over) throw new Refusal('conflict', `${over.by} of ${over.item} have not come: accept it once they have, or refuse it.`);
  const off = invoice.findings.find((finding) => finding.kind === 'total');
  if (off) throw new Refusal('conflict', `Its parts do not come to its total: ${off.by} ${invoice.currency} too much. Refuse it, and ask for another.`);
  if (invoice.findings.length > 0 && reason === '') throw invalid('body.reason', 'say why the difference is taken');
  await decide(context, id, 'accepted', reason);
  await recordDecided(context, invoice, 'accepted', reason);
  return readSupplierInvoice(context.trx, id);
}

export async function refuseSupplierInvoice(context: CommandContext, id: number, { version, reason }: Decided): Promise<SupplierInvoiceView> {
  const invoice = await locked(context, id, version, ['held']);
  await decide(context, id, 'refused', reason);
  await recordDecided(context, invoice, 'refused', reason);
  return readSupplierInvoice(context.trx, id);
}

export async function paySupplierInvoice(
  context: CommandContext,
  id: number,
  { version, day }: { readonly version: number; readonly day: IsoDay },
): Promise<SupplierInvoiceView> {
  const { trx, now } = context;
  const invoice = await locked(context, id, version, ['accepted']);
  if (day > now.today) throw invalid('body.day', `${day} has not come yet`);
  await trx
    .updateTable('supplier_invoice')
    .set(({ eb }) => ({ state: 'paid', paid_day: day, version: eb('version', '+', 1) }))
    .where('id', '=', id)
    .execute();
  await recordDecided(context, invoice, 'paid', '');
  return readSupplierInvoice(trx, id);
}

async function recordDecided(context: CommandContext, invoice: SupplierInvoiceView, how: 'accepted' | 'refused' | 'paid', why: string): Promise<void> {
  const { id, supplier, number, name, total, currency, findings } = invoice;
  await recordEvent(context, {
    kind: 'supplier_invoice.decided',
    facts: { number, supplier: name, amount: total, currency, differs: findings.length, how },
    ...(why ? { why } : {}),
    subjects: subjectsOf({ id, supplier }, invoice),
  });
}
