import type { payableRoutes, SupplierInvoiceView } from '@nockwright/contract/payables';
import type { BodyOf } from '@nockwright/contract/shape';
import { readSupplierInvoice as readMessage, type SupplierInvoiceMessage } from '@nockwright/core/exchange';
import type { SupplierCode } from '@nockwright/core/ids';
import { compareDecimal, divide, lineAmount, roundMoney, sum, times } from '@nockwright/core/money';
import { anyOf, insertRows, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { readSupplierInvoice } from './load-invoice';

type Entered = BodyOf<typeof payableRoutes.enterSupplierInvoice>;

/** Enters a supplier's invoice. Where it matches what was ordered and what came it is accepted at once. */
export async function enterSupplierInvoice(context: CommandContext, body: Entered, file = ''): Promise<SupplierInvoiceView> {
  const { trx, now, user } = context;
  const { supplier, number, lines, freight, tax, total } = body;
  const { currency } = await trx.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  const named = await trx.selectFrom('supplier').select('name').where('code', '=', supplier).executeTakeFirst();
  if (!named) throw invalid('body.supplier', `there is no supplier ${supplier}`);
  await lockPurchases(trx, supplier, lines);
  if (await known(trx, supplier, number)) throw invalid('body.number', `invoice ${number} of ${named.name} is entered already`);
  if (body.dueDay < body.day) throw invalid('body.dueDay', `${body.dueDay} is before ${body.day}`);
  const priced = lines.map((line) => ({ ...line, amount: lineAmount(line.quantity, line.price, currency) }));
  const { id } = await trx
    .insertInto('supplier_invoice')
    .values({
      supplier,
      number,
      day: body.day,
      due_day: body.dueDay,
      net: roundMoney(sum(priced.map((line) => line.amount)), currency),
      freight: roundMoney(freight, currency),
      tax: roundMoney(tax, currency),
      total: roundMoney(total, currency),
      file,
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await insertRows(
    trx,
    'supplier_invoice_line',
    priced.map(({ line, ...row }, at) => ({ ...row, invoice_id: id, line_no: at + 1, purchase_line_id: line })),
  );
  const seen = await readSupplierInvoice(trx, id);
  const matches = seen.findings.length === 0;
  if (matches) await decide(context, id, 'accepted', '');
  await recordEvent(context, {
    kind: 'supplier_invoice.entered',
    facts: { number, supplier: named.name, amount: total, currency, differs: seen.findings.length },
    subjects: subjectsOf({ id, supplier }, seen),
  });
  return readSupplierInvoice(trx, id);
}

/** Takes in a supplier's invoice as UBL 2.1: its lines by the purchase lines they name, else by the item. */
export async function addSupplierInvoiceFile(context: CommandContext, name: string, content: string): Promise<SupplierInvoiceView> {
  const read = readMessage(content);
  if (!read.ok) throw faulty(name, read.faults);
  const message = read.document;
  const { trx } = context;
  const { currency } = await trx.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  if (message.currency !== currency) throw faulty(name, [`DocumentCurrencyCode: expected ${currency}, got ${message.currency || 'nothing'}`]);
  const { supplier, lines } = await linesOf(trx, name, message);
  const { number, day, dueDay, freight, tax, total } = message;
  return enterSupplierInvoice(context, { supplier, number, day, dueDay, freight, tax, total, lines }, name);
}

async function linesOf(trx: Trx, name: string, message: SupplierInvoiceMessage): Promise<{ supplier: SupplierCode; lines: Entered['lines'] }> {
  const rows = await trx
    .selectFrom('purchase_line as l')
    .innerJoin('purchase_order as p', 'p.id', 'l.purchase_id')
    .leftJoin('supplier_item as s', (join) => join.onRef('s.supplier', '=', 'p.supplier').onRef('s.item', '=', 'l.item'))
    .leftJoin('supplier_unit as u', (join) => join.onRef('u.supplier', '=', 'p.supplier').onRef('u.item', '=', 'l.item'))
    .select(['l.id', 'l.line_no', 'l.item', 'p.number', 'p.supplier', 's.their_code', 'u.quantity as per_unit'])
    .where(anyOf('p.number', [...new Set(message.lines.map((line) => line.purchase))]))
    .orderBy('l.id')
    .execute();
  const faults: string[] = [];
  const lines = message.lines.flatMap((line, at) => {
    const own = rows.filter((row) => row.number === line.purchase);
    const found =
      own.find((row) => row.line_no === line.lineNo) ??
      own.find((row) => row.item === line.ourCode) ??
      own.find((row) => line.theirCode !== '' && row.their_code === line.theirCode);
    if (!found) {
      faults.push(`line ${at + 1}: purchase order ${line.purchase} has no line for it`);
      return [];
    }
    // Suppliers count in the unit they sell: a case of twelve is twelve of ours.
    const per = found.per_unit ?? '1';
    return [{ line: found.id, quantity: times(line.quantity, per), price: divide(line.price, per, 4) }];
  });
  const suppliers = [...new Set(rows.map((row) => row.supplier))];
  if (suppliers.length > 1) faults.push(`it names purchase orders of ${suppliers.join(' and ')}`);
  if (faults.length > 0) throw faulty(name, faults);
  return { supplier: suppliers[0]!, lines };
}

const MOST_FAULTS = 5;
function faulty(name: string, faults: readonly string[]): Refusal {
  const errors = faults.slice(0, MOST_FAULTS).map((message) => ({ field: 'body.content', message }));
  return new Refusal('invalid', `${name}: ${errors.map(({ message }) => message).join('; ')}`, errors);
}

/** Locks the purchases that lines are of; refuses lines that are none of this supplier's, stand twice, or are of a draft. */
async function lockPurchases(trx: Trx, supplier: SupplierCode, lines: Entered['lines']): Promise<void> {
  const ids = lines.map((line) => line.line);
  const rows = await trx
    .selectFrom('purchase_line as l')
    .innerJoin('purchase_order as p', 'p.id', 'l.purchase_id')
    .select(['l.id', 'l.purchase_id', 'l.item', 'l.warehouse', 'p.supplier'])
    .where(anyOf('l.id', ids))
    .execute();
  ids.forEach((id, at) => {
    if (rows.find((row) => row.id === id)?.supplier !== supplier) throw invalid(`body.lines[${at}].line`, `${supplier} has no purchase line ${id}`);
    if (ids.indexOf(id) !== at) throw invalid(`body.lines[${at}].line`, `purchase line ${id} stands twice`);
    if (compareDecimal(lines[at]!.quantity, '0') <= 0) throw invalid(`body.lines[${at}].quantity`, 'expected a quantity above 0');
  });
  await takeLocks(trx, {
    purchases: rows.map((row) => row.purchase_id),
    // What is dearer goes to the cost of goods on hand.
    pools: rows.flatMap(({ item, warehouse }) => (warehouse === null ? [] : [{ item, warehouse }])),
  });
}

async function known(trx: Trx, supplier: SupplierCode, number: string): Promise<boolean> {
  const rows = await trx.selectFrom('supplier_invoice').select('number').where('supplier', '=', supplier).where('state', '<>', 'refused').execute();
  return rows.some((row) => row.number.toLowerCase() === number.toLowerCase());
}

/** Writes what was decided; the ledger posts itself. */
export async function decide({ trx, now, user }: CommandContext, id: number, state: 'accepted' | 'refused', reason: string): Promise<void> {
  await trx
    .updateTable('supplier_invoice')
    .set(({ eb }) => ({ state, reason, decided_at: now.instant, decided_by: user.id, version: eb('version', '+', 1) }))
    .where('id', '=', id)
    .execute();
}

export const subjectsOf = ({ id, supplier }: { readonly id: number; readonly supplier: SupplierCode }, { lines }: Pick<SupplierInvoiceView, 'lines'>) => [
  { kind: 'supplier_invoice' as const, key: id },
  { kind: 'supplier' as const, key: supplier },
  ...[...new Set(lines.map((line) => line.purchase))].map((key) => ({ kind: 'purchase' as const, key })),
];
