import { type UnitPrice, compareDecimal, divide, minus, plus, times, type Decimal } from '../money';

/** The greatest and the least cost of an item that a manager cleared: of one stocking unit, without breaks and at the best break. */
export interface ClearedCosts {
  readonly most: UnitPrice;
  readonly least: Decimal;
}

/**
 * Whether a cost is further than so many per cent above the greatest or below the least that was cleared. Counted from what was
 * cleared, many small changes come no further than one.
 */
export function beyondCleared(cost: UnitPrice, { most, least }: ClearedCosts, percent: Decimal): boolean {
  const part = (of: Decimal) => divide(times(of, percent), 100, 10);
  return compareDecimal(cost, plus(most, part(most))) > 0 || compareDecimal(cost, minus(least, part(least))) < 0;
}

/** What the costs of an item's terms span. */
export function spanOf(cost: UnitPrice, breaks: readonly { readonly cost: UnitPrice }[]): ClearedCosts {
  const all = [cost, ...breaks.map((step) => step.cost)];
  return {
    most: all.reduce((most, one) => (compareDecimal(one, most) > 0 ? one : most)),
    least: all.reduce((least, one) => (compareDecimal(one, least) < 0 ? one : least)),
  };
}
