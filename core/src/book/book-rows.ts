import type { ItemCode, LineId, OrderId, SupplierCode, WarehouseCode } from '../ids';

/** An open line of a released order or of the draft that is looked at. Quantities in stocking units, as decimal text. */
export interface LineRow {
  readonly id: number;
  readonly order_id: OrderId;
  readonly line_no: number;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly stock_quantity: string;
  readonly shipped: string;
  readonly cancelled: string;
  readonly reserved: string;
  readonly requested_day: string | null;
  readonly number: string | null;
  readonly state: 'draft' | 'quoted' | 'released';
  /** Of a quote: offered beside the others. */
  readonly alternative: boolean;
  readonly priority: number;
  readonly place: number | null;
  readonly entered: string;
  readonly ship_complete: boolean;
  readonly request_kind: string;
  readonly order_day: string;
  readonly transit_days: number;
  /** Of an item that expires: days of life that item and customer ask for on delivery; null for goods that keep. */
  readonly item_life: number | null;
  readonly customer_life: number | null;
  /** Bought from a supplier who ships it to the customer. */
  readonly drop_ship: string;
  readonly picking: string;
  /** What the customer was told, by day. */
  readonly promised: readonly { readonly day: string; readonly quantity: string }[] | null;
}

export interface WarehouseRecord {
  readonly code: string;
  readonly name: string;
  readonly workdays: readonly number[];
  readonly cutoff: string | null;
  readonly receiving_days: number;
  readonly closed: readonly string[];
}

/** What of an item is on hand at a warehouse and may be sold. */
export interface StockRow {
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly on_hand: string;
  /** Of it, what is set aside for assemblies and transfers. */
  readonly set_aside: string;
  /** Of an item that expires: what is on hand of each last day. */
  readonly lots: readonly { readonly expires: string; readonly quantity: string }[] | null;
}

/** Goods on their way into a warehouse: an open purchase order line, transfer line or assembly order. */
export interface InboundRow {
  readonly kind: 'purchase' | 'transfer' | 'assembly';
  /** Of the line; of the order where it has no lines. */
  readonly id: number;
  /** Of the order it is part of. */
  readonly document: number;
  /** As the book names it. */
  readonly name: string;
  readonly number: string;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly expected_day: string;
  /** The day it was first to be there. */
  readonly first_day: string;
  readonly order_line_id: LineId | null;
  /** Who it comes from, where that is a supplier. */
  readonly supplier: SupplierCode | null;
  /** The name of the supplier or warehouse it comes from; empty where it is assembled. */
  readonly origin: string;
  readonly open: string;
  /** Of one stocking unit, where it is bought. */
  readonly cost: string | null;
}

/** A route of the draft that will bring goods when it is released. */
export interface PlanRow {
  readonly id: number;
  readonly line_id: LineId;
  readonly kind: string;
  readonly quantity: string;
  readonly supplier: SupplierCode | null;
  readonly supplier_name: string | null;
  readonly warehouse: WarehouseCode | null;
  readonly warehouse_name: string | null;
  readonly item: ItemCode;
  readonly terms: SupplierTimesRow | null;
  /** Of a transfer: the way between the two, in the carrier's working days. */
  readonly transit_days: number | null;
  /** Of an assembly: working days it takes. */
  readonly work_days: number | null;
}

/** A supplier's times for an item, as the database has them. */
export interface SupplierTimesRow {
  readonly lead_days: number;
  readonly workdays: readonly number[];
  readonly order_days: readonly number[];
  readonly cutoff: string | null;
  readonly transit_days: number;
  readonly closed: readonly string[];
  readonly not_before: string | null;
}

export interface BookRows {
  readonly items: readonly string[];
  readonly warehouses: readonly WarehouseRecord[];
  readonly lines: readonly LineRow[];
  readonly stock: readonly StockRow[];
  readonly inbound: readonly InboundRow[];
  readonly plans: readonly PlanRow[];
  /** How sure the order's new promises must be, in percent: its customer's wish, else the desk's. */
  readonly confidence: number | null;
}
