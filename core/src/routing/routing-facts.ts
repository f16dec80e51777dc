import type { ContractId, CustomerId, ItemCode, OrderId, ShipToId, SupplierCode, WarehouseCode } from '../ids';
import type { Amount, Quantity, UnitPrice, Decimal } from '../money';
import type { BookTime, FreeDays, LiveBook, WarehouseRow } from '../book';
import type { IsoDay } from '../calendar';
import type { SoldItem } from '../orders';
import { promiseBook, type AtRisk, type BookDemand, type DemandPromise } from '../promise';
import type { PolicyName, Recipe, RoutePolicy, SupplierOffer } from '../shortages';
import type { SupplierOdds } from '../supply';

/** An order line with what decides about its ways, as it is read. */
export interface RoutedLine {
  readonly id: number;
  readonly order_id: OrderId;
  /** Of its order. */
  readonly version: number;
  readonly line_no: number;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly price: UnitPrice;
  readonly numerator: number;
  readonly denominator: number;
  readonly stock_quantity: Quantity;
  readonly requested_day: IsoDay | null;
  readonly ship_to_id: ShipToId | null;
  readonly order_ship_to_id: ShipToId;
  readonly contract_id: ContractId | null;
  readonly description: string;
  readonly step: Quantity;
  readonly unit: string;
  readonly assembly_days: number | null;
  /** It has a successor or a substitute. */
  readonly replaceable: boolean;
  /** Something of it is shipped by a supplier; something of its order is, or is planned to be. */
  readonly dropped: boolean;
  readonly drops: boolean;
  readonly number: string | null;
  readonly state: 'draft' | 'released' | 'discarded' | 'quoted' | 'accepted' | 'lost';
  readonly kind: 'order' | 'quote';
  readonly currency: string;
  readonly ship_complete: boolean;
  readonly request_kind: string;
  readonly order_day: IsoDay;
  readonly transit_days: number;
  readonly customer_id: CustomerId;
  readonly customer: string;
  /** How sure its customer wants days to be, in percent; null: as the desk promises. */
  readonly confidence: number | null;
  readonly route_policy: PolicyName | null;
  readonly asks_when_late: boolean;
}

/** The way from one warehouse to another. */
export interface Lane {
  readonly from_warehouse: WarehouseCode;
  readonly to_warehouse: WarehouseCode;
  readonly transit_days: number;
  readonly cost_per_kg: Decimal;
}

export interface RoutedItem {
  readonly cost: UnitPrice;
  readonly weight: Decimal;
  readonly description: string;
  readonly successor: string | null;
  readonly step: Quantity;
}

export interface Substitute {
  readonly substitute: ItemCode;
  readonly ratio: Decimal;
  readonly successor: boolean;
}

/** A supplier's offer for an item; the draft it would join stands apart, since that is a warehouse's. */
export interface ItemOffer extends SupplierOffer {
  readonly item: ItemCode;
}

/** A draft that purchases of a supplier for a warehouse would join, with what is on it. */
export interface DraftPurchase {
  readonly id: number;
  readonly number: string;
  readonly supplier: SupplierCode;
  readonly warehouse: WarehouseCode;
  readonly value: Amount;
  /** By item: what is needed, and what is bought to meet minimum and lot. */
  readonly items: ReadonlyMap<string, { readonly needed: Quantity; readonly bought: Quantity }>;
}

/** Goods that a supplier ships to the customer and that have not left. */
export interface DropShipment {
  /** Of the purchase line. */
  readonly id: number;
  readonly purchase: number;
  readonly number: string;
  readonly supplier: SupplierCode;
  readonly supplierName: string;
  readonly item: ItemCode;
  readonly line: number;
  readonly lineNo: number;
  readonly order: number;
  readonly orderNumber: string;
  readonly quantity: Quantity;
  /** Of one, fee and all. */
  readonly unitCost: UnitPrice;
  /** The day the customer was told. */
  readonly told: IsoDay;
  /** The day it leaves as things stand: what was due and has not left leaves today at the soonest. */
  readonly leaves: IsoDay;
}

/** How the desk ranks ways, and what each policy weighs. */
export interface DeskPolicy {
  readonly name: PolicyName;
  readonly weights: Readonly<Record<PolicyName, RoutePolicy>>;
}

/** A book with its answer: that of one confidence. */
export interface Answered {
  readonly live: LiveBook;
  readonly demandOf: ReadonlyMap<string, BookDemand>;
  readonly promiseOf: ReadonlyMap<string, DemandPromise>;
  readonly risksOf: ReadonlyMap<string, readonly AtRisk[]>;
}

