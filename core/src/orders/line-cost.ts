import { type Quantity, compareDecimal, divide, least, minus, plus, sum, times, type Decimal } from '../money';
import { decimal, type DemandPromise } from '../promise';
import type { SupplyInfo } from './how-sure';

/**
 * What a part of a line costs, for one stocking unit, and what says so: *landed*, what an option that was chosen costs with its
 * freight and fees; *purchase*, the purchase its goods come from; *standard*, the item's own cost.
 */
export interface CostPart {
  readonly quantity: Quantity;
  readonly each: Decimal;
  readonly basis: 'landed' | 'purchase' | 'standard';
}

/** Goods that wait for a purchase which is not made yet: so many, at what buying them costs. */
export interface Waits {
  readonly quantity: Quantity;
  readonly each: Decimal;
}

/**
 * What `of` goods of a line cost by the supply that serves them: what is bought at a cost of its own at that, what waits for a
 * purchase at what that costs, the rest at the item's cost. Quantities in stocking units.
 */
export function peggedParts(
  promise: DemandPromise | undefined,
  supplies: ReadonlyMap<string, SupplyInfo>,
  of: Decimal,
  itemCost: Decimal,
  waits: readonly Waits[] = [],
): CostPart[] {
  const parts: CostPart[] = [];
  for (const entry of promise?.schedule ?? []) {
    if (entry.assembled) continue;
    for (const { supply, quantity } of entry.from) {
      const each = supplies.get(supply)?.cost;
      if (each !== null && each !== undefined) add(parts, { quantity: decimal(quantity), each, basis: 'purchase' });
    }
  }
  let rest = above(minus(of, sum(parts.map((part) => part.quantity))));
  let uncovered = least(rest, decimal(promise?.uncovered ?? 0));
  for (const { quantity, each } of waits) {
    const some = least(uncovered, quantity);
    if (compareDecimal(some, '0') <= 0) continue;
    add(parts, { quantity: some, each, basis: 'landed' });
    [rest, uncovered] = [minus(rest, some), minus(uncovered, some)];
  }
  if (compareDecimal(rest, '0') > 0) add(parts, { quantity: rest, each: itemCost, basis: 'standard' });
  return parts;
}

/** What parts cost in all. */
export function costOfParts(parts: readonly CostPart[]): Decimal {
  return sum(parts.map(({ quantity, each }) => times(quantity, each)));
}

/** Decimals a cost of one is shown with. */
const SHOWN_DECIMALS = 4;

/** Parts as they are shown. */
export function shownParts(parts: readonly CostPart[]): CostPart[] {
  return parts.map((part) => ({ ...part, each: divide(part.each, 1, SHOWN_DECIMALS) }));
}

/** Adds a part to the one that costs the same for the same reason, where there is one. */
export function add(parts: CostPart[], part: CostPart): void {
  const at = parts.findIndex((row) => row.basis === part.basis && compareDecimal(row.each, part.each) === 0);
  if (at < 0) parts.push(part);
  else parts[at] = { ...part, quantity: plus(parts[at]!.quantity, part.quantity) };
}

function above(quantity: Quantity): Decimal {
  return compareDecimal(quantity, '0') > 0 ? quantity : '0';
}
