import { takeLocks } from '../locks';
import type { RouteWish } from '@nockwright/contract/shortages';
import type { LineChoice } from '@nockwright/core/routing';
import { sql } from 'kysely';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { owedBefore, type OwedBefore } from '../orders';

import { loadBoundSupply, loadDraftDropShipments, loadDrafts, touchedBy, poolsOfBound } from '../supply';
import type { RoutingReader } from './routing-decision';

/**
 * Locks all that the act may change, in the one lock order. Gives how the orders stand where it may raise what is owed, or lower
 * the margin on a price set by hand; null where it can do neither.
 */
export async function lockRouting(
  context: CommandContext,
  choices: readonly LineChoice<RouteWish>[],
  accept: readonly number[],
  reach: RoutingReader['reach'],
): Promise<OwedBefore | null> {
  const { trx } = context;
  const lines = choices.map((choice) => choice.line);
  const orders = await trx
    .selectFrom('order_line')
    .select(['id', 'order_id'])
    .select(sql<boolean>`coalesce(price_pin->>'kind' = 'manual', false)`.as('by_hand'))
    .where(anyOf('id', [...lines, ...accept]))
    .execute();
  for (const line of lines) if (!orders.some((row) => row.id === line)) throw new Refusal('not-found', `There is no line ${line}.`);
  await takeLocks(trx, { orders: [...new Set(orders.map((row) => row.order_id))] });
  const replaced = new Set(choices.filter(({ parts }) => parts.some((part) => part.kind === 'substitute')).map((choice) => choice.line));
  const judged = orders.filter((row) => row.by_hand || replaced.has(row.id)).map((row) => row.order_id);
  const owed = judged.length === 0 ? null : await owedBefore(context, judged);
  const { pools, suppliers } = await reach(lines);
  const bound = await loadBoundSupply(trx, lines);
  const drafts = [...(await loadDrafts(trx, suppliers)).values(), ...(await loadDraftDropShipments(trx, [...new Set(orders.map((row) => row.order_id))]))];
  const { purchases = [], ...inside } = touchedBy(bound);
  await takeLocks(trx, { purchases: [...drafts.map((draft) => draft.id), ...purchases], ...inside, pools: [...pools, ...(await poolsOfBound(trx, bound))] });
  return owed;
}
