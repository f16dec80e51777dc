import type { BookSupply, BoundGoods } from '../promise';
import type { LiveSupply } from './live-book';

/** Supply of the book as it is found, what its ids stand for, and what of it is bound to whom. */
export interface SupplyFound {
  readonly supply: BookSupply[];
  readonly supplies: Map<string, LiveSupply>;
  /** By demand. */
  readonly bound: Map<string, BoundGoods[]>;
}

export function addSupply({ supply, supplies }: SupplyFound, row: BookSupply, info: LiveSupply): void {
  supply.push(row);
  supplies.set(row.id, info);
}

export function bindTo({ bound }: SupplyFound, demand: string, goods: BoundGoods): void {
  const known = bound.get(demand);
  if (known) known.push(goods);
  else bound.set(demand, [goods]);
}
