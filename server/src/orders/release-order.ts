import type { OrderView } from '@nockwright/contract/orders';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import type { Now } from '../clock';
import type { Trx } from '../database';
import { storePaper } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { lockContractLines } from '../pricing';
import { loadBook, lockPools, newPromises, storePromises } from '../promise';
import { buyForLines } from '../supply';
import type { CreditFacts } from '@nockwright/core/credit';
import { lockCredit } from '../customers';
import { loadHolds } from './load-holds';
import { forgetHolds, neededCreditHold, neededFloorHold, placeHolds, type NeededHold } from './holds';
import { loadLineFacts, loadOrder, loadOrderLines, type LineFacts, type OrderLineRecord } from './load-order';
import { lockDraft, touchOrder } from './lock-order';
import { checkPrices } from './check-prices';
import { checkSeen, type SeenLine } from './check-seen';
import { loadPapers } from './load-papers';
import { readOrder } from './read-order';
import { shipToText } from './ship-to-text';

/**
 * Releases a draft: gives it its number, makes the purchases its routes need and commits its goods, all or nothing.
 * The promise is computed again under lock; where it is no longer what the coordinator saw, nothing is done and the
 * difference is told. What has no cover needs a route.
 */
export async function releaseOrder(context: CommandContext, orderId: number, version: number, seen: readonly SeenLine[]): Promise<OrderView> {
  const { trx, now } = context;
  const draft = await lockDraft(trx, orderId, version);
  if (draft.kind === 'quote') throw new Refusal('conflict', 'A quote is sent, and accepted by the customer; then its order is released.');
  await checkSoldTo(trx, draft.customer_id);
  const lines = await loadOrderLines(trx, orderId);
  if (lines.length === 0) throw invalid('body', 'the order has no lines');
  const credit = await lockCredit(trx, draft.customer_id, now.today);
  await lockContractLines(
    trx,
    lines.map((line) => line.contract_line_id),
  );
  await checkPrices(trx, draft, lines, now.today);
  await forgetHolds(context, orderId);
  const held = await neededHolds(trx, now, draft, lines, credit);
  if (held.length > 0) {
    await placeHolds(context, orderId, held);
    return readOrder(trx, now, orderId);
  }
  await lockPools(trx, lines);

  const live = await loadBook(trx, now, { items: lines.map((line) => line.item), draft: orderId });
  const facts = await loadLineFacts(
    trx,
    lines.map((line) => line.id),
  );
  const { promises, uncovered } = newPromises(
    live,
    lines.map((line) => line.id),
  );
  await checkSeen(trx, { id: orderId, savedAt: draft.saved_at }, lines, seen, promises, uncovered, now.today);
  checkRouted(lines, facts, uncovered);

  const number = await nextNumber(trx, 'order', draft.source);
  await trx.updateTable('sales_order').set({ number, state: 'released', entered: now.localTime }).where('id', '=', orderId).execute();
  const order = await loadOrder(trx, orderId);
  const buys = facts.routes.flatMap((route) => {
    const line = lines.find((row) => row.id === route.line_id)!;
    return route.kind === 'backorder'
      ? []
      : [
          {
            route: route.id,
            line,
            shipTo: shipToText(line.ship_to_id === null ? order : line),
            kind: route.kind,
            supplier: route.supplier!,
            quantity: route.quantity,
          },
        ];
  });
  const bought = await buyForLines(context, { id: orderId }, buys);
  await storePromises(context, promises);
  await touchOrder(context, orderId);

  const view = await readOrder(trx, now, orderId);
  await storePaper(context, 'acknowledgement', view);
  await recordEvent(context, {
    what: `released order ${number}${bought.map((purchase) => `, purchase ${purchase.number} made`).join('')}`,
    after: {
      lines: view.lines.map((line) => ({
        lineNo: line.lineNo,
        item: line.item,
        quantity: line.stockQuantity,
        promised: line.schedule.map(({ day, quantity }) => ({ day, quantity })),
        waiting: line.waiting,
      })),
    },
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'customer', key: order.customer_id },
      ...lines.map((line) => ({ kind: 'item' as const, key: line.item })),
      ...bought.map(({ purchaseId }) => ({ kind: 'purchase' as const, key: purchaseId })),
    ],
  });
  return { ...view, papers: await loadPapers(trx, orderId) };
}

/** A prospect is quoted, not sold to. */
async function checkSoldTo(trx: Trx, customer: number): Promise<void> {
  const { name, prospect } = await trx.selectFrom('customer').select(['name', 'prospect']).where('id', '=', customer).executeTakeFirstOrThrow();
  if (prospect) throw new Refusal('conflict', `${name} is a prospect: make them a customer first.`);
}

/** Why the order has to wait for someone; those that were let go already do not count. */
async function neededHolds(
  trx: Trx,
  now: Now,
  order: { readonly id: number; readonly currency: string },
  lines: readonly OrderLineRecord[],
  credit: CreditFacts,
): Promise<NeededHold[]> {
  const open = (await loadHolds(trx, order.id)).find((hold) => hold.kind === 'customer' && hold.cleared_at === null);
  if (open) throw new Refusal('conflict', `It waits for the customer: ${open.why}. Clear that first.`);
  const floor = await neededFloorHold(trx, now, order, lines);
  const owing = await neededCreditHold(trx, order, lines, credit, now.today);
  return [floor, owing].filter((hold) => hold !== null);
}

/** What no supply covers must have a way: waiting is one too, if it is chosen. */
function checkRouted(lines: readonly OrderLineRecord[], facts: LineFacts, uncovered: ReadonlyMap<number, string>) {
  const errors = lines.flatMap((line) => {
    const routed = (kind: string) => sum(facts.routes.filter((route) => route.line_id === line.id && route.kind === kind).map((route) => route.quantity));
    const short = uncovered.get(line.id) ?? '0';
    // A line that must leave whole is short as a whole, what will be bought for it included.
    const bought = compareDecimal(plus(short, routed('special_order')), line.stock_quantity) > 0 ? routed('special_order') : '0';
    const open = minus(minus(short, routed('backorder')), bought);
    return compareDecimal(open, '0') > 0
      ? [{ field: `lines[${line.line_no - 1}].routes`, message: `line ${line.line_no}, ${line.item}: ${open} have no cover and no route` }]
      : [];
  });
  if (errors.length > 0) throw new Refusal('invalid', `${errors.map((error) => error.message).join('. ')}. Choose a route, or let it wait.`, errors);
}
