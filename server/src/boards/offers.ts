import { type LiveBook } from '@nockwright/core/book';
import type { Decision, OffersView, RippleView } from '@nockwright/contract/promise';
import type { Now } from '../clock';
import { anyOf, together, type Db } from '../database';
import type { CommandContext } from '../http/context';
import { describeLines, loadBook, loadLocked, lockMoving, settleRipple, viewRipple, type RipplePlan } from '../promise';

/** So many are shown at first. */
const FIRST = 60;

/** Nothing changes but what is accepted. */
function planOf(live: LiveBook): RipplePlan {
  return { live, after: live.book };
}

/**
 * What could be promised or brought forward now and makes nobody later, in the turn of orders, as it is kept; what is accepted
 * of it is shown as done.
 */
export async function listOffers(db: Db, now: Now, accept: readonly number[], most = FIRST): Promise<OffersView> {
  const live = accept.length === 0 ? null : await loadBook(db, now, { items: await itemsOf(db, accept), moving: true });
  const done = live ? await viewRipple(db, planOf(live), accept, now.today) : { later: [], earlier: [] };
  const rows = await db
    .selectFrom('board_offer')
    .innerJoin('order_line', 'order_line.id', 'board_offer.line_id')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['line_id', 'move', 'told', 'order_line.line_no', 'order_line.item', 'sales_order.id as order', 'sales_order.number'])
    .select(({ fn }) => fn.countAll<number>().over().as('count'))
    .where((eb) => eb.not(anyOf('line_id', accept)))
    .orderBy('board_offer.priority')
    .orderBy('board_offer.place')
    .orderBy('sales_order.number')
    .orderBy('order_line.line_no')
    .limit(most)
    .execute();
  const lines = rows.map((row) => row.line_id);
  const describe = await together(db, (all) => describeLines(all, lines, now.today));
  const offers = rows.map(({ line_id, line_no, item, order, number, move, told }) =>
    describe({ lineId: line_id, lineNo: line_no, orderId: order, orderNumber: number!, item }, { id: '', ...move }, { own: false, told }),
  );
  return { later: done.later, earlier: done.earlier, offers, count: rows[0]?.count ?? 0 };
}

async function itemsOf(db: Db, lines: readonly number[]): Promise<string[]> {
  const rows = await db.selectFrom('order_line').select('item').distinct().where(anyOf('id', lines)).orderBy('item').execute();
  return rows.map((row) => row.item);
}

/** Promises and brings forward what was chosen, as it was seen; calls are noted for those who had been told a later day. Gives what was done. */
export async function acceptOffers(context: CommandContext, decision: Decision): Promise<RippleView> {
  await lockMoving(context.trx, decision);
  const live = await loadLocked(context, await itemsOf(context.trx, [...decision.accept, ...decision.seen.map((row) => row.line)]));
  const done = await viewRipple(context.trx, planOf(live), decision.accept, context.now.today);
  await settleRipple(context, planOf(live), decision, { kind: 'goods.freed', facts: {} });
  return { ...done, offers: [] };
}
