import { divide, type Decimal } from './money';

/** A decimal with thousands set apart, its digits untouched: `12,480.00`. */
export function amountInWords(value: Decimal): string {
  const [whole, fraction] = value.split('.');
  const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
  return fraction === undefined ? grouped : `${grouped}.${fraction}`;
}

/** Decimals of a price that no more than four can say: so many that its amount can be checked by hand. */
const MOST_DECIMALS = 6;

/** A unit price or cost: at least two decimals, up to the four it may have; what is derived from another unit's price up to six. */
export function priceInWords(value: Decimal): string {
  const long = (value.split('.')[1] ?? '').length > MOST_DECIMALS;
  const [whole, fraction = ''] = (long ? divide(value, 1, MOST_DECIMALS) : value).split('.');
  return amountInWords(`${whole}.${fraction.padEnd(2, '0')}`);
}
