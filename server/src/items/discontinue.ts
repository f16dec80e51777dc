import type { ItemPage, itemRoutes } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { readItem } from './read-item';

/**
 * Says that an item is no longer made, and what follows it: what is on hand and on its way may still be sold, its successor
 * is offered beside it. Where suppliers do not sell it any more either, it cannot be bought.
 */
export async function setDiscontinued(context: CommandContext, code: string, wish: BodyOf<typeof itemRoutes.setDiscontinued>): Promise<ItemPage> {
  const { trx, now } = context;
  const item = await trx.selectFrom('item').select(['code', 'discontinued', 'successor']).where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const successor = wish.discontinued ? (wish.successor === undefined ? item.successor : wish.successor) : null;
  if (successor !== null) await checkSuccessor(trx, code, successor);
  await trx.updateTable('item').set({ discontinued: wish.discontinued, successor }).where('code', '=', code).execute();
  if (wish.discontinued && wish.soldByNobody) {
    await trx.deleteFrom('supplier_item_break').where('item', '=', code).execute();
    await trx.deleteFrom('supplier_item').where('item', '=', code).execute();
  }
  await recordEvent(context, {
    ...(wish.discontinued
      ? { kind: 'item.discontinued' as const, facts: { item: code, soldByNobody: wish.soldByNobody ?? false, successor } }
      : { kind: 'item.resumed' as const, facts: { item: code } }),
    why: wish.reason ?? '',
    before: { discontinued: item.discontinued, successor: item.successor },
    after: { discontinued: wish.discontinued, successor },
    subjects: [{ kind: 'item', key: code }, ...(successor ? [{ kind: 'item' as const, key: successor }] : [])],
  });
  return readItem(trx, now, code);
}

/** The successor exists, and the line of successors does not come back to the item. */
async function checkSuccessor(trx: Trx, code: string, successor: string): Promise<void> {
  const seen = new Set([code]);
  for (let next: string | null = successor; next !== null;) {
    if (seen.has(next)) throw invalid('body.successor', `${successor} would be followed by ${code} again`);
    seen.add(next);
    const row: { successor: string | null } | undefined = await trx.selectFrom('item').select('successor').where('code', '=', next).executeTakeFirst();
    if (!row) throw invalid('body.successor', `there is no item ${next}`);
    next = row.successor;
  }
}
