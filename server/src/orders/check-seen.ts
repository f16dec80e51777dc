import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal } from '@nockwright/core/money';
import type { Trx } from '../database';
import { lastOnItem } from '../events';
import { Refusal } from '../http/refusal';
import type { NewPromise } from '../promise';
import type { OrderLineRecord } from './load-order';

/** What the coordinator saw of a line when they decided. */
export interface SeenLine {
  readonly line: number;
  readonly schedule: readonly { readonly day: string; readonly quantity: string }[];
  readonly uncovered: string;
}

/** Refuses where what would be promised differs from what was on the screen, and says what happened meanwhile. */
export async function checkSeen(
  trx: Trx,
  order: { readonly id: number; readonly savedAt: Date },
  lines: readonly OrderLineRecord[],
  seen: readonly SeenLine[],
  promises: readonly NewPromise[],
  uncovered: ReadonlyMap<number, string>,
  today: string,
) {
  const errors: { field: string; message: string }[] = [];
  for (const line of lines) {
    const saw = seen.find((row) => row.line === line.id);
    const current = inWords(
      promises.filter((row) => row.lineId === line.id),
      uncovered.get(line.id) ?? '0',
      today,
    );
    const seenWords = saw ? inWords(saw.schedule, saw.uncovered, today) : 'nothing';
    if (seenWords === current) continue;
    const cause = await lastOnItem(trx, line.item, order.savedAt, order.id);
    const why = cause ? `${cause.who} ${cause.what}` : 'time has passed since';
    errors.push({ field: `lines[${line.line_no - 1}]`, message: `line ${line.line_no}, ${line.item}: you saw ${seenWords}; it is now ${current} (${why})` });
  }
  if (errors.length > 0)
    throw new Refusal(
      'changed',
      `The promise has changed. ${errors.map((error) => error.message).join('. ')}. Nothing was done: look again, then decide.`,
      errors,
    );
}

function inWords(schedule: readonly { readonly day: string; readonly quantity: string }[], uncovered: string, today: string): string {
  const parts = schedule.map(({ day, quantity }) => `${quantity} on ${shortDay(day, today)}`);
  if (compareDecimal(uncovered, '0') > 0) parts.push(`${uncovered} without cover`);
  return parts.join(', ') || 'nothing from stock';
}
