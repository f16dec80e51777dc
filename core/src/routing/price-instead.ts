import type { SoldItem } from '../orders';
import { priceParts } from '../pricing';
import type { OwnPrice } from '../shortages';

/** The price so many stocking units of an item have of their own today; null where no one price holds for all of them. */
export function ownPriceOf({ unit, listPrice, cost, listBreaks, customerList, contracts }: SoldItem, quantity: string, today: string): OwnPrice | null {
  const parts = priceParts({
    unit,
    quantity,
    ratio: { numerator: 1, denominator: 1 },
    day: today,
    listPrice,
    cost,
    listBreaks,
    customerList,
    contracts,
    pin: null,
  });
  return parts.length === 1 ? { price: parts[0]!.price.price, source: parts[0]!.price.source } : null;
}
