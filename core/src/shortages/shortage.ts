import type { ItemCode, WarehouseCode } from '../ids';
import type { Quantity, UnitPrice, Decimal } from '../money';
import type { IsoDay } from '../calendar';
import type { OwnPrice } from './instead';
import type { Leaving } from './route';
import type { ReceivingPlace, SupplierOffer } from './supplier-terms';

/** Goods on the shelf of another warehouse that nobody is promised. */
export interface TransferOffer {
  readonly warehouse: WarehouseCode;
  readonly name: string;
  readonly free: Quantity;
  /** The first day they can leave there. */
  readonly leaves: IsoDay;
  /** On the way between the two, in the carrier's working days. */
  readonly transitDays: number;
  /** Of bringing one stocking unit over. */
  readonly unitCost: UnitPrice;
}

/** Another item that may go instead, with what could be promised of it at the line's warehouse. */
export interface SubstituteOffer {
  readonly item: ItemCode;
  readonly description: string;
  /** It takes the place of the item, which is no longer made. */
  readonly successor: boolean;
  /** How many of its stocking units stand for one of the item's. */
  readonly ratio: Decimal;
  /** The steps it is sold in, in its stocking units; whole where it is not said. */
  readonly step?: Quantity;
  /** By day, in stocking units of the item that is short. */
  readonly days: readonly Leaving[];
  /** What was agreed, for one stocking unit of the item that is short. */
  readonly unitPrice: UnitPrice;
  /** The price of one of its own, where so many are sent. */
  readonly ownPrice?: (sent: Decimal) => OwnPrice | null;
  /** What one of its own costs. */
  readonly unitCost: UnitPrice;
}

/** What could be put together at the line's warehouse from components that nobody is promised. */
export interface AssemblyOffer {
  /** Whole stocking units. */
  readonly most: Quantity;
  /** The day it is done. */
  readonly done: IsoDay;
  /** Of the components of one. */
  readonly unitCost: UnitPrice;
  readonly components: string;
}

/** A quantity of an order line that is not covered, or not in time, and all that is known about the ways out. */
export interface Shortage {
  /** Local time, `YYYY-MM-DDTHH:MM`: cut-offs count. */
  readonly now: string;
  /** What is short, in stocking units. */
  readonly quantity: Quantity;
  /** The ship day asked for, at the line's warehouse. */
  readonly requested: IsoDay;
  readonly warehouse: ReceivingPlace;
  /** Carrier's working days from leaving to the customer. */
  readonly transitDays: number;
  /** What the customer pays for one stocking unit. */
  readonly unitPrice: UnitPrice;
  /** What one stocking unit from stock costs. */
  readonly unitCost: UnitPrice;
  readonly currency: string;
  /**
   * What known supply gives, by day, how often the day holds in percent, and what one costs where that is not what stock
   * costs; `uncovered` is what it never gives.
   */
  readonly inbound: {
    readonly days: readonly (Leaving & { readonly holds?: number; readonly safeDay?: IsoDay | null; readonly unitCost?: UnitPrice })[];
    readonly uncovered: Quantity;
  };
  /** Of a released order only what waits, or comes other than as told, may be waited for: the rest is on its way already. */
  readonly mayWait?: boolean;
  /** The customer takes all of it at once or none. */
  readonly whole?: boolean;
  /** The customer must be asked before a later day is settled. */
  readonly asksWhenLate?: boolean;
  /** How sure a new day must be, 0 to 1; null: the supplier's day is believed. */
  readonly confidence?: number | null;
  readonly offers: readonly SupplierOffer[];
  readonly transfers?: readonly TransferOffer[];
  readonly substitutes?: readonly SubstituteOffer[];
  readonly assembly?: AssemblyOffer | null;
}
