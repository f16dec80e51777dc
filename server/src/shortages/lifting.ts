import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import type { BookDemand, OrderBook } from '@nockwright/core/promise';
import type { Lifted } from '@nockwright/core/shortages';
import { decimal, type LiveBook } from '../promise';

/** What of a line is served otherwise than by what it waits for or was promised. */
export interface Lifting {
  readonly line: number;
  readonly lifted: Lifted;
}

/** The book without what is lifted; null where nothing that is promised is given back by it, so that nobody can gain. */
export function planOfLifting(live: LiveBook, liftings: readonly Lifting[]): OrderBook | null {
  if (liftings.every(({ lifted }) => lifted.promises.length === 0)) return null;
  const liftedOf = new Map(liftings.map(({ line, lifted }) => [live.demandOfLine.get(line), lifted]));
  const demand = live.book.demand.flatMap((row): BookDemand[] => {
    const lifted = liftedOf.get(row.id);
    if (!lifted) return [row];
    const cutOf = new Map(lifted.promises.map(({ day, cut }) => [day, cut]));
    // What suppliers ship to the customer is not in the book.
    const left = minus(decimal(row.quantity), plus(lifted.waiting, sum([...cutOf.values()])));
    if (compareDecimal(left, '0') <= 0) return [];
    const promised = (row.promised ?? []).flatMap((entry) => {
      const rest = minus(decimal(entry.quantity), cutOf.get(entry.date) ?? '0');
      return compareDecimal(rest, '0') > 0 ? [{ ...entry, quantity: Number(rest) }] : [];
    });
    return [{ ...row, quantity: Number(left), promised }];
  });
  return { ...live.book, demand };
}
