import type { PromisePart } from '@nockwright/contract/promise';
import { dayByName } from '@nockwright/core/calendar';
import { compareDecimal, least, minus, sum } from '@nockwright/core/money';
import { moved, type Moved } from '@nockwright/core/promise';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { addCall, sameParts } from '../worklist';
import { sayMove } from './ripple-plan';
import { toldParts } from './told-parts';

/** A line whose promise was made anew. */
export interface PromisedAnew {
  readonly order: number;
  readonly line: number;
  readonly item: string;
  /** What was promised before. */
  readonly told: readonly PromisePart[];
  /** What the customer agreed not to get: it is missed by nobody. */
  readonly givenUp: string;
}

/**
 * Notes a call for each customer who was told an earlier day than they are promised now. Where a call about the line is
 * still to be made, it is made with the new days.
 */
export async function callThoseLater(context: CommandContext, lines: readonly PromisedAnew[], why: string): Promise<void> {
  const { trx, now } = context;
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
  for (const { order, line, item, told, givenUp } of lines) {
    const call = open.find((row) => row.line_id === line);
    if (told.length === 0 && !call) continue;
    const holds = holding.get(line) ?? [];
    const row = movedParts(withoutLast(told, givenUp), holds, told, givenUp);
    const isLater = row !== null && (row.to === null || (row.days !== null && row.days > 0));
    // What a call that is still to be made says may have become untrue by a way back to what was held before.
    if (isLater || (call && !sameParts(call.holds, holds)))
      await addCall(context, { order, line, told, holds, say: row ? sayMove(row, item, now.today, dayByName) : '', why });
  }
}

/** How parts of a line differ; what is missing of what was told waits. Null where they are the same. */
export function movedParts(before: readonly PromisePart[], after: readonly PromisePart[], told: readonly PromisePart[] = before, givenUp = '0'): Moved | null {
  return moved(planned(before), planned(after, told, givenUp));
}

/** Parts as the core compares them. */
function planned(parts: readonly PromisePart[], told: readonly PromisePart[] = parts, givenUp = '0') {
  const missing = minus(minus(sum(told.map((part) => part.quantity)), givenUp), sum(parts.map((part) => part.quantity)));
  return {
    id: '',
    schedule: parts.map(({ day, quantity }) => ({ date: day, quantity: Number(quantity) })),
    uncovered: compareDecimal(missing, '0') > 0 ? Number(missing) : 0,
  } as Parameters<typeof moved>[1];
}

/** What is given up is what would have come last. */
function withoutLast(parts: readonly PromisePart[], quantity: string): PromisePart[] {
  let left = quantity;
  return [...parts]
    .reverse()
    .flatMap((part) => {
      const off = least(left, part.quantity);
      left = minus(left, off);
      const rest = minus(part.quantity, off);
      return compareDecimal(rest, '0') > 0 ? [{ day: part.day, quantity: rest }] : [];
    })
    .reverse();
}
