import type { ItemCode, SupplierCode, WarehouseCode } from '../ids';
import type { Quantity, UnitPrice, Decimal } from '../money';
import type { IsoDay } from '../calendar';
import type { Obligation, Remark } from './remark';

/** The ways a shortage can be served, in the order they are told where nothing else decides. */
export const ROUTE_KINDS = ['backorder', 'special_order', 'drop_ship', 'transfer', 'assemble', 'substitute', 'cut'] as const;
export type RouteKind = (typeof ROUTE_KINDS)[number];

export const ROUTE_WORDS: Readonly<Record<RouteKind, string>> = {
  backorder: 'backorder',
  special_order: 'special order',
  drop_ship: 'drop ship',
  transfer: 'transfer',
  assemble: 'assembly',
  substitute: 'substitute',
  cut: 'cut',
};

/** So many stocking units that leave on a day. */
export interface Leaving {
  readonly day: IsoDay;
  readonly quantity: Quantity;
}

/** One way for a quantity. Quantities are in stocking units of the item that is short. */
export interface RoutePart {
  readonly kind: RouteKind;
  /** Who is bought from: special order and drop ship. */
  readonly supplier: SupplierCode | null;
  /** Where a transfer comes from. */
  readonly warehouse: WarehouseCode | null;
  /** What goes instead. */
  readonly item: ItemCode | null;
  readonly label: string;
  readonly quantity: Quantity;
  /** What must be bought for it, beyond what a draft purchase has to spare; 0 where nothing is. */
  readonly buys: Quantity;
  /** Of that, what is for stock because the whole purchase comes to less so; 0 where nothing is. */
  readonly more: Quantity;
  readonly leaves: readonly Leaving[];
  /** The day the last of it leaves; null where no day is known, and of a cut. */
  readonly shipDay: IsoDay | null;
  readonly deliveryDay: IsoDay | null;
  /** Landed cost of one stocking unit: price with breaks, freight share, fees, the way between warehouses. */
  readonly unitCost: UnitPrice;
  /** How often the day holds, in percent, by the suppliers' records. */
  readonly holds: number;
  /** The day from `shipDay` on that holds as often as is asked, 90 times in 100 where nothing is; null where none is known. */
  readonly safeDay: IsoDay | null;
  /** It waits for a purchase that nobody has made yet. */
  readonly unbought: boolean;
  readonly obliges: readonly Obligation[];
  readonly remarks: readonly Remark[];
}

/** A whole answer to a shortage: one way, or two or three that share the quantity. */
export interface Route {
  readonly parts: readonly RoutePart[];
  readonly label: string;
  readonly quantity: Quantity;
  /** The last ship and delivery day; null where a part has none. A cut has no day and keeps none. */
  readonly shipDay: IsoDay | null;
  readonly deliveryDay: IsoDay | null;
  /** Calendar days the last of it leaves after the day asked for. */
  readonly daysLate: number | null;
  /** Calendar days late of one stocking unit on average; what leaves in time counts as 0. Null where a part has no day. */
  readonly meanLate: number | null;
  readonly unitCost: UnitPrice;
  /** Of what is sold by it, in the order's currency; percent of its amount, null where nothing is sold. */
  readonly marginAmount: Decimal;
  readonly marginPercent: Decimal | null;
  /** How many consignments the customer gets for it. */
  readonly shipments: number;
  readonly holds: number;
  readonly obliges: readonly Obligation[];
  /** Whether it can be chosen: every part has a day, or is a cut. */
  readonly possible: boolean;
  /** What the policy makes of it, in the order's currency: the margin less what lateness, consignments, surplus and cuts weigh. */
  readonly score: number;
  /** Another is no later, brings no less and needs no more consignments, and is better in one of them. */
  readonly beaten: boolean;
}
