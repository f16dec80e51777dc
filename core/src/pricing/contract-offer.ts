import { type Quantity, type UnitPrice, compareDecimal, divide, minus, plus, times, type Decimal } from '../money';
import { shortDay, type IsoDay } from '../calendar';
import type { UnitRatio } from '../units';
import { inUnit } from './in-unit';

/** How a contract line makes a price: fixed for a unit, a percentage off the list, or cost plus a percentage. */
export type ContractTerms =
  | { readonly kind: 'fixed'; readonly price: UnitPrice; readonly ratio: UnitRatio }
  | { readonly kind: 'off_list'; readonly percent: Decimal }
  | { readonly kind: 'cost_plus'; readonly percent: Decimal };

/** A contract line that a customer has for an item or its group. Quantities in stocking units. */
export interface ContractOffer {
  readonly id: number;
  readonly lineNo: number;
  readonly contract: { readonly id: number; readonly number: string; readonly name: string };
  readonly terms: ContractTerms;
  /** The group it is for, where it is not for the item alone. */
  readonly group: string | null;
  /** The least that must be ordered at once, and the most that may be bought under it; null: any. */
  readonly minimum: Quantity | null;
  readonly most: Quantity | null;
  /** What of the most is bought already, lines of the same order included. */
  readonly used: Quantity;
  readonly firstDay: IsoDay;
  readonly lastDay: IsoDay;
  /** It is for the order's ship-to. */
  readonly forShipTo: boolean;
}

/** How a customer buys under contracts. */
export interface ContractRules {
  /** What preselects one of several that apply. */
  readonly choice: 'lowest_price' | 'ends_first';
  /** Lines of one order may be under different contracts. */
  readonly several: boolean;
  /** A contract must be named on the order before its prices hold. */
  readonly mustName: boolean;
}

/** What decides about the contract lines of an order's line. */
export interface ContractQuestion {
  readonly offers: readonly ContractOffer[];
  readonly rules: ContractRules;
  /** The contract the order names; null: none. */
  readonly named: number | null;
  /** The contracts that other lines of the order are under. */
  readonly inUse: readonly number[];
}

/** The question a contract line is put to. */
export interface OfferQuestion {
  /** The day of the order. */
  readonly day: IsoDay;
  readonly stockQuantity: Quantity;
  /** Of the unit ordered. */
  readonly ratio: UnitRatio;
  /** What the list asks for one of the unit ordered, breaks included. */
  readonly list: Decimal;
  /** What one stocking unit costs. */
  readonly cost: UnitPrice;
}

/** `K1002 line 3`: what a line's price is said to come from. */
export function offerLabel({ contract, lineNo }: ContractOffer): string {
  return `${contract.number} line ${lineNo}`;
}

/** What may still be bought under it, in stocking units; null: as much as is wanted. */
export function leftOf({ most, used }: ContractOffer): Decimal | null {
  if (most === null) return null;
  return compareDecimal(used, most) >= 0 ? '0' : minus(most, used);
}

/** What it asks for one of the unit ordered: a fixed price exactly, else four decimals, rounded half away from zero. */
export function offerPrice(terms: ContractTerms, { ratio, list, cost }: Pick<OfferQuestion, 'ratio' | 'list' | 'cost'>): Decimal {
  switch (terms.kind) {
    case 'fixed':
      return inUnit(terms.price, terms.ratio, ratio);
    case 'off_list':
      return divide(times(list, minus('100', terms.percent)), 100, 4);
    case 'cost_plus':
      return divide(times(times(cost, plus('100', terms.percent)), ratio.numerator), 100 * ratio.denominator, 4);
  }
}

/** How much of a quantity it covers, in stocking units: all, or the whole units ordered that are left under it. */
export function coveredBy(offer: ContractOffer, { stockQuantity, ratio }: Pick<OfferQuestion, 'stockQuantity' | 'ratio'>): Decimal {
  const left = leftOf(offer);
  if (left === null || compareDecimal(left, stockQuantity) >= 0) return stockQuantity;
  if (ratio.numerator === ratio.denominator) return left;
  const units = divide(times(left, ratio.denominator), ratio.numerator, 12).split('.')[0]!;
  return divide(times(units, ratio.numerator), ratio.denominator, 4);
}

/** Why it does not hold for a line; null where it does. `rules` apart, which look at the whole order. */
export function whyNot(offer: ContractOffer, question: OfferQuestion, { rules, named, inUse }: ContractQuestion): string | null {
  const { contract, minimum, firstDay, lastDay } = offer;
  if (question.day < firstDay) return `begins ${shortDay(firstDay, question.day)}`;
  if (question.day > lastDay) return `ended ${shortDay(lastDay, question.day)}`;
  if (!offer.forShipTo) return 'is for another ship-to';
  if (rules.mustName && named !== contract.id) return named === null ? 'the order names no contract yet' : 'the order names another contract';
  if (!rules.several) {
    const other = named ?? inUse[0];
    if (other !== undefined && other !== contract.id) return 'the customer wants one contract an order, and this order is under another';
  }
  if (minimum !== null && compareDecimal(question.stockQuantity, minimum) < 0) return `needs ${minimum} at once`;
  const left = leftOf(offer);
  if (left === null) return null;
  if (compareDecimal(left, '0') === 0) return `all ${offer.most} are bought`;
  const covered = coveredBy(offer, question);
  if (compareDecimal(covered, '0') === 0) return `${left} left, less than one of the unit ordered`;
  if (minimum !== null && compareDecimal(covered, minimum) < 0) return `${left} left, below the ${minimum} it needs at once`;
  return null;
}
