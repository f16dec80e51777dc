import type { ReceiptReply } from '@nockwright/contract/supply';
import { compareDecimal, least, minus, plus } from '@nockwright/core/money';
import { anyOf } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { lockOrders, lockPools } from '../promise';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase, type PurchaseLineRecord } from './load-purchase';

interface ReceivedLine {
  readonly line: number;
  readonly quantity: string;
}

/**
 * Receives goods into the warehouse. What is bound to an order line stays set aside for it; the rest goes to those it
 * was promised to, by the day they leave. Says whom the goods are for, so that they can be left at the dock.
 */
export async function receive(context: CommandContext, purchaseId: number, version: number, received: readonly ReceivedLine[]): Promise<ReceiptReply> {
  const { trx, now } = context;
  // Orders are locked before purchase orders: look first whose lines are bound, then lock in that order.
  const bound = await trx
    .selectFrom('purchase_line')
    .innerJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select('order_line.order_id')
    .where('purchase_id', '=', purchaseId)
    .execute();
  await lockOrders(
    trx,
    bound.map((row) => row.order_id),
  );
  const purchase = await lockPurchase(trx, purchaseId, version);
  if (purchase.kind === 'drop_ship') throw new Refusal('conflict', `Purchase ${purchase.number} goes to the customer: confirm the supplier's notice instead.`);
  if (purchase.state === 'draft') throw new Refusal('conflict', `Purchase ${purchase.number} is not sent yet.`);
  const lines = checkReceived(await loadPurchaseLines(trx, purchaseId), received);
  await lockPools(
    trx,
    lines.map(({ line }) => ({ item: line.item, warehouse: line.warehouse! })),
  );

  const owed = (await readPurchase(trx, now, purchaseId)).lines;
  const goesTo: ReceiptReply['goesTo'][number][] = [];
  for (const { line, quantity } of lines) {
    await trx
      .insertInto('stock_movement')
      .values({ at: now.instant, item: line.item, warehouse: line.warehouse!, quantity, kind: 'receipt', reference: `${purchase.number}/${line.line_no}` })
      .execute();
    if (line.order_line_id !== null) await reserve(context, line.order_line_id, quantity);
    await trx
      .updateTable('purchase_line')
      .set({ received: plus(line.received, quantity) })
      .where('id', '=', line.id)
      .execute();
    let left = quantity;
    for (const row of owed.find((view) => view.id === line.id)!.owed) {
      const part = least(left, row.quantity);
      if (compareDecimal(part, '0') <= 0) break;
      goesTo.push({ order: row.order, number: row.number, lineNo: row.lineNo, customer: row.customer, item: line.item, quantity: part, day: row.day });
      left = minus(left, part);
    }
  }
  await touchPurchase(trx, purchaseId);
  await recordEvent(context, {
    what: `received ${lines.map(({ line, quantity }) => `${quantity} ${line.item}`).join(', ')} on purchase ${purchase.number}`,
    before: lines.map(({ line }) => ({ lineNo: line.line_no, received: line.received })),
    after: lines.map(({ line, quantity }) => ({ lineNo: line.line_no, received: plus(line.received, quantity) })),
    subjects: [
      { kind: 'purchase', key: purchaseId },
      ...lines.map(({ line }) => ({ kind: 'item' as const, key: line.item })),
      ...goesTo.map((row) => ({ kind: 'order' as const, key: row.order })),
    ],
  });
  return { purchase: await readPurchase(trx, now, purchaseId), goesTo };
}

/** The lines received, each once and not above what is awaited. */
export function checkReceived(
  lines: readonly PurchaseLineRecord[],
  received: readonly ReceivedLine[],
): { readonly line: PurchaseLineRecord; readonly quantity: string }[] {
  const errors: { field: string; message: string }[] = [];
  const seen = new Set<number>();
  const checked = received.flatMap(({ line: id, quantity }, at) => {
    const line = lines.find((row) => row.id === id);
    if (!line) errors.push({ field: `body.lines[${at}].line`, message: `there is no line ${id} on this purchase order` });
    else if (seen.has(id)) errors.push({ field: `body.lines[${at}].line`, message: `line ${line.line_no} stands twice` });
    else if (compareDecimal(quantity, line.open) > 0)
      errors.push({ field: `body.lines[${at}].quantity`, message: `${quantity} is more than the ${line.open} awaited of line ${line.line_no}` });
    seen.add(id);
    return line ? [{ line, quantity }] : [];
  });
  if (errors.length > 0) throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
  return checked;
}

/** Sets what came in for an order line aside for it; what it no longer needs is anyone's. */
async function reserve({ trx }: CommandContext, orderLineId: number, quantity: string) {
  const line = await trx
    .selectFrom('order_line')
    .select(['stock_quantity', 'shipped', 'cancelled', 'reserved'])
    .where(anyOf('id', [orderLineId]))
    .executeTakeFirstOrThrow();
  const open = minus(minus(line.stock_quantity, line.shipped), line.cancelled);
  await trx
    .updateTable('order_line')
    .set({ reserved: least(open, plus(line.reserved, quantity)) })
    .where('id', '=', orderLineId)
    .execute();
}
