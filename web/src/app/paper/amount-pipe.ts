import { Pipe, type PipeTransform } from '@angular/core';
import { amountInWords, priceInWords } from '@nockwright/core/money';

export { amountInWords };

@Pipe({ name: 'amount' })
export class AmountPipe implements PipeTransform {
  transform(value: string | null | undefined): string {
    return value === null || value === undefined ? '–' : amountInWords(value);
  }
}

/** A unit price or cost: at least two decimals, up to the four it may have. */
@Pipe({ name: 'price' })
export class PricePipe implements PipeTransform {
  transform(value: string | null | undefined): string {
    return value === null || value === undefined ? '–' : priceInWords(value);
  }
}
