import { compareDecimal, minus, plus, times, type Decimal } from '../money';
import { decimal, type DemandPromise } from '../promise';
import type { SupplyInfo } from './how-sure';

/**
 * What goods of a line cost by the supply that serves them: what is bought at a cost of its own at that, the rest at the
 * item's. Quantities in stocking units; `of`: how many there are in all.
 */
export function peggedCost(promise: DemandPromise | undefined, supplies: ReadonlyMap<string, SupplyInfo>, of: Decimal, itemCost: Decimal): Decimal {
  let [priced, cost] = ['0', '0'];
  for (const entry of promise?.schedule ?? []) {
    if (entry.assembled) continue;
    for (const { supply, quantity } of entry.from) {
      const known = supplies.get(supply)?.cost;
      if (known === null || known === undefined) continue;
      priced = plus(priced, decimal(quantity));
      cost = plus(cost, times(known, decimal(quantity)));
    }
  }
  const rest = minus(of, priced);
  return plus(cost, times(itemCost, compareDecimal(rest, '0') > 0 ? rest : '0'));
}
