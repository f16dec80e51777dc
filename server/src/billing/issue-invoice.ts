import { creditorReference, discountUntil, dueDay, invoiceTotals, payableInWords, termsInWords, type InvoiceTotals } from '@nockwright/core/billing';
import type { InvoicePreview, InvoiceView } from '@nockwright/contract/billing';
import type { IsoDay } from '@nockwright/core/calendar';
import type { ShipmentId } from '@nockwright/core/ids';
import { compareDecimal, type Amount } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { nextNumber } from '../numbers';
import { byInvoice, dueOf, linesOf, loadBillable, loadChosen, ordersOf, type BillableShipment } from './load-billable';
import { drawDeposits } from './payments';
import { readInvoice } from './read-invoice';
import { checkRules } from './check-rules';
import { storeLines } from './store-lines';
import { tellInvoice } from './tell-invoice';
import { toldOf } from './told-invoice';

/** What an invoice over some shipments would say. */
export async function previewInvoice(db: Db, { today }: Now, ids: readonly ShipmentId[]): Promise<InvoicePreview> {
  const shipments = checkChosen(ids, await loadChosen(db, ids), 'query.shipments');
  const first = shipments[0]!;
  const lines = linesOf(shipments);
  const totals = invoiceTotals(lines, first.currency);
  const orders = new Map(shipments.map((row) => [row.shipment, row]));
  return {
    customer: first.billTo.name,
    customerId: first.customer,
    currency: first.currency,
    dueDay: dueDay(today, termsOf(first)),
    payable: payable(first, totals, today),
    lines: lines.map(({ shipment, line: _, reason: __, ...line }, at) => ({
      ...line,
      id: at + 1,
      lineNo: at + 1,
      orderNumber: orders.get(shipment)!.orderNumber,
      shipment: orders.get(shipment)!.number,
      theirCode: '',
      credited: '0',
    })),
    ...totals,
  };
}

/** Issues an invoice over shipments of one customer, at the total that was seen. */
export async function issueInvoice(context: CommandContext, ids: readonly ShipmentId[], seen: Amount): Promise<InvoiceView> {
  const { trx, now } = context;
  const known = checkChosen(ids, await loadChosen(trx, ids), 'body.shipments');
  await lockBilled(trx, known);
  // As it stands now that nobody else bills or undoes it.
  const shipments = checkChosen(ids, await loadChosen(trx, ids), 'body.shipments');
  const { total } = invoiceTotals(linesOf(shipments), shipments[0]!.currency);
  if (compareDecimal(total, seen) !== 0)
    throw new Refusal('changed', `This invoice comes to ${total} by now, not ${seen}. Nothing was issued: look again, then decide.`);
  return readInvoice(trx, now, (await issue(context, shipments)).id);
}

/** Issues the invoice of the next customer who is due by their rule; says how many are left. */
export async function billNext(context: CommandContext) {
  const { trx, now } = context;
  const due = byInvoice(await loadBillable(trx, sql`true`))
    .map((group) => dueOf(group, now.today))
    .filter((group) => group.length > 0);
  const [next] = due;
  if (!next) return { invoice: null, left: 0 };
  await lockBilled(trx, next);
  // Whoever billed some of it meanwhile has done so: what is left is billed.
  const shipments = await loadChosen(
    trx,
    next.map((row) => row.shipment),
  );
  if (shipments.length === 0) return { invoice: null, left: due.length - 1 };
  const { id, number, customer, total } = await readInvoice(trx, now, (await issue(context, shipments)).id);
  return { invoice: { id, number, customer, total }, left: due.length - 1 };
}

function lockBilled(trx: Trx, shipments: readonly BillableShipment[]): Promise<void> {
  return takeLocks(trx, { orders: ordersOf(shipments), customers: [shipments[0]!.customer], shipments: shipments.map((row) => row.shipment) });
}

/** The shipments that were asked for, if they can be on one invoice. */
function checkChosen(ids: readonly ShipmentId[], found: readonly BillableShipment[], field: string): readonly BillableShipment[] {
  if (found.length < new Set(ids).size)
    throw new Refusal('conflict', 'Some of these shipments have not left, or are billed already. Nothing was issued: look again.');
  const [first] = found;
  if (!first) throw invalid(field, 'expected at least one shipment');
  const other = found.find((row) => row.customer !== first.customer);
  if (other) throw invalid(field, `${first.number} is of ${first.billTo.name}, ${other.number} of ${other.billTo.name}: one invoice is for one customer`);
  if (byInvoice(found).length > 1) throw invalid(field, 'one invoice is in one currency');
  return found;
}

const termsOf = (row: BillableShipment) => ({ kind: row.termsKind, days: row.termsDays, discountPercent: row.discountPercent, discountDays: row.discountDays });

function payable(first: BillableShipment, { total }: InvoiceTotals, today: IsoDay): string {
  const terms = termsOf(first);
  return payableInWords(
    { total, dueDay: dueDay(today, terms), discountUntil: discountUntil(today, terms), discountPercent: first.discountPercent },
    first.currency,
    today,
  );
}

/** Writes an invoice; its customer and orders must be locked. `paid`: it was paid as the goods were taken along: it is neither mailed nor settled by a deposit. */
export async function issue(
  context: CommandContext,
  shipments: readonly BillableShipment[],
  { paid = false }: { readonly paid?: boolean } = {},
): Promise<{ readonly id: number; readonly total: Amount }> {
  const { trx, now, user } = context;
  const first = shipments[0]!;
  const lines = linesOf(shipments);
  const totals = invoiceTotals(lines, first.currency);
  const terms = termsOf(first);
  const number = await nextNumber(trx, 'invoice');
  const { id } = await trx
    .insertInto('invoice')
    .values({
      number,
      customer_id: first.customer,
      day: now.today,
      due_day: dueDay(now.today, terms),
      currency: first.currency,
      amount: totals.total,
      net: totals.net,
      tax: totals.tax,
      reference: creditorReference(number),
      terms: termsInWords(terms),
      discount_percent: first.discountPercent,
      discount_until: discountUntil(now.today, terms),
      bill_to: JSON.stringify(first.billTo),
      issued_at: now.instant,
      issued_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await storeLines(trx, id, lines, totals);
  await trx
    .updateTable('shipment')
    .set({ invoice_id: id })
    .where(
      anyOf(
        'id',
        shipments.map((row) => row.shipment),
      ),
    )
    .execute();
  if (!paid) await drawDeposits(context, id, ordersOf(shipments), totals.total);
  const told = await toldOf(trx, id);
  checkRules(told);
  await recordEvent(context, {
    kind: 'invoice.issued',
    facts: { number, customer: first.billTo.name, amount: totals.total, currency: first.currency, shipments: shipments.map((row) => row.number) },
    subjects: [{ kind: 'invoice', key: id }, { kind: 'customer', key: first.customer }, ...ordersOf(shipments).map((key) => ({ kind: 'order' as const, key }))],
  });
  await tellInvoice(context, id, told, paid ? null : ordersOf(shipments)[0]!);
  return { id, total: totals.total };
}
