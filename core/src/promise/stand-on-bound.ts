import type { IsoDay } from '../calendar';
import type { BookPromise } from './order-book';
import { SCALE, toScaled } from './quantity';

/** Goods that are bound to a demand. */
export interface BoundGoods {
  /** The day they could leave when they were promised, or by now if that is earlier; null where they are there. */
  readonly day: IsoDay | null;
  readonly quantity: number;
}

/**
 * How much of each promise of a demand stands on the goods bound to it, where some stands on others: a promise on those
 * that could leave by its day, the earliest of both first; what came too late for all of them was promised last. So a
 * part that was promised from goods anyone may have keeps its day when more is bought for the rest. Promises by day;
 * quantities with at most four decimals. Given back as they are where nothing is to be told apart.
 */
export function standOnBound(promised: readonly BookPromise[], bound: readonly BoundGoods[]): readonly BookPromise[] {
  const units = (quantity: number) => toScaled(quantity) ?? Math.round(quantity * SCALE);
  const total = (rows: readonly { readonly quantity: number }[]) => rows.reduce((sum, row) => sum + units(row.quantity), 0);
  if (promised.length < 2 || bound.length === 0 || total(bound) >= total(promised)) return promised;
  const goods = bound.map((row) => ({ day: row.day ?? '', left: units(row.quantity) })).sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
  const parts = promised.map((entry) => ({ entry, stands: 0 })).sort((a, b) => (a.entry.date < b.entry.date ? -1 : 1));
  const give = (part: (typeof parts)[number], from: (typeof goods)[number]) => {
    const given = Math.min(from.left, units(part.entry.quantity) - part.stands);
    from.left -= given;
    part.stands += given;
  };
  for (const part of parts) for (const row of goods) if (row.day <= part.entry.date) give(part, row);
  for (const part of parts.reverse()) for (const row of goods) give(part, row);
  const standing = new Map(parts.map(({ entry, stands }) => [entry, stands / SCALE]));
  return promised.map((entry) => ({ ...entry, boundQuantity: standing.get(entry)! }));
}
