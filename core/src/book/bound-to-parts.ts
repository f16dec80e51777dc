import { minus, sum } from '../money';
import { decimal, type DemandPromise } from '../promise';
import { boundToLifted } from '../shortages';
import type { LiveBook } from './live-book';

/**
 * What goods on their way that are bound to a line its promises rest on of which `parts` are given up, by their names in
 * the book: what has lost its supply or leaves last is given up first.
 */
export function boundToParts(live: LiveBook, promise: DemandPromise | undefined, parts: string): ReadonlyMap<string, string> {
  const kept = (promise?.schedule ?? []).filter((entry) => entry.kept);
  const bound = new Set(live.book.supply.flatMap((row) => (row.for === promise?.id && row.date !== undefined ? [row.id] : [])));
  const rests = kept.flatMap(({ date, from }) =>
    from.map(({ supply, quantity }) => {
      const day = live.supplies.get(supply)?.available ?? date;
      return { supply, bound: bound.has(supply), quantity: decimal(quantity), leaves: day > date ? day : date };
    }),
  );
  const lost = minus(sum(kept.map((entry) => decimal(entry.quantity))), sum(rests.map((row) => row.quantity)));
  return boundToLifted(rests, lost, parts);
}
