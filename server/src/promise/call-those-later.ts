import type { ItemCode } from '@nockwright/core/ids';
import type { Cause } from '@nockwright/contract/history';
import type { PromisePart } from '@nockwright/contract/promise';
import { movedParts } from '@nockwright/core/promise';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { addCalls, sameParts } from '../worklist';
import { toldParts } from './told-parts';

/** A line whose promise was made anew. */
export interface PromisedAnew {
  readonly order: number;
  readonly line: number;
  readonly item: ItemCode;
  /** What was promised before. */
  readonly told: readonly PromisePart[];
  /** What the customer agreed not to get: it is missed by nobody. */
  readonly givenUp: string;
}

/**
 * Notes a call for each customer who was told an earlier day than they are promised now. Where a call about the line is
 * still to be made, it is made with the new days.
 */
export async function callThoseLater(context: CommandContext, lines: readonly PromisedAnew[], cause: Cause): Promise<void> {
  const { trx } = context;
  const holding = await toldParts(
    trx,
    lines.map((line) => line.line),
  );
  const open = await trx
    .selectFrom('customer_call')
    .select(['line_id', 'holds'])
    .where('done_at', 'is', null)
    .where(
      anyOf(
        'line_id',
        lines.map((line) => line.line),
      ),
    )
    .execute();
  const calls = lines.flatMap(({ order, line, item, told, givenUp }) => {
    const call = open.find((row) => row.line_id === line);
    if (told.length === 0 && !call) return [];
    const holds = holding.get(line) ?? [];
    const row = movedParts(told, holds, givenUp);
    const isLater = row !== null && (row.to === null || (row.days !== null && row.days > 0));
    // What a call that is still to be made says may have become untrue by a way back to what was held before.
    return isLater || (call && !sameParts(call.holds, holds)) ? [{ order, line, item, told, holds, givenUp, cause }] : [];
  });
  await addCalls(context, calls);
}
