import { changedLines, type ChangedLine, type SeenLine } from '@nockwright/core/orders';
import type { Trx } from '../database';
import { lastOnItem } from '../events';
import { Refusal } from '../http/refusal';
import type { NewPromise } from '../promise';
import type { OrderLineRecord } from './load-order';

export type { SeenLine };

/** Refuses where what would be promised differs from what was on the screen, and says what happened meanwhile. */
export async function checkSeen(
  trx: Trx,
  order: { readonly id: number; readonly savedAt: Date },
  lines: readonly OrderLineRecord[],
  seen: readonly SeenLine[],
  promises: readonly NewPromise[],
  uncovered: ReadonlyMap<number, string>,
  today: string,
): Promise<void> {
  const current = lines.map((line) => ({
    id: line.id,
    lineNo: line.line_no,
    item: line.item,
    promised: promises.filter((row) => row.lineId === line.id),
    uncovered: uncovered.get(line.id) ?? '0',
  }));
  const changed = changedLines(current, seen, today);
  if (changed.length > 0) throw await hasChanged(trx, order, changed);
}

/** Tells of each line what was seen, what it is now, and who has done what to its item meanwhile. */
export async function hasChanged(trx: Trx, order: { readonly id: number; readonly savedAt: Date }, changed: readonly ChangedLine[]): Promise<Refusal> {
  const errors: { field: string; message: string }[] = [];
  for (const { lineNo, item, saw, now } of changed) {
    const cause = await lastOnItem(trx, item, order.savedAt, order.id);
    const why = cause ? `${cause.who} ${cause.what}` : 'time has passed since';
    errors.push({ field: `lines[${lineNo - 1}]`, message: `line ${lineNo}, ${item}: you saw ${saw}; it is now ${now} (${why})` });
  }
  const words = errors.map((error) => error.message).join('. ');
  return new Refusal('changed', `The promise has changed. ${words}. Nothing was done: look again, then decide.`, errors);
}
