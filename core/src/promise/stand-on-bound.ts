import type { IsoDay } from '../calendar';
import type { BookPromise } from './order-book';
import { SCALE } from './quantity';

/** Goods that are bound to a demand. */
export interface BoundGoods {
  /** The day they could leave when they were promised, or by now if that is earlier; null where they are there. */
  readonly day: IsoDay | null;
  readonly quantity: number;
}

/**
 * How much of each promise of a demand of `quantity` stands on the goods bound to it: a promise on those that could leave
 * by its day, the earliest of both first. What came too late for every promise is for what still waits, then for what was
 * promised last. So a part that was promised from goods anyone may have keeps its day when more is bought for the rest.
 * Promises and goods with at most four decimals. Given back as they are where all of the demand is bound, or nothing.
 */
export function standOnBound(promised: readonly BookPromise[], bound: readonly BoundGoods[], quantity: number): readonly BookPromise[] {
  const units = (value: number) => Math.round(value * SCALE);
  const total = (rows: readonly { readonly quantity: number }[]) => rows.reduce((sum, row) => sum + units(row.quantity), 0);
  if (promised.length === 0 || bound.length === 0 || total(bound) >= units(quantity)) return promised;
  const goods = bound.map((row) => ({ day: row.day ?? '', left: units(row.quantity) })).sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
  const parts = promised.map((entry) => ({ entry, stands: 0 })).sort((a, b) => (a.entry.date < b.entry.date ? -1 : 1));
  for (const part of parts) for (const row of goods) if (row.day <= part.entry.date) give(row, part);
  let waits = units(quantity) - total(promised);
  for (const row of goods) {
    const taken = Math.min(row.left, waits);
    row.left -= taken;
    waits -= taken;
  }
  for (const part of parts.reverse()) for (const row of goods) give(row, part);
  const standing = new Map(parts.map(({ entry, stands }) => [entry, stands / SCALE]));
  return promised.map((entry) => ({ ...entry, boundQuantity: standing.get(entry)! }));
}

function give(from: { left: number }, to: { readonly entry: BookPromise; stands: number }) {
  const given = Math.min(from.left, Math.round(to.entry.quantity * SCALE) - to.stands);
  from.left -= given;
  to.stands += given;
}

/** A promise of which only `quantity` is left; `freed`: of what is bound to it, so much stands for it no more. */
export function lessOf(entry: BookPromise, quantity: number, freed = 0): BookPromise {
  if (entry.boundQuantity === undefined) return { ...entry, quantity };
  return { ...entry, quantity, boundQuantity: Math.max(0, Math.min(quantity, entry.boundQuantity - freed)) };
}
