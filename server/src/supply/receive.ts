import { openQuantity } from '@nockwright/core/orders';
import type { Decision } from '@nockwright/contract/promise';
import type { Arrival, ReceiptReply, SupplyRipple } from '@nockwright/contract/supply';
import { compareDecimal, least, minus, plus } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadLocked, lockMoving, lockPools, settleRipple, viewRipple, type LiveBook, type RipplePlan } from '../promise';
import { bookGoods, checkArrivals, damagedOf, sumByLine } from './arrivals';
import { closeOpenQuantity } from './close-open-quantity';
import type { LineQuantity } from './line-quantities';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase, type PurchaseLineRecord } from './load-purchase';
import { movingBook, planOfSupply, received, supplyIdOf } from './supply-plan';

export interface Receipt {
  readonly version: number;
  readonly lines: readonly Arrival[];
  /** Nothing more will come of the lines that came short. */
  readonly closeRest?: boolean;
  /** The despatch notice that is taken in. */
  readonly notice?: number;
  readonly decision?: Decision;
}

/** Whose promises a receipt would move: what is short of what was awaited and closed, what is over. */
export async function previewReceipt(
  db: Db,
  now: Now,
  purchaseId: number,
  received: readonly LineQuantity[],
  closeRest: boolean,
  accept: readonly number[],
): Promise<SupplyRipple> {
  const purchase = await db.selectFrom('purchase_order').select('number').where('id', '=', purchaseId).executeTakeFirst();
  if (!purchase) throw notFound(`purchase order ${purchaseId}`);
  const lines = checkReceived(await loadPurchaseLines(db, purchaseId), received, 'over');
  const live = await movingBook(
    db,
    now,
    lines.map(({ line }) => line.item),
  );
  return { availableDay: null, ripple: await viewRipple(db, planOfReceipt(live, purchase.number, lines, closeRest), accept, now.today) };
}

/**
 * Receives goods into the warehouse. What is bound to an order line stays set aside for it; the rest goes to those it
 * was promised to, by the day they leave. What comes over what was awaited is anyone's. Says whom the goods are for, so
 * that they can be left at the dock.
 */
