import { type Quantity, minus, type Decimal } from '../money';

/** An order line, or anything that has its quantities in stocking units. */
export interface LineQuantities {
  readonly stock_quantity: Quantity;
  readonly shipped: Quantity;
  readonly cancelled: Quantity;
}

/** What is open of a line, in stocking units: ordered, and neither shipped nor cancelled. */
export function openQuantity({ stock_quantity: ordered, shipped, cancelled }: LineQuantities): Decimal {
  return minus(minus(ordered, shipped), cancelled);
}
