import type { Decision, RippleView } from '@nockwright/contract/promise';
import { openOffers } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import type { CommandContext } from '../http/context';
import { bookReading } from '../http/whole-book';
import { loadBook, type LiveBook } from './load-book';
import { decisionOf, describeMoved, viewRipple, type RipplePlan } from './ripple-plan';
import { loadLocked, lockMoving, settleRipple } from './settle-ripple';

/** Nothing changes but what is accepted. */
function planOf(live: LiveBook): RipplePlan {
  return { live, after: live.book };
}

/** What could be promised or brought forward now and makes nobody later; what is accepted of it is shown as done. */
export async function listOffers(db: Db, now: Now, accept: readonly number[]): Promise<RippleView> {
  const live = await loadBook(db, now, { moving: true });
  const plan = planOf(live);
  const done = await viewRipple(db, plan, accept, now.today);
  const open = openOffers(live.book).filter((row) => !accept.includes(live.demands.get(row.id)!.lineId));
  return { ...done, offers: await describeMoved(db, plan, open, now.today) };
}

/** The offers of free goods. */
export const offersReading = bookReading('offers', (db, now, accept: readonly number[]) => listOffers(db, now, accept));

/** Promises and brings forward what was chosen, as it was seen; calls are noted for those who had been told a later day. */
export async function acceptOffers(context: CommandContext, decision: Decision): Promise<RippleView> {
  await lockMoving(context.trx, decision);
  const items = await context.trx.selectFrom('item').select('code').orderBy('code').execute();
  const live = await loadLocked(
    context,
    items.map((row) => row.code),
  );
  await settleRipple(context, planOf(live), decision, 'goods were free');
  return listOffers(context.trx, context.now, []);
}

/**
 * Gives lines what is free for them now, as part of another act: promised, or brought forward. It makes nobody later, so
 * it needs not have been seen to the day. Their orders must be locked.
 */
export async function acceptedOffers(context: CommandContext, lines: readonly number[]): Promise<void> {
  const rows = await context.trx.selectFrom('order_line').select('item').where(anyOf('id', lines)).execute();
  const live = await loadLocked(context, [...new Set(rows.map((row) => row.item))]);
  const plan = planOf(live);
  const view = await viewRipple(context.trx, plan, lines, context.now.today);
  await settleRipple(context, plan, decisionOf(view, lines), 'goods were freed');
}
