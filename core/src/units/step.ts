import Big from 'big.js';
import { unitName } from './unit-codes';

/** Whether a quantity is a whole number of steps, exactly. Both are decimal text, the step above 0. */
export function isInSteps(quantity: string, step: string): boolean {
  return new Big(quantity).mod(step).eq(0);
}

/**
 * What is wrong with a quantity of a unit that is sold in steps (1: whole), and what could be ordered instead; null where
 * nothing is. "Quantity 1.5: pairs are sold whole. Use 1 or 2."
 */
export function stepFault(quantity: string, unit: string, step: string): string | null {
  if (isInSteps(quantity, step)) return null;
  const below = new Big(quantity).div(step).round(0, 0).times(step);
  const near = [below, below.plus(step)].filter((one) => one.gt(0)).map((one) => one.toFixed());
  const name = unitName(unit, '2');
  const are = name === unitName(unit) ? 'is' : 'are';
  const how = new Big(step).eq(1) ? 'sold whole' : `sold in steps of ${new Big(step).toFixed()}`;
  return `Quantity ${quantity}: ${name} ${are} ${how}. Use ${near.join(' or ')}.`;
}
