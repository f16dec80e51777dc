import type { IsoDay } from '../calendar';
import type { ItemCode, LineId, WarehouseCode } from '../ids';
import type { Quantity } from '../money';
import type { LineQuantities } from '../orders';
import type { SerialWhere } from '../serials';

/** A purchase line that goods may come for. Quantities in stocking units. */
export interface AwaitedLine {
  readonly id: number;
  readonly line_no: number;
  readonly item: ItemCode;
  readonly quantity: Quantity;
  readonly received: Quantity;
  readonly open: Quantity;
  /** The order line it was bought for; null: for anyone. */
  readonly order_line_id: LineId | null;
  readonly tracks_lots: boolean;
  readonly tracks_expiry: boolean;
  readonly tracks_serials: boolean;
}

/** What came: so much of a line that is sound, and so much that is not, of one lot and into one bin. */
export interface Arrival {
  readonly line: number;
  readonly quantity: Quantity;
  readonly damaged?: Quantity;
  readonly lot?: string;
  readonly expires?: IsoDay;
  readonly bin?: string;
  /** Serial numbers as they were scanned or typed, where the item has them: one for each piece. */
  readonly serials?: string;
}

export interface ReceiptFacts<Line extends AwaitedLine = AwaitedLine> {
  readonly lines: readonly Line[];
  /** Lots that are known, by `lotKey`: the day they expire, if any. */
  readonly lots: ReadonlyMap<string, IsoDay | null>;
  readonly warehouse: WarehouseCode;
  readonly bins: ReadonlySet<string>;
  /** Where serial numbers are that are known already, by item. */
  readonly serials: ReadonlyMap<string, ReadonlyMap<string, SerialWhere>>;
  /** Lines of orders that goods were bought for, as they stand. */
  readonly orderLines: ReadonlyMap<number, LineQuantities & { readonly reserved: Quantity }>;
}

export interface ReceiptFault {
  /** Path in the request: `lines[2].lot`. */
  readonly field: string;
  readonly message: string;
}

export function lotKey(item: ItemCode, lot: string): string {
  return `${item}/${lot}`;
}
