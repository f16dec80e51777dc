import { compareDecimal, plus } from '@nockwright/core/money';
import { decimal, type DemandPromise } from '@nockwright/core/promise';
import { sql } from 'kysely';
import type { Trx } from '../database';
import type { LiveBook } from './load-book';

/** So much of what each line is promised stands on the shelf, in stocking units. */
export type OnShelf = ReadonlyMap<number, string>;

/**
 * What lines are promised from the free goods on the shelf, by line: of what is kept, or of what is new. `promises`: the
 * answer to the book.
 */
export function onShelf(live: LiveBook, promises: readonly DemandPromise[], lineIds: readonly number[], kept: boolean): OnShelf {
  const wanted = new Map(lineIds.map((id) => [live.demandOfLine.get(id), id]));
  const found = new Map<number, string>();
  for (const { id, schedule } of promises) {
    const lineId = wanted.get(id);
    if (lineId === undefined) continue;
    const { item, warehouse } = live.demands.get(id)!;
    const shelf = `ON-HAND/${item}/${warehouse}`;
    for (const entry of schedule)
      if (entry.kept === kept) for (const peg of entry.from) if (peg.supply === shelf) found.set(lineId, plus(found.get(lineId) ?? '0', decimal(peg.quantity)));
  }
  return found;
}

/** Of these the lines that also have goods on their way for them alone. */
export function withBound(live: LiveBook, shelf: OnShelf): OnShelf {
  const bound = new Set(live.book.supply.flatMap((row) => (row.for !== undefined && row.date !== undefined ? [row.for] : [])));
  return new Map([...shelf].filter(([lineId]) => bound.has(live.demandOfLine.get(lineId) ?? '')));
}

/**
 * Sets goods on the shelf aside for the lines that were promised them. Where goods come in for a line alone, they count
 * for its earliest day: what it has on the shelf must be its own as well, or that day would look at risk.
 */
export async function setAsideShelf(trx: Trx, shelf: OnShelf): Promise<void> {
  for (const [lineId, quantity] of shelf) {
    if (compareDecimal(quantity, '0') <= 0) continue;
    await sql`update order_line set reserved = least(stock_quantity - shipped - cancelled, reserved + least(${quantity}::numeric,
      coalesce((select sum(quantity) from line_promise where line_id = order_line.id), 0))) where id = ${lineId}`.execute(trx);
  }
}