export async function receive(
  context: CommandContext,
  purchaseId: number,
  { version, lines: wished, closeRest, notice, decision }: Receipt,
): Promise<ReceiptReply> {
  const { trx, now } = context;
  if ((closeRest || decision) && context.user.role === 'warehouse')
    throw new Refusal('not-allowed', 'Book what came in; whether more is awaited, and whose promises move, is the desk’s to decide.');
  // Orders are locked before purchase orders: look first whose lines are bound, then lock in that order.
  const bound = await trx
    .selectFrom('purchase_line')
    .innerJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select('order_line.order_id')
    .where('purchase_id', '=', purchaseId)
    .execute();
  await lockMoving(
    trx,
    decision,
    bound.map((row) => row.order_id),
  );
  const purchase = await lockPurchase(trx, purchaseId, version);
  if (purchase.kind === 'drop_ship') throw new Refusal('conflict', `Purchase ${purchase.number} goes to the customer: confirm the supplier's notice instead.`);
  if (purchase.state === 'draft') throw new Refusal('conflict', `Purchase ${purchase.number} is not sent yet.`);
  const records = await loadPurchaseLines(trx, purchaseId);
  const arrived = await checkArrivals(trx, purchase.warehouse!, records, wished, now.today);
  const lines = checkReceived(records, sumByLine(arrived), 'over');
  const goesTo: ReceiptReply['goesTo'][number][] = [];
  const owedNow = async () => (await readPurchase(trx, now, purchaseId)).lines;
  const book = async (owed: ReceiptReply['purchase']['lines']) => {
    for (const row of lines) {
      await bookGoods(
        context,
        purchase.number,
        row.line,
        arrived.filter((one) => one.line === row.line.id),
      );
      goesTo.push(...(await bookLine(context, purchase, row, owed.find((view) => view.id === row.line.id)!.owed)));
    }
    if (closeRest)
      for (const { line, quantity } of lines)
        if (compareDecimal(quantity, line.open) < 0) await closeOpenQuantity(context, line.id, minus(line.open, quantity), 'came short');
  };
  if (decision) {
    const live = await loadLocked(
      context,
      lines.map(({ line }) => line.item),
    );
    const owed = await owedNow();
    const why = `receipt of purchase ${purchase.number}: ${lines.map(({ line, quantity }) => `${quantity} of ${line.open} ${line.item}`).join(', ')}`;
    await settleRipple(context, planOfReceipt(live, purchase.number, lines, closeRest ?? false), decision, why, () => book(owed));
  } else {
    await lockPools(
      trx,
      lines.map(({ line }) => ({ item: line.item, warehouse: line.warehouse! })),
    );
    await book(await owedNow());
  }
  await touchPurchase(trx, purchaseId);
  await settleNotices(context, purchaseId, notice);
  const sound = lines.flatMap(({ line, quantity }) => (compareDecimal(quantity, '0') > 0 ? [`${quantity} ${line.item}`] : [])).join(', ');
  const unfit = lines.flatMap(({ line }) => damagedOf(arrived, line.id).map((quantity) => `${quantity} ${line.item}`));
  await recordEvent(context, {
    what: `received ${sound || 'nothing sound'} on purchase ${purchase.number}${unfit.length > 0 ? `; damaged, in quarantine: ${unfit.join(', ')}` : ''}`,
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

/** A notice is dealt with when what it announced is taken in, and all are when nothing more is awaited. */
async function settleNotices({ trx }: CommandContext, purchaseId: number, notice: number | undefined): Promise<void> {
  const open = await trx
    .selectFrom('purchase_line')
    .select('id')
    .where('purchase_id', '=', purchaseId)
    .where(({ eb }) => eb(sql`received + closed`, '<', sql`quantity`))
    .limit(1)
    .executeTakeFirst();
  const { numUpdatedRows } = await trx
    .updateTable('despatch_notice')
    .set({ done: true })
    .where('purchase_id', '=', purchaseId)
    .where((eb) => (open ? eb('id', '=', notice ?? 0) : eb.val(true)))
    .executeTakeFirstOrThrow();
  if (notice !== undefined && open && numUpdatedRows === 0n) throw invalid('body.notice', `this purchase has no notice ${notice}`);
}

/** Counts what came of a line; gives those it is owed to. */
async function bookLine(
  context: CommandContext,
  purchase: { readonly number: string; readonly supplier: string },
  { line, quantity }: { readonly line: PurchaseLineRecord; readonly quantity: string },
  owed: ReceiptReply['purchase']['lines'][number]['owed'],
): Promise<ReceiptReply['goesTo'][number][]> {
  const { trx, now } = context;
  if (compareDecimal(quantity, '0') === 0) return [];
  if (line.order_line_id !== null) await reserve(context, line.order_line_id, quantity);
  const over = minus(quantity, line.open);
  await trx
    .updateTable('purchase_line')
    .set({ received: plus(line.received, quantity), ...(compareDecimal(over, '0') > 0 ? { quantity: plus(line.quantity, over) } : {}) })
    .where('id', '=', line.id)
    .execute();
  await trx
    .insertInto('supplier_receipt')
    .values({ supplier: purchase.supplier, item: line.item, promised_day: line.first_day, received_day: now.today })
    .execute();
  let left = quantity;
  const goesTo: ReceiptReply['goesTo'][number][] = [];
  for (const row of owed) {
    const part = least(left, row.quantity);
    if (compareDecimal(part, '0') <= 0) break;
    goesTo.push({ order: row.order, number: row.number, lineNo: row.lineNo, customer: row.customer, item: line.item, quantity: part, day: row.day });
    left = minus(left, part);
  }
  return goesTo;
}

function planOfReceipt(live: LiveBook, purchaseNumber: string, lines: ReturnType<typeof checkReceived>, closeRest: boolean): RipplePlan {
  return planOfSupply(live, new Map(lines.map(({ line, quantity }) => [supplyIdOf(purchaseNumber, line), received(quantity, closeRest)])));
}

/** The lines received, each once, and not above what is awaited where nothing may come over. */
export function checkReceived(
  lines: readonly PurchaseLineRecord[],
  received: readonly LineQuantity[],
  over?: 'over',
): { readonly line: PurchaseLineRecord; readonly quantity: string }[] {
  const errors: { field: string; message: string }[] = [];
  const seen = new Set<number>();
  const checked = received.flatMap(({ line: id, quantity }, at) => {
    const line = lines.find((row) => row.id === id);
    if (!line) errors.push({ field: `body.lines[${at}].line`, message: `there is no line ${id} on this purchase order` });
    else if (seen.has(id)) errors.push({ field: `body.lines[${at}].line`, message: `line ${line.line_no} stands twice` });
    else if (line.open === '0') errors.push({ field: `body.lines[${at}].line`, message: `nothing more is awaited of line ${line.line_no}` });
    else if (!over && compareDecimal(quantity, line.open) > 0)
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
  const open = openQuantity(line);
  await trx
    .updateTable('order_line')
    .set({ reserved: least(open, plus(line.reserved, quantity)) })
    .where('id', '=', orderLineId)
    .execute();
}
