import type { ItemCode, WarehouseCode } from '../ids';

/**
 * The order book file: everything a promise depends on, and nothing else. It is Nockwright's open exchange format for
 * a whole book, so its names are fixed. Days are `YYYY-MM-DD`, local times `YYYY-MM-DDTHH:MM` without zone, quantities
 * numbers in the item's stocking unit with at most four decimals.
 */
export interface OrderBook {
  readonly asOf: string;
  readonly warehouses: readonly BookWarehouse[];
  readonly items: readonly BookItem[];
  readonly supply: readonly BookSupply[];
  readonly orders: readonly BookOrder[];
  readonly demand: readonly BookDemand[];
}

export interface BookWarehouse {
  readonly id: string;
  /** ISO weekdays, 1 = Monday. */
  readonly workdays: readonly number[];
  /** Days that are no working days though their weekday is. Default none. */
  readonly closed?: readonly string[];
  /** `HH:MM`; from then on nothing more leaves that day. Default none: the whole day counts. */
  readonly cutoff?: string;
  /** Working days from arrival until goods can leave again. Default 0. */
  readonly receivingDays?: number;
}

export interface BookItem {
  readonly id: string;
  readonly assembly?: BookAssembly;
}

export interface BookAssembly {
  /** Working days it takes. */
  readonly days: number;
  readonly components: readonly { readonly item: ItemCode; readonly quantity: number }[];
}

export interface BookSupply {
  readonly id: string;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly quantity: number;
  /** The day it is expected; on hand where absent. */
  readonly date?: string;
  /** The one demand it serves; anyone's where absent. */
  readonly for?: string;
  /** The last day on which its goods may still be used; they keep where absent. */
  readonly expires?: string;
}

export interface BookOrder {
  readonly id: string;
  /** The smaller, the sooner its turn. Default 5. */
  readonly priority?: number;
  readonly entered: string;
  /** All lines leave on one day. Default false. */
  readonly shipComplete?: boolean;
}

export interface BookDemand {
  readonly id: string;
  readonly order: string;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly quantity: number;
  /** The ship day asked for. */
  readonly requested: string;
  /** Whether the line may leave in parts. Default true. */
  readonly partial?: boolean;
  /** Whole days of life that must be left of goods that expire on the ship day. Default 0. */
  readonly lifeDays?: number;
  /** What has been promised already. Default none. */
  readonly promised?: readonly BookPromise[];
}

export interface BookPromise {
  readonly date: string;
  readonly quantity: number;
  /** Assembled for this line rather than taken from the item's own supply. Default false. */
  readonly assembled?: boolean;
  /**
   * So much of it at most stands on what is bound to the demand, the rest on the pool: who was told an early day from
   * goods that anyone may have keeps it when more is bought for the rest. Default: as much as is bound, the earliest
   * promise first.
   */
  readonly boundQuantity?: number;
}

/** One thing wrong with a book: where (a JSON path, `$` for the whole) and what. */
export interface BookFault {
  readonly path: string;
  readonly message: string;
}
