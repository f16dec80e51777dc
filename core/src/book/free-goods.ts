import { firstShipDay, type IsoDay } from '../calendar';
import { promiseBook, type OrderBook } from '../promise';
import type { LiveBook, PoolKey, WarehouseRow } from './live-book';

/** What could still be promised of an item at a warehouse, by the day more becomes free; quantities in stocking units. */
export type FreeDays = { day: IsoDay; quantity: number }[];

/** More than any pool has: asks a pool for all it could give. */
const ALL = 99_999_999;
const PROBE = 'what is free';

/**
 * What nobody is promised and nobody waits for, of every pool that is asked about: an order that comes last of all asks
 * for more than there is. By `item/warehouse`.
 */
export function freeGoods(live: LiveBook, pools: readonly PoolKey[]): Map<string, FreeDays> {
  const { book } = live;
  const asked = [...new Map(pools.map((pool) => [poolKey(pool), pool])).values()].filter(({ item }) => book.items.some((known) => known.id === item));
  const last = book.orders.reduce((most, order) => Math.max(most, order.priority ?? 0), 0) + 1;
  const probed: OrderBook = {
    ...book,
    orders: [...book.orders, { id: PROBE, priority: last, entered: '9999-12-31T23:59' }],
    demand: [
      ...book.demand,
      ...asked.map(({ item, warehouse }, at) => ({
        id: `${PROBE}/${at}`,
        order: PROBE,
        item,
        warehouse,
        quantity: ALL,
        requested: book.asOf.slice(0, 10),
        partial: true,
      })),
    ],
  };
  const promises = promiseBook(probed).promises.slice(book.demand.length);
  return new Map(asked.map((pool, at) => [poolKey(pool), promises[at]!.schedule.map(({ date, quantity }) => ({ day: date, quantity }))]));
}

export function poolKey({ item, warehouse }: PoolKey): string {
  return `${item}/${warehouse}`;
}

/** What is free on the shelf now: it can leave on the first day anything can. Goods that merely arrive that day are not there yet. */
export function freeNow(live: LiveBook, free: ReadonlyMap<string, FreeDays>, pool: PoolKey, warehouse: WarehouseRow): number {
  const first = firstShipDay(warehouse.book, live.book.asOf);
  const days = free.get(poolKey(pool)) ?? [];
  const now = days.filter((row) => row.day <= first).reduce((total, row) => total + row.quantity, 0);
  // Every lot of it: goods that expire stand on the shelf by their last days.
  const shelf = live.book.supply.filter((row) => row.date === undefined && row.for === undefined && row.item === pool.item && row.warehouse === pool.warehouse);
  return Math.min(
    now,
    shelf.reduce((total, row) => total + row.quantity, 0),
  );
}

/** Takes goods off what is free, the earliest first. */
export function takeFree(days: FreeDays, quantity: number): void {
  let missing = quantity;
  for (const row of days) {
    const part = Math.min(row.quantity, missing);
    row.quantity = round(row.quantity - part);
    missing = round(missing - part);
    if (missing <= 0) return;
  }
}

function round(value: number): number {
  return Math.round(value * 10_000) / 10_000;
}
