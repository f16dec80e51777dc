import type { Decimal } from './money';

/** A decimal with thousands set apart, its digits untouched: `12,480.00`. */
export function amountInWords(value: Decimal): string {
  const [whole, fraction] = value.split('.');
  const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
  return fraction === undefined ? grouped : `${grouped}.${fraction}`;
}

/** A unit price or cost: at least two decimals, up to the four it may have. */
export function priceInWords(value: Decimal): string {
  const [whole, fraction = ''] = value.split('.');
  return amountInWords(`${whole}.${fraction.padEnd(2, '0')}`);
}
