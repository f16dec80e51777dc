import { Pipe, type PipeTransform } from '@angular/core';

/** A decimal with thousands set apart, its digits untouched: `12,480.00`. */
@Pipe({ name: 'amount' })
export class AmountPipe implements PipeTransform {
  transform(value: string | null | undefined): string {
    if (value === null || value === undefined) return '–';
    const [whole, fraction] = value.split('.');
    const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
    return fraction === undefined ? grouped : `${grouped}.${fraction}`;
  }
}
