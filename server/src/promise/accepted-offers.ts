import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { decisionOf, viewRipple } from './ripple-plan';
import { loadLocked, settleRipple } from './settle-ripple';

/**
 * Gives lines what is free for them now, as part of another act: promised, or brought forward. It makes nobody later, so
 * it needs not have been seen to the day. Their orders must be locked.
 */
export async function acceptedOffers(context: CommandContext, lines: readonly number[]): Promise<void> {
  const rows = await context.trx.selectFrom('order_line').select('item').where(anyOf('id', lines)).execute();
  const live = await loadLocked(context, [...new Set(rows.map((row) => row.item))]);
  const plan = { live, after: live.book };
  const view = await viewRipple(context.trx, plan, lines, context.now.today);
  await settleRipple(context, plan, decisionOf(view, lines), { kind: 'goods.freed', facts: {} });
}
