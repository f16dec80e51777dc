import { takeLocks, touchOrders } from '../locks';
import { poolsOf, type DemandInfo, type LiveBook, type PoolKey } from '@nockwright/core/book';
import type { Cause } from '@nockwright/contract/history';
import type { Decision, PromisePart } from '@nockwright/contract/promise';
import { shortDay } from '@nockwright/core/calendar';
import type { Moved } from '@nockwright/core/promise';
import { anyOf, type Trx } from '../database';
import { recordEvents } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { addCalls } from '../worklist';
import { loadBook } from './load-book';

import { mapInTurns } from '../work';
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
  await takeLocks(trx, { orders: [...new Set([...rows.map((row) => row.order_id), ...others])] });
}

/**
 * The book of some items and of all that is tied to them, with every pool of it locked: from now on nobody else promises
 * or takes any of it. Orders must be locked before. `others`: pools that the change touches and the book may not name.
 */
export async function loadLocked({ trx, now }: CommandContext, items: readonly string[], others: readonly PoolKey[] = []): Promise<LiveBook> {
  const seen = [...poolsOf((await loadBook(trx, now, { items, moving: true })).book), ...others];
  await takeLocks(trx, { pools: seen });
  const live = await loadBook(trx, now, { items, moving: true });
  const locked = new Set(seen.map(({ item, warehouse }) => `${item}/${warehouse}`));
  if (poolsOf(live.book).some(({ item, warehouse }) => !locked.has(`${item}/${warehouse}`)))
    throw new Refusal('changed', 'Other items have become tied to this change meanwhile. Nothing was done: look again, then decide.');
  return live;
}

/** A line whose promise moves, and what becomes of it. */
export interface LineMove {
  readonly info: DemandInfo;
  readonly after: readonly PromisePart[];
}

/**
 * Moves the promises of a change as they were seen and agreed to. The orders and pools must be locked. The ripple is
 * computed again; where it is no longer what was seen, nothing is done and the difference is told. Gives what was moved.
 */
export async function settleRipple(
  context: CommandContext,
  plan: RipplePlan,
  decision: Decision,
  cause: Cause,
  change?: () => Promise<unknown>,
): Promise<readonly Moved[]> {
  const { later, earlier } = rippleOf(plan, decision.accept);
  const moved = [...later, ...earlier];
  const moves = movesOf(plan, moved);
  const infoOf = (line: number) => plan.live.demands.get(plan.live.demandOfLine.get(line) ?? '');
  checkAsSeen(decision, moves.map(named), infoOf, context.now.today);
  await settleMoves(context, moves, cause, change);
  return moved;
}

export function movesOf({ live }: RipplePlan, moved: readonly Moved[]): LineMove[] {
  return moved.map((row) => ({ info: live.demands.get(row.id)!, after: partsOf(row.after) }));
}

/** What a move is called where it is compared with what was seen. */
export function named({ info, after }: LineMove): DemandInfo & { readonly after: readonly PromisePart[] } {
  return { ...info, after };
}

/**
 * Moves promises, and notes a call for each customer who had been told another day. `change` is what causes it: done when
 * the goods of all that moves have been given back and before they are promised anew, so that no pool ever holds more
 * promises than supply.
 */
export async function settleMoves(
  context: CommandContext,
  moves: readonly LineMove[],
  cause: Cause,
  change: () => Promise<unknown> = async () => undefined,
): Promise<void> {
  const lines = moves.map(({ info }) => info.lineId);
  const told = await toldParts(context.trx, lines);
  await context.trx.deleteFrom('line_promise').where(anyOf('line_id', lines)).execute();
  await change();
  await storePromises(
    context,
    moves.flatMap(({ info, after }) => after.map(({ day, quantity }) => ({ lineId: info.lineId, day, quantity }))),
  );
  await forgetWaiting(context.trx, lines);
  const holding = await toldParts(context.trx, lines);
  await recordMoves(
    context,
    moves.map(({ info }) => ({ ...info, before: told.get(info.lineId) ?? [], holds: holding.get(info.lineId) ?? [] })),
    cause,
  );
}

/** A line whose promise was moved. */
interface MovedLine extends Pick<DemandInfo, 'orderId' | 'lineId' | 'lineNo' | 'item'> {
  readonly before: readonly PromisePart[];
  readonly holds: readonly PromisePart[];
}

/** Notes a call for each customer who had been told another day, and writes the moves into the histories of their orders. */
export async function recordMoves(context: CommandContext, moves: readonly MovedLine[], cause: Cause): Promise<void> {
  if (moves.length === 0) return;
  const told = moves.filter(({ before }) => before.length > 0);
  await addCalls(
    context,
    told.map(({ orderId, lineId, item, before, holds }) => ({ order: orderId, line: lineId, item, told: before, holds, cause })),
  );
  await touchOrders(
    context,
    moves.map(({ orderId }) => orderId),
  );
  await recordEvents(
    context,
    await mapInTurns(moves, ({ orderId, lineNo, item, before, holds }) => ({
      kind: 'promise.moved' as const,
      facts: { lineNo, item, before, holds },
      cause,
      before,
      after: holds,
      subjects: [
        { kind: 'order', key: orderId },
        { kind: 'item', key: item },
      ],
    })),
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
