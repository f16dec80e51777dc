import { type Quantity, type UnitPrice, compareDecimal, minus, type Decimal } from '../money';
import { shortDay, type IsoDay } from '../calendar';
import type { LinePrice, PricedPart } from '../pricing';
import { stepFault, toStockingUnits } from '../units';
import { beyondLeft, type SoldItem } from './draft-line';

/** A line of a released order. `quantity` in the unit ordered. */
export interface RaisableLine {
  readonly quantity: Quantity;
  readonly stock_quantity: Quantity;
  readonly unit: string;
  readonly unit_step: Decimal;
  readonly stock_unit: string;
  readonly numerator: number;
  readonly denominator: number;
  readonly price: UnitPrice;
  readonly price_source: string;
  /** Set by hand, or sold under a contract: then the price stands. */
  readonly fixed: boolean;
}

export interface RaiseFacts {
  readonly line: RaisableLine;
  /** The contract the line is sold under; null: none. `most`: what may be bought under it; null: as much as is wanted. */
  readonly contract: { readonly number: string; readonly lastDay: IsoDay; readonly most: Quantity | null; readonly used: Quantity } | null;
  /** Of an item that is no longer made, what is left to sell. */
  readonly item: Pick<SoldItem, 'code' | 'unit' | 'discontinued' | 'successor' | 'left'>;
  /** What the greater quantity is priced at today. */
  readonly prices: readonly PricedPart[];
}

export type RaiseDecision =
  | {
      readonly ok: true;
      /** The new quantity and what is added, in stocking units. */
      readonly stock: Decimal;
      readonly more: Quantity;
      /** A lower price that the greater quantity reaches; null: as agreed. */
      readonly price: LinePrice | null;
    }
  | { readonly ok: false; readonly why: string };

/** The greater quantity in stocking units, or why it is none. */
export function raisedStock(
  line: RaisableLine,
  quantity: Quantity,
): { readonly ok: true; readonly stock: Decimal } | { readonly ok: false; readonly why: string } {
  const refuse = (why: string) => ({ ok: false, why }) as const;
  if (compareDecimal(quantity, line.quantity) <= 0)
    return refuse(`expected more than the ${line.quantity} ${line.unit} ordered, got ${quantity}; to order less, cancel a part`);
  const parts = stepFault(quantity, line.unit, line.unit_step);
  if (parts !== null) return refuse(parts);
  const stock = toStockingUnits(quantity, line);
  return stock === null ? refuse(`${quantity} ${line.unit} is no exact number of ${line.stock_unit}`) : { ok: true, stock };
}

/**
 * A greater quantity of a released line. It is bought at the price agreed: under its contract, as long as that is in force
 * and has enough left; where a break of a list makes it cheaper, at that. What is no longer made is sold while some is left.
 */
export function decideRaise({ line, contract, item, prices }: RaiseFacts, quantity: Quantity, today: IsoDay): RaiseDecision {
  const raised = raisedStock(line, quantity);
  if (!raised.ok) return raised;
  const more = minus(raised.stock, line.stock_quantity);
  const why = contractFault(contract, line, more, today) ?? beyondLeft(item, more);
  if (why !== null) return { ok: false, why };
  return { ok: true, stock: raised.stock, more, price: line.fixed ? null : lowerPrice(line, prices) };
}

function contractFault(contract: RaiseFacts['contract'], line: RaisableLine, more: Quantity, today: IsoDay): string | null {
  if (contract === null) return null;
  const { number, lastDay, most, used } = contract;
  if (lastDay < today) return `contract ${number} ended ${shortDay(lastDay, today)}: order more as a line of its own, at the price of today`;
  const left = most === null ? null : minus(most, used);
  if (left === null || compareDecimal(more, left) <= 0) return null;
  return `${line.price_source} has ${left} ${line.stock_unit} left: raise it by at most that, and order the rest as a line of its own`;
}

function lowerPrice(line: RaisableLine, [part, ...others]: readonly PricedPart[]): LinePrice | null {
  if (!part || others.length > 0 || part.price.contractLine !== null) return null;
  return compareDecimal(part.price.price, line.price) < 0 ? part.price : null;
}
