import { shortDays, type IsoDay } from '../calendar';
import type { ItemCode } from '../ids';
import { compareDecimal, minus, sum, type Quantity } from '../money';

/** Why less is in a bin than is to be picked. */
export type ShortReason = 'missing' | 'damaged' | 'wrong_bin' | 'no_lot';

export interface ShortFacts {
  readonly item: ItemCode;
  readonly missing: Quantity;
  /** From where other goods are picked in its place. */
  readonly instead: readonly { readonly bin: string; readonly lot: string; readonly quantity: Quantity }[];
  /** Whose promises move by it, with their days from now on; none: no day is known. */
  readonly moved: readonly { readonly order: string; readonly customer: string; readonly days: readonly IsoDay[] }[];
  readonly today: IsoDay;
}

/** What whoever picks is told: where to go instead, what stays short, and who is hurt. */
export function shortWords({ item, missing, instead, moved, today }: ShortFacts): string {
  const rest = minus(missing, sum(instead.map((row) => row.quantity)));
  const words = [
    ...instead.map(({ bin, lot, quantity }) => `Pick ${quantity} ${item} from ${bin || 'where it lies'}${lot ? `, lot ${lot}` : ''} instead.`),
    ...(compareDecimal(rest, '0') > 0 ? [`${rest} ${item} cannot be picked now.`] : []),
    ...moved.map(
      ({ order, customer, days }) => `Order ${order} of ${customer} moves to ${days.length > 0 ? shortDays(days, today) : 'backorder'}: a call is on the list.`,
    ),
  ];
  return words.join(' ');
}
