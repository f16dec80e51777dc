import type { IsoDay } from '../calendar';
import { plus, type Quantity } from '../money';

interface Part {
  readonly day: IsoDay;
  readonly quantity: Quantity;
}

/**
 * What a line is promised once what can no longer leave on its day is promised for `first`, the first day it can; null: no day was missed.
 * The rest stays as it is, and a day stands once.
 */
export function afterMissedDay(promises: readonly Part[], first: IsoDay): readonly Part[] | null {
  if (!promises.some((part) => part.day < first)) return null;
  const after = new Map<IsoDay, Quantity>();
  for (const { day, quantity } of promises) {
    const holds = day < first ? first : day;
    after.set(holds, plus(after.get(holds) ?? '0', quantity));
  }
  return [...after].map(([day, quantity]) => ({ day, quantity })).sort((a, b) => (a.day < b.day ? -1 : 1));
}
