import type { ItemCode, PurchaseId, OrderId } from '@nockwright/core/ids';
import { takeLocks } from '../locks';
import { type LiveBook } from '@nockwright/core/book';
import { decideReceipt, goesTo, receivedLines, type ReceivedLine } from '@nockwright/core/receiving';
import type { Decision } from '@nockwright/contract/promise';
import type { Arrival, ReceiptReply, SupplyRipple } from '@nockwright/contract/supply';
import { compareDecimal } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadLocked, lockMoving, settleRipple, viewRipple, type RipplePlan } from '../promise';
import { loadReceiptFacts, receiptRefusal, storeReceipt } from './arrivals';
import { closeOpenQuantity } from './close-open-quantity';
import type { LineQuantity } from './line-quantities';
import { loadOwed, loadPurchaseLines, lockPurchase, readPurchase, touchPurchase, type PurchaseLineRecord } from './load-purchase';
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
  purchaseId: PurchaseId,
  received: readonly LineQuantity[],
  closeRest: boolean,
  accept: readonly number[],
): Promise<SupplyRipple> {
  const purchase = await db.selectFrom('purchase_order').select('number').where('id', '=', purchaseId).executeTakeFirst();
  if (!purchase) throw notFound(`purchase order ${purchaseId}`);
  const lines = checkReceived(await loadPurchaseLines(db, purchaseId), received, true);
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
  purchaseId: PurchaseId,
  { version, lines: wished, closeRest, notice, decision }: Receipt,
): Promise<ReceiptReply> {
  const { trx, now } = context;
  if ((closeRest || decision) && context.user.role === 'warehouse')
    throw new Refusal('not-allowed', 'Receive what came in. Whether more is expected, and whose promises move, the desk decides.');
  await lockMoving(trx, decision, await ordersBoundTo(trx, purchaseId));
  const purchase = await lockPurchase(trx, purchaseId, version);
  if (purchase.kind === 'drop_ship') throw new Refusal('conflict', `Purchase ${purchase.number} goes to the customer: confirm the supplier's notice instead.`);
  if (purchase.state === 'draft') throw new Refusal('conflict', `Purchase ${purchase.number} is not sent yet.`);
  const facts = await loadReceiptFacts(trx, purchase.warehouse!, await loadPurchaseLines(trx, purchaseId), wished, now.today);
  const decided = decideReceipt(facts, wished, closeRest ?? false, now.today);
  if (!decided.ok) throw receiptRefusal(decided.faults);
  const { receipt } = decided;
  const { lines } = receipt;
  const owed = await book(context, purchase, facts.lines, receipt, { closeRest: closeRest ?? false, decision });
  const places = lines.flatMap(({ line, quantity }) => goesTo(quantity, owed.get(line.id) ?? []).map((row) => ({ ...row, item: line.item })));
  await touchPurchase(trx, purchaseId);
  await settleNotices(context, purchaseId, notice);
  const some = (rows: readonly { readonly quantity: string; readonly item: ItemCode }[]) => rows.filter(({ quantity }) => compareDecimal(quantity, '0') > 0);
  await recordEvent(context, {
    kind: 'purchase.received',
    facts: {
      number: purchase.number,
      goods: some(lines.map(({ line, quantity }) => ({ quantity, item: line.item }))),
      damaged: some(lines.map(({ line, damaged }) => ({ quantity: damaged, item: line.item }))),
    },
    before: lines.map(({ line }) => ({ lineNo: line.line_no, received: line.received })),
    after: lines.map(({ line, received: all }) => ({ lineNo: line.line_no, received: all })),
    subjects: [
      { kind: 'purchase', key: purchaseId },
      ...lines.map(({ line }) => ({ kind: 'item' as const, key: line.item })),
      ...places.map((row) => ({ kind: 'order' as const, key: row.order })),
    ],
  });
  return { purchase: await readPurchase(trx, now, purchaseId), goesTo: places };
}

/** A notice is dealt with when what it announced is taken in, and all are when nothing more is awaited. */
async function settleNotices({ trx }: CommandContext, purchaseId: PurchaseId, notice: number | undefined): Promise<void> {
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

function planOfReceipt(live: LiveBook, purchaseNumber: string, lines: readonly ReceivedLine<PurchaseLineRecord>[], closeRest: boolean): RipplePlan {
  return planOfSupply(live, new Map(lines.map(({ line, quantity }) => [supplyIdOf(purchaseNumber, line), received(quantity, closeRest)])));
}

/** The lines received, each once, and not above what is awaited where nothing may come over. */
export function checkReceived(
  lines: readonly PurchaseLineRecord[],
  received: readonly LineQuantity[],
  over = false,
): readonly ReceivedLine<PurchaseLineRecord>[] {
  const checked = receivedLines(lines, received, over);
  if (!checked.ok) throw receiptRefusal(checked.faults);
  return checked.lines;
}

/** Orders are locked before purchase orders: whose lines are bound is looked up first, then locked in that order. */
async function ordersBoundTo(db: Db, purchaseId: PurchaseId): Promise<OrderId[]> {
  const rows = await db
    .selectFrom('purchase_line')
    .innerJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select('order_line.order_id')
    .where('purchase_id', '=', purchaseId)
    .execute();
  return rows.map((row) => row.order_id);
}

/** Books a receipt. Gives whom the goods were owed to before it was booked. */
async function book(
  context: CommandContext,
  purchase: Awaited<ReturnType<typeof lockPurchase>>,
  known: readonly PurchaseLineRecord[],
  receipt: Parameters<typeof storeReceipt>[2],
  { closeRest, decision }: { readonly closeRest: boolean; readonly decision: Decision | undefined },
) {
  const { trx, now } = context;
  const { lines } = receipt;
  const store = async () => {
    await storeReceipt(context, purchase, receipt);
    for (const { line, quantity } of receipt.closed) await closeOpenQuantity(context, line.id, quantity, { cause: { kind: 'receipt.short', facts: {} } });
  };
  // Whom it is owed to is read before it is booked.
  const owedNow = () => loadOwed(trx, now, purchase.number, known);
  let owed: Awaited<ReturnType<typeof owedNow>>;
  if (decision) {
    const live = await loadLocked(
      context,
      lines.map(({ line }) => line.item),
    );
    owed = await owedNow();
    const goods = lines.map(({ line, quantity }) => ({ quantity, item: line.item }));
    const cause = { kind: 'purchase.received' as const, facts: { number: purchase.number, goods, damaged: [] } };
    await settleRipple(context, planOfReceipt(live, purchase.number, lines, closeRest), decision, cause, store);
  } else {
    await takeLocks(trx, { pools: lines.map(({ line }) => ({ item: line.item, warehouse: line.warehouse! })) });
    owed = await owedNow();
    await store();
  }
  return owed;
}
