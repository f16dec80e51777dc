import type { PromisePart } from '@nockwright/contract/promise';
import { dayByName } from '@nockwright/core/calendar';
import { compareDecimal, least, minus, sum } from '@nockwright/core/money';
import { moved } from '@nockwright/core/promise';
import { anyOf, type Trx } from '../database';
import type { CommandContext } from '../http/context';
import { addCall } from '../worklist';
import { sayMove } from './ripple-plan';

/** What lines are promised by day. */
export async function toldParts(trx: Trx, lineIds: readonly number[]): Promise<ReadonlyMap<number, PromisePart[]>> {
  const rows = await trx.selectFrom('line_promise').selectAll().where(anyOf('line_id', lineIds)).orderBy('line_id').orderBy('day').execute();
  const told = new Map<number, PromisePart[]>();
  for (const { line_id, day, quantity } of rows) {
    const list = told.get(line_id) ?? [];
    list.push({ day, quantity });
    told.set(line_id, list);
  }
  return told;
}

/** A line whose promise was made anew. */
export interface PromisedAnew {
  readonly order: number;
  readonly line: number;
  readonly item: string;
  /** What was promised before. */
  readonly told: readonly PromisePart[];
  /** What the customer agreed not to get: it is missed by nobody. */
  readonly givenUp: string;
  /** What leaves our suppliers for them. */
  readonly dropShips: readonly PromisePart[];
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
    .select('line_id')
    .where('done_at', 'is', null)
    .where(
      anyOf(
        'line_id',
        lines.map((line) => line.line),
      ),
    )
    .execute();
  for (const { order, line, item, told, givenUp, dropShips } of lines) {
    const isOpen = open.some((call) => call.line_id === line);
    if (told.length === 0 && !isOpen) continue;
    const parts = holding.get(line) ?? [];
    const holds = [...parts, ...dropShips].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
    const row = moved(planned(withoutLast(told, givenUp)), planned(holds, told, givenUp));
    if (!row) continue;
    const isLater = row.to === null || (row.days !== null && row.days > 0);
    if (isLater || isOpen) await addCall(context, { order, line, told, holds, say: sayMove(row, item, now.today, dayByName), why });
  }
}

/** Parts as the core compares them; what is missing of what was told waits. */
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
