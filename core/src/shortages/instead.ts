import { type Quantity, type UnitPrice, compareDecimal, divide, type Decimal } from '../money';
import Big from 'big.js';

/** How one item stands for another: so many of its stocking units for one, and the steps it is sold in (1: whole). */
export interface StandsFor {
  readonly ratio: Decimal;
  readonly step: Quantity;
}

/** What is sent of another item instead of so many of one that is short. */
export interface SentInstead {
  /** Stocking units of what is sent: a whole number of its steps, never less than stands for what is short. */
  readonly sent: Decimal;
  /** How many of them are more than stand for what is short. */
  readonly over: Decimal;
}

/** What goes instead of `quantity` of an item that is short: nobody is sent half a tank. */
export function sentInstead(quantity: Quantity, { ratio, step }: StandsFor): SentInstead {
  const stands = new Big(quantity).times(ratio);
  const sent = stands.div(step).round(0, Big.roundUp).times(step);
  return { sent: sent.toFixed(), over: sent.minus(stands).toFixed() };
}

/** How many of the item that is short (in its own steps) so many of the other one stand for, at most. */
export function mostReplaced(available: Quantity, { ratio, step }: StandsFor, shortStep: Decimal): Decimal {
  const whole = new Big(available).div(step).round(0, Big.roundDown).times(step);
  return whole.div(ratio).div(shortStep).round(0, Big.roundDown).times(shortStep).toFixed();
}

/** A price that is looked up, and where it comes from. */
export interface OwnPrice {
  readonly price: UnitPrice;
  readonly source: string;
}

/**
 * The price of one of what goes instead, the cheaper for the customer of two: what was agreed for what it stands for, and
 * its own. `agreed`: of one of the item that is short. `own`: true where its own is the cheaper.
 */
export function priceInstead(agreed: Decimal, ratio: Decimal, own: OwnPrice | null): { readonly price: UnitPrice; readonly own: boolean } {
  const asAgreed = divide(agreed, ratio, 4);
  return own !== null && compareDecimal(own.price, asAgreed) < 0 ? { price: own.price, own: true } : { price: asAgreed, own: false };
}
