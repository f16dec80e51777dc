import type { ItemCode, SupplierCode, WarehouseCode } from '../ids';
import { type Quantity, type UnitPrice, plus, times } from '../money';
import { poolKey, takeFree } from '../book';
import { mostAssembled, sentInstead, takenFromShelf, type Route } from '../shortages';
import { feeKey, substituteOf, type RoutedLine, type RoutingFacts, type WaysLeft } from './routing-facts';
import { shelfAt } from './shortage-of';

/** What is left before any line has taken something. */
export function allWays({ free, drafts, joined }: RoutingFacts): WaysLeft {
  return { free: new Map([...free].map(([pool, days]) => [pool, days.map((row) => ({ ...row }))])), drafts: new Map(drafts), joined: new Set(joined) };
}

/** Takes what a route for a line takes. */
export function takeWays(facts: RoutingFacts, left: WaysLeft, line: RoutedLine, { parts }: Route): void {
  const takeFrom = (item: ItemCode, warehouse: WarehouseCode, quantity: number) => {
    const days = left.free.get(poolKey({ item, warehouse }));
    if (days) takeFree(days, quantity);
  };
  for (const part of parts) {
    const quantity = Number(part.quantity);
    if (part.kind === 'transfer') takeFrom(line.item, part.warehouse!, quantity);
    if (part.kind === 'substitute') {
      const { ratio } = substituteOf(facts, line, part.item!)!;
      takeFrom(part.item!, line.warehouse, Number(sentInstead(part.quantity, { ratio, step: facts.items.get(part.item!)!.step }).sent));
    }
    if (part.kind === 'assemble') {
      const step = mostAssembled(line.item, quantity, facts.recipes, shelfAt(facts, left, line.warehouse));
      if (step) for (const [item, taken] of takenFromShelf(step)) takeFrom(item, line.warehouse, taken);
    }
    if (part.kind === 'drop_ship') left.joined.add(feeKey(line, part.supplier!));
    if (part.kind === 'special_order') buy(left, line, part.supplier!, plus(part.quantity, part.more), part.buys, part.unitCost);
  }
}

/** What was bought for one line lifts the draft that the next would join. */
function buy({ drafts }: WaysLeft, line: RoutedLine, supplier: SupplierCode, quantity: Quantity, buys: Quantity, unitCost: UnitPrice): void {
  const key = `${supplier}/${line.warehouse}`;
  const draft = drafts.get(key) ?? { id: 0, number: '', supplier, warehouse: line.warehouse, value: '0', items: new Map() };
  const known = draft.items.get(line.item) ?? { needed: '0', bought: '0' };
  const items = new Map(draft.items).set(line.item, { needed: plus(known.needed, quantity), bought: plus(known.bought, buys) });
  drafts.set(key, { ...draft, value: plus(draft.value, times(buys, unitCost)), items });
}
