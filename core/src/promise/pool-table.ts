import type { ItemCode, WarehouseCode } from '../ids';
import type { OrderBook } from './order-book';
import type { Scaled } from './quantity';

/** Numbers the pools a book can need, components of assembled items included. Outlives the book, so it must not hold it. */
export class PoolTable {
  readonly site: number[] = [];
  private readonly item: number[] = [];
  private readonly numbers = new Map<number, number>();
  private readonly itemOf: ReadonlyMap<string, number>;
  private readonly siteOf: ReadonlyMap<string, number>;

  constructor(book: OrderBook) {
    this.itemOf = indexById(book.items);
    this.siteOf = indexById(book.warehouses);
  }

  of(item: ItemCode, warehouse: WarehouseCode): number {
    return this.number(this.itemOf.get(item)!, this.siteOf.get(warehouse)!);
  }

  find(item: ItemCode, warehouse: WarehouseCode): number | undefined {
    const [itemAt, siteAt] = [this.itemOf.get(item), this.siteOf.get(warehouse)];
    return itemAt === undefined || siteAt === undefined ? undefined : this.numbers.get(itemAt * this.siteOf.size + siteAt);
  }

  columns(book: OrderBook, exact: (quantity: number) => Scaled) {
    const partFrom: number[] = [];
    const partPool: number[] = [];
    const partQuantity: number[] = [];
    const assemblyDays: number[] = [];
    // The list grows while it is walked: components bring pools of their own.
    for (let pool = 0; pool < this.site.length; pool++) {
      const { assembly } = book.items[this.item[pool]!]!;
      partFrom.push(partPool.length);
      assemblyDays.push(assembly ? assembly.days : -1);
      for (const part of assembly?.components ?? []) {
        partPool.push(this.number(this.itemOf.get(part.item)!, this.site[pool]!));
        partQuantity.push(exact(part.quantity));
      }
    }
    partFrom.push(partPool.length);
    return {
      poolSite: Int32Array.from(this.site),
      poolAssemblyDays: Float64Array.from(assemblyDays),
      partFrom: Int32Array.from(partFrom),
      partPool: Int32Array.from(partPool),
      partQuantity: Float64Array.from(partQuantity),
    };
  }

  private number(item: number, site: number): number {
    const key = item * this.siteOf.size + site;
    let pool = this.numbers.get(key);
    if (pool === undefined) {
      pool = this.site.length;
      this.numbers.set(key, pool);
      this.site.push(site);
      this.item.push(item);
    }
    return pool;
  }
}

/** Each row's place in its list, by id. */
export function indexById(rows: readonly { readonly id: string }[]): ReadonlyMap<string, number> {
  const index = new Map<string, number>();
  for (let at = 0; at < rows.length; at++) index.set(rows[at]!.id, at);
  return index;
}
