import type { SoldItem } from '../src/orders';
import { NO_CONTRACTS } from '../src/pricing';

/** An item as it is sold: by each and by the dozen, at 0.50 of the list. */
export function soldItem(code: string, more: Partial<SoldItem> = {}): SoldItem {
  return {
    code,
    description: code,
    unit: 'EA',
    weight: '0.2',
    cost: '0.30',
    listPrice: '0.50',
    discontinued: false,
    successor: null,
    left: null,
    units: [{ unit: 'DZN', numerator: 12, denominator: 1, step: '1' }],
    step: '1',
    listBreaks: [],
    customerList: null,
    contracts: NO_CONTRACTS,
    ...more,
  };
}
