import { type Quantity, type UnitPrice, compareDecimal, type Decimal } from '../money';
import type { IsoDay } from '../calendar';
import { priceParts, type ContractQuestion, type PriceBreak, type PricedPart, type PricePin, type SoldUnit } from '../pricing';
import { stepFault, toStockingUnits, unitName, type UnitRatio } from '../units';

/** What is known of an item when it is sold to a customer. Money and weight are per stocking unit. */
export interface SoldItem {
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  readonly weight: Decimal;
  readonly cost: UnitPrice;
  readonly listPrice: UnitPrice;
  readonly discontinued: boolean;
  readonly successor: string | null;
  /** Of what is discontinued: how many can still be promised, at all warehouses; they may be sold out. */
  readonly left: Decimal | null;
  /** Units it is sold by besides its stocking unit, each a ratio to it. */
  readonly units: readonly (UnitRatio & { readonly unit: string; readonly step: Quantity })[];
  /** The stocking unit is sold in multiples of this. */
  readonly step: Quantity;
  readonly listBreaks: readonly PriceBreak[];
  /** The customer's own price list, where they have one. */
  readonly customerList: { readonly name: string; readonly breaks: readonly PriceBreak[] } | null;
  /** The customer's contract lines for it, and how they buy under contracts. */
  readonly contracts: ContractQuestion;
}

/** What is typed of a line: a quantity in a unit, the stocking unit where none is named. */
export interface QuantityWish {
  readonly unit?: string;
  readonly quantity: Quantity;
  /** What is settled about its price. */
  readonly pin?: PricePin | null;
}

/** A line with its quantity in stocking units and its price, cut where a contract covers only a part of it. */
export interface DraftLine {
  readonly unit: string;
  readonly ratio: UnitRatio;
  readonly quantity: Quantity;
  readonly stockQuantity: Quantity;
  readonly parts: readonly PricedPart[];
}

export interface LineFault {
  readonly field: 'item' | 'unit' | 'quantity';
  readonly message: string;
}

export type DraftLineResult = { readonly ok: true; readonly line: DraftLine } | { readonly ok: false; readonly fault: LineFault };

/** All units an item is sold by, the stocking unit first. */
export function soldUnits(item: Pick<SoldItem, 'unit' | 'units'>): readonly SoldUnit[] {
  return [{ unit: item.unit, numerator: 1, denominator: 1 }, ...item.units];
}

/** Why so much more of an item cannot be sold: it is discontinued, and less of it is left. Null where it can. */
export function beyondLeft(item: Pick<SoldItem, 'code' | 'unit' | 'discontinued' | 'successor' | 'left'>, stockQuantity: Quantity): string | null {
  const left = item.left ?? '0';
  if (!item.discontinued || compareDecimal(stockQuantity, left) <= 0) return null;
  return `${endedWords(item)}: ${left} ${unitName(item.unit, left)} are left to sell`;
}

function endedWords({ code, successor }: Pick<SoldItem, 'code' | 'successor'>): string {
  return `${code} is discontinued${successor ? `; ${successor} follows it` : ''}`;
}

/** What a line ordered on a day would be: the quantity as exact stocking units, and the price. Faults: discontinued, a unit it is not sold by, a part of what is sold whole, no exact number. */
export function draftLine(item: SoldItem, wish: QuantityWish, day: IsoDay): DraftLineResult {
  const fault = (field: LineFault['field'], message: string): DraftLineResult => ({ ok: false, fault: { field, message } });
  if (item.discontinued && compareDecimal(item.left ?? '0', '0') <= 0) return fault('item', endedWords(item));
  const unit = wish.unit ?? item.unit;
  const ratio = unit === item.unit ? { numerator: 1, denominator: 1, step: item.step } : item.units.find((row) => row.unit === unit);
  if (!ratio)
    return fault(
      'unit',
      `${item.code} is not sold by ${unitName(unit)}; it is sold by ${[item.unit, ...item.units.map((row) => row.unit)].map((code) => unitName(code)).join(', ')}`,
    );
  const whole = stepFault(wish.quantity, unit, ratio.step);
  if (whole !== null) return fault('quantity', whole);
  const stockQuantity = toStockingUnits(wish.quantity, ratio);
  if (stockQuantity === null)
    return fault(
      'quantity',
      `${wish.quantity} ${unitName(unit, wish.quantity)} is no exact number of ${unitName(item.unit, '2')} (1 ${unitName(unit)} = ${ratio.numerator}/${ratio.denominator})`,
    );
  const beyond = beyondLeft(item, stockQuantity);
  if (beyond !== null) return fault('quantity', beyond);
  const { listPrice, cost, listBreaks, customerList, contracts } = item;
  const exact = { numerator: ratio.numerator, denominator: ratio.denominator };
  const pin = wish.pin ?? null;
  const parts = priceParts({
    unit,
    quantity: wish.quantity,
    ratio: exact,
    day,
    listPrice,
    cost,
    listBreaks,
    customerList,
    contracts,
    pin,
    units: soldUnits(item),
  });
  return { ok: true, line: { unit, ratio: exact, quantity: wish.quantity, stockQuantity, parts } };
}