/** All that is known about the ways for some lines, read once: their promises, what is free elsewhere, suppliers and drafts. */
export interface RoutingFacts {
  readonly time: BookTime;
  /** In the sequence of their orders: who has their turn first chooses first. */
  readonly lines: ReadonlyMap<number, RoutedLine>;
  /** The book as it stands, by the suppliers' days. */
  readonly book: Answered;
  /** The same by how sure days must be; what was to be shipped by suppliers and slipped is owed by the warehouse in it. */
  readonly surely: ReadonlyMap<number | null, Answered>;
  readonly warehouses: ReadonlyMap<string, WarehouseRow>;
  readonly free: ReadonlyMap<string, FreeDays>;
  /** By item. */
  readonly offers: ReadonlyMap<string, readonly ItemOffer[]>;
  /** By `supplier/warehouse`. */
  readonly drafts: ReadonlyMap<string, DraftPurchase>;
  readonly lanes: readonly Lane[];
  readonly recipes: ReadonlyMap<string, Recipe>;
  readonly substitutes: ReadonlyMap<string, readonly Substitute[]>;
  readonly items: ReadonlyMap<string, RoutedItem>;
  /** What may go instead, as its buyer is sold it, by `soldKey`. */
  readonly sold: ReadonlyMap<string, SoldItem>;
  readonly odds: SupplierOdds;
  readonly slipped: readonly DropShipment[];
  /** Drop shipments that another line may join without a fee of its own, by `feeKey`. */
  readonly joined: ReadonlySet<string>;
  readonly desk: { readonly confidence: number | null; readonly policy: DeskPolicy; readonly currency: string };
}

/** What the lines before have left: what one takes is not offered to the next. */
export interface WaysLeft {
  readonly free: ReadonlyMap<string, FreeDays>;
  readonly drafts: Map<string, DraftPurchase>;
  readonly joined: Set<string>;
}

/** The book with what the engine says about it. */
export function answered(live: LiveBook): Answered {
  const { promises, atRisk } = promiseBook(live.book);
  const risksOf = new Map<string, AtRisk[]>();
  for (const row of atRisk) {
    const known = risksOf.get(row.id);
    if (known) known.push(row);
    else risksOf.set(row.id, [row]);
  }
  return { live, demandOf: new Map(live.book.demand.map((row) => [row.id, row])), promiseOf: new Map(promises.map((row) => [row.id, row])), risksOf };
}

/** What one supplier ships for one order to one address is one drop shipment, and one fee. */
export function feeKey({ order_id, ship_to_id }: Pick<RoutedLine, 'order_id' | 'ship_to_id'>, supplier: SupplierCode): string {
  return `${order_id}/${ship_to_id ?? ''}/${supplier}`;
}

/** Whose prices hold for a line, of an item. */
export function soldKey({ customer_id, ship_to_id, order_ship_to_id, contract_id }: RoutedLine, item: ItemCode): string {
  return `${customer_id}/${ship_to_id ?? order_ship_to_id}/${contract_id ?? ''}/${item}`;
}

/** The policy a line's ways are ranked by: what is asked for, its customer's, the desk's. */
export function policyOf({ desk }: RoutingFacts, line: RoutedLine, wanted?: PolicyName): { readonly name: PolicyName; readonly policy: RoutePolicy } {
  const name = wanted ?? line.route_policy ?? desk.policy.name;
  return { name, policy: desk.policy.weights[name] };
}

/** How sure new promises of an order must be, in percent; null: the suppliers' days are believed. */
export function sureFor({ lines, desk }: RoutingFacts, order: number): number | null {
  const line = [...lines.values()].find((row) => row.order_id === order);
  return line?.confidence ?? desk.confidence;
}

export function substituteOf({ substitutes }: RoutingFacts, line: RoutedLine, item: ItemCode): Substitute | undefined {
  return substitutes.get(line.item)?.find((row) => row.substitute === item);
}

/** Pools that a route for a line may take from: to be locked before it is done. */
export function poolsFor({ items, warehouses, lanes }: RoutingFacts, line: RoutedLine): { readonly item: ItemCode; readonly warehouse: WarehouseCode }[] {
  const sources = [...warehouses.keys()].filter((from) => lanes.some((lane) => lane.from_warehouse === from && lane.to_warehouse === line.warehouse));
  return [...items.keys()].flatMap((item) =>
    (item === line.item ? [...new Set([line.warehouse, ...sources])] : [line.warehouse]).map((warehouse) => ({ item, warehouse })),
  );
}
