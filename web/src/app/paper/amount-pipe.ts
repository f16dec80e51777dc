import { Pipe, type PipeTransform } from '@angular/core';

/** A decimal with thousands set apart, its digits untouched: `12,480.00`. */
export function amountInWords(value: string): string {
  const [whole, fraction] = value.split('.');
  const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
  return fraction === undefined ? grouped : `${grouped}.${fraction}`;
}

@Pipe({ name: 'amount' })
export class AmountPipe implements PipeTransform {
  transform(value: string | null | undefined): string {
    return value === null || value === undefined ? '–' : amountInWords(value);
  }
}

/** A unit price or cost: at least two decimals, up to the four it may have. */
@Pipe({ name: 'price' })
export class PricePipe implements PipeTransform {
  private readonly amount = new AmountPipe();

  transform(value: string | null | undefined): string {
    if (value === null || value === undefined) return '–';
    const [whole, fraction = ''] = value.split('.');
    return this.amount.transform(`${whole}.${fraction.padEnd(2, '0')}`);
  }
}
