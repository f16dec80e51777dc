import type { Quantity, UnitPrice, Decimal } from '../money';
import type { IsoDay } from '../calendar';
import type { UnitRatio } from '../units';
import type { ContractQuestion } from './contract-offer';

/** A unit an item is sold by, as a ratio to its stocking unit. */
export interface SoldUnit extends UnitRatio {
  readonly unit: string;
}

/** A price of an item in a unit, from a quantity on. */
export interface PriceBreak {
  readonly unit: string;
  readonly from: Decimal;
  readonly price: UnitPrice;
}

/** What the coordinator has settled about a line's price; null: it is looked up. */
export type PricePin =
  | { readonly kind: 'manual'; readonly price: UnitPrice; readonly reason: string }
  | { readonly kind: 'contract'; readonly line: number }
  /** No contract, though one would hold. */
  | { readonly kind: 'list' };

export interface PriceQuestion {
  readonly unit: string;
  /** In the unit ordered. */
  readonly quantity: Quantity;
  readonly ratio: UnitRatio;
  /** The day of the order. */
  readonly day: IsoDay;
  /** The list price and the cost of one stocking unit. */
  readonly listPrice: UnitPrice;
  readonly cost: UnitPrice;
  readonly listBreaks: readonly PriceBreak[];
  /** The customer's own price list, where they have one. */
  readonly customerList: { readonly name: string; readonly breaks: readonly PriceBreak[] } | null;
  readonly contracts: ContractQuestion;
  readonly pin: PricePin | null;
  /** All units the item is sold by, to see whether the same goods are cheaper by another. */
  readonly units?: readonly SoldUnit[];
}

/** One source that was asked for a price, in the order asked. */
export interface PriceStep {
  readonly source: string;
  readonly price: UnitPrice | null;
  readonly why: string;
  readonly chosen: boolean;
  /** It asks less than the price that was chosen, for the same goods: somebody should know. */
  readonly lower?: boolean;
  /** Where it is a contract line: which, whether it holds for the line, what is left of it, and its last day. */
  readonly contract?: { readonly line: number; readonly name: string; readonly holds: boolean; readonly left: Decimal | null; readonly lastDay: IsoDay };
}
