import type { ItemCode, LineId, OrderId, WarehouseCode } from '../ids';
import type { IsoDay } from '../calendar';
import type { SupplyInfo } from '../orders';
import type { BookWarehouse, OrderBook } from '../promise';
import type { WarehouseRecord } from './book-rows';

/** What the desk calls a supply of the book, and where to find it. */
export interface LiveSupply extends SupplyInfo {
  readonly kind: 'on_hand' | 'purchase' | 'transfer' | 'assembly' | 'plan';
  readonly purchaseLine: number | null;
  /** First day its goods can leave; null for what is on hand. */
  readonly available: IsoDay | null;
}

export interface DemandInfo {
  readonly lineId: LineId;
  readonly lineNo: number;
  readonly orderId: OrderId;
  readonly orderNumber: string;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
}

export interface PoolKey {
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
}

/** The part of the live book that decides about some items, with what its ids stand for. */
export interface LiveBook {
  readonly book: OrderBook;
  readonly supplies: ReadonlyMap<string, LiveSupply>;
  readonly demands: ReadonlyMap<string, DemandInfo>;
  readonly demandOfLine: ReadonlyMap<number, string>;
  /** The class and place of each order of the book, by its number there. */
  readonly turns: ReadonlyMap<string, Turn>;
}

/** When an order has its turn: by class, then by place, then by number. */
export interface Turn {
  readonly priority: number;
  /** Minutes since 1970: when it was entered, or where it was placed by hand. */
  readonly place: number;
}

export interface WarehouseRow {
  readonly code: string;
  readonly name: string;
  readonly book: BookWarehouse;
}

export function asWarehouse({ code, name, workdays, cutoff, receiving_days, closed }: WarehouseRecord): WarehouseRow {
  return { code, name, book: { id: code, workdays, closed, ...(cutoff ? { cutoff } : {}), receivingDays: receiving_days } };
}

/** The clock as it was read once for a command or a query. */
export interface BookTime {
  readonly today: IsoDay;
  /** Local time, `YYYY-MM-DDTHH:MM`: what the promise is computed as of. */
  readonly localTime: string;
}

/** The pools of a book, each once: where something is asked for, lies or comes. */
export function poolsOf({ demand, supply }: OrderBook): PoolKey[] {
  const found = new Map<string, PoolKey>();
  for (const { item, warehouse } of demand) found.set(`${item}/${warehouse}`, { item, warehouse });
  for (const { item, warehouse } of supply) found.set(`${item}/${warehouse}`, { item, warehouse });
  return [...found.values()];
}
