import { compareDecimal, least, minus, sum } from '../money';
import type { OpenLine } from './cut-line';

/** What is promised and not being picked, by day: picks take the earliest promises. */
export function unpicked({ promises, picks }: Pick<OpenLine, 'promises' | 'picks'>): OpenLine['promises'] {
  let picked = sum(picks.map((pick) => pick.quantity));
  return promises.flatMap(({ day, quantity }) => {
    const taken = least(picked, quantity);
    picked = minus(picked, taken);
    const rest = minus(quantity, taken);
    return compareDecimal(rest, '0') > 0 ? [{ day, quantity: rest }] : [];
  });
}
