import { compareDecimal, least, minus } from '@nockwright/core/money';
import type { BookDemand, OrderBook } from '@nockwright/core/promise';
import { decimal, type LiveBook } from '../promise';

/** So much of a line is served otherwise than by what it waits for or was promised. */
export interface Lifting {
  readonly line: number;
  readonly quantity: string;
}

/**
 * The book when some quantities are off it, what waits first, then what is promised last; null where nothing that is
 * promised is given back by it, so that nobody can gain.
 */
export function planOfLifting(live: LiveBook, liftings: readonly Lifting[]): OrderBook | null {
  const wanted = new Map(liftings.map(({ line, quantity }) => [live.demandOfLine.get(line), quantity]));
  let gives = false;
  const demand = live.book.demand.flatMap((row): BookDemand[] => {
    const quantity = wanted.get(row.id);
    if (quantity === undefined) return [row];
    const promised = [...(row.promised ?? [])];
    const waits = promised.reduce((rest, entry) => minus(rest, decimal(entry.quantity)), decimal(row.quantity));
    let missing = minus(quantity, least(quantity, waits));
    const kept: typeof promised = [];
    for (const entry of promised.reverse()) {
      const cut = least(missing, decimal(entry.quantity));
      missing = minus(missing, cut);
      const rest = minus(decimal(entry.quantity), cut);
      if (compareDecimal(cut, '0') > 0) gives = true;
      if (compareDecimal(rest, '0') > 0) kept.unshift({ ...entry, quantity: Number(rest) });
    }
    const left = minus(decimal(row.quantity), quantity);
    return compareDecimal(left, '0') > 0 ? [{ ...row, quantity: Number(left), promised: kept }] : [];
  });
  return gives ? { ...live.book, demand } : null;
}
