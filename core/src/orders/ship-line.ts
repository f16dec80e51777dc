import { compareDecimal, least, minus, type Decimal } from '../money';

export interface PromisedDay {
  readonly day: string;
  readonly quantity: Decimal;
}

/**
 * What remains promised when `quantity` of a line leaves: the earliest promises are met first. Gives the days that
 * change with what remains of each; 0 where nothing does.
 */
export function meetPromises(promises: readonly PromisedDay[], quantity: Decimal): { readonly day: string; readonly remains: Decimal }[] {
  const changed: { day: string; remains: Decimal }[] = [];
  let missing = quantity;
  for (const { day, quantity: promised } of [...promises].sort((a, b) => (a.day < b.day ? -1 : 1))) {
    if (compareDecimal(missing, '0') <= 0) break;
    const met = least(missing, promised);
    changed.push({ day, remains: minus(promised, met) });
    missing = minus(missing, met);
  }
  return changed;
}
