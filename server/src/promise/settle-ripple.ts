import type { Decision, PromisePart } from '@nockwright/contract/promise';
import { shortDay } from '@nockwright/core/calendar';
import type { Moved } from '@nockwright/core/promise';
import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { addCall } from '../worklist';
import { loadBook, type DemandInfo, type LiveBook } from './load-book';
import { lockOrders, lockPools, type PoolKey } from './locks';
import { forgetWaiting, storePromises } from './store-promises';
import { toldParts } from './told-parts';
import { partsOf, rippleOf, type RipplePlan } from './ripple-plan';

/**
 * Locks the orders whose promises a decision moves, those of the change itself included. To be called before anything
 * else is locked: orders come first in the one lock order.
 */
export async function lockMoving(trx: Trx, decision: Decision | undefined, others: readonly number[] = []): Promise<void> {
  const lines = decision ? [...decision.seen.map((row) => row.line), ...decision.accept] : [];
  const rows = await trx
    .selectFrom('order_line')
    .select('order_id')
    .where(anyOf('id', [...new Set(lines)]))
    .execute();
  await lockOrders(trx, [...new Set([...rows.map((row) => row.order_id), ...others])]);
}

/**
 * The book of some items and of all that is tied to them, with every pool of it locked: from now on nobody else promises
 * or takes any of it. Orders must be locked before. `others`: pools that the change touches and the book may not name.
 */
export async function loadLocked({ trx, now }: CommandContext, items: readonly string[], others: readonly PoolKey[] = []): Promise<LiveBook> {
  const poolsOf = ({ book }: LiveBook) => [...book.demand, ...book.supply].map(({ item, warehouse }) => ({ item, warehouse }));
  const seen = [...poolsOf(await loadBook(trx, now, { items, moving: true })), ...others];
  await lockPools(trx, seen);
  const live = await loadBook(trx, now, { items, moving: true });
  const locked = new Set(seen.map(({ item, warehouse }) => `${item}/${warehouse}`));
  if (poolsOf(live).some(({ item, warehouse }) => !locked.has(`${item}/${warehouse}`)))
    throw new Refusal('changed', 'Other items have become tied to this change meanwhile. Nothing was done: look again, then decide.');
  return live;
}

/**
 * Moves the promises of a change as they were seen and agreed to, and notes a call for each customer who had been told
 * another day. The orders and pools must be locked. The ripple is computed again; where it is no longer what was seen,
 * nothing is done and the difference is told. `change` is what causes it: done when the goods of all that moves have
 * been given back and before they are promised anew, so that no pool ever holds more promises than supply. Gives what
 * was moved.
 */
export async function settleRipple(
  context: CommandContext,
  plan: RipplePlan,
  decision: Decision,
  why: string,
  change: () => Promise<unknown> = async () => undefined,
): Promise<readonly Moved[]> {
  const { later, earlier } = rippleOf(plan, decision.accept);
  const moved = [...later, ...earlier];
  checkSeen(context, plan, moved, decision);

  const lineOf = (row: Moved) => plan.live.demands.get(row.id)!.lineId;
  const told = await toldParts(context.trx, moved.map(lineOf));
  await context.trx
    .deleteFrom('line_promise')
    .where(anyOf('line_id', moved.map(lineOf)))
    .execute();
  await change();
  await storePromises(
    context,
    moved.flatMap((row) => partsOf(row.after).map(({ day, quantity }) => ({ lineId: lineOf(row), day, quantity }))),
  );
  await forgetWaiting(context.trx, moved.map(lineOf));
  const holding = await toldParts(context.trx, moved.map(lineOf));
  for (const row of moved) {
    const info = plan.live.demands.get(row.id)!;
    await recordMove(context, { ...info, before: told.get(info.lineId) ?? [], holds: holding.get(info.lineId) ?? [], why });
  }
  return moved;
}

/** A line whose promise was moved. */
interface MovedLine extends Pick<DemandInfo, 'orderId' | 'lineId' | 'lineNo' | 'item'> {
  readonly before: readonly PromisePart[];
  readonly holds: readonly PromisePart[];
  readonly why: string;
}

/** Notes a call where the customer had been told another day, and writes the move into the history of its order. */
export async function recordMove(context: CommandContext, { orderId, lineId, lineNo, item, before, holds, why }: MovedLine): Promise<void> {
  const { today } = context.now;
  if (before.length > 0) await addCall(context, { order: orderId, line: lineId, item, told: before, holds, why });
  await context.trx
    .updateTable('sales_order')
    .set({ version: sql`version + 1`, saved_at: context.now.instant })
    .where('id', '=', orderId)
    .execute();
  await recordEvent(context, {
    what: `promise of line ${lineNo} (${item}) moved: ${inWords(holds, today)}, was ${inWords(before, today)}`,
    why,
    before,
    after: holds,
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: item },
    ],
  });
}

/** Refuses where what would move differs from what was on the screen. */
function checkSeen({ now }: CommandContext, { live }: RipplePlan, moved: readonly Moved[], decision: Decision) {
  const infoOf = (line: number) => live.demands.get(live.demandOfLine.get(line) ?? '');
  checkAsSeen(
    decision,
    moved.map((row) => ({ ...live.demands.get(row.id)!, after: partsOf(row.after) })),
    (line) => infoOf(line),
    now.today,
  );
}

type Named = Pick<DemandInfo, 'lineId' | 'lineNo' | 'orderNumber' | 'item'>;

/** Refuses where what would move now is not what was decided on; `known` names a line that does not move any more. */
export function checkAsSeen(
  decision: Decision,
  moves: readonly (Named & { readonly after: readonly PromisePart[] })[],
  known: (line: number) => Named | undefined,
  today: string,
): void {
  const nameOf = ({ orderNumber, lineNo, item }: Named) => `order ${orderNumber} line ${lineNo}, ${item}`;
  const differences: string[] = [];
  const seen = new Map(decision.seen.map((row) => [row.line, inWords(row.after, today)]));
  for (const row of moves) {
    const becomes = inWords(row.after, today);
    const saw = seen.get(row.lineId);
    seen.delete(row.lineId);
    if (saw === becomes) continue;
    differences.push(saw === undefined ? `${nameOf(row)} would move too, to ${becomes}` : `${nameOf(row)}: you saw ${saw}, it is now ${becomes}`);
  }
  for (const line of seen.keys()) {
    const info = known(line);
    differences.push(info ? `${nameOf(info)} would not move any more` : `line ${line} is no longer open`);
  }
  if (differences.length === 0) return;
  throw new Refusal(
    'changed',
    `What this does to others has changed. ${differences.slice(0, 6).join('. ')}${differences.length > 6 ? ` and ${differences.length - 6} more` : ''}. Nothing was done: look again, then decide.`,
    differences.map((message) => ({ field: 'body.decision.seen', message })),
  );
}

function inWords(parts: readonly PromisePart[], today: string): string {
  return parts.map(({ day, quantity }) => `${quantity} on ${shortDay(day, today)}`).join(', ') || 'waiting';
}
