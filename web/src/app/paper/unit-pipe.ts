import { Pipe, type PipeTransform } from '@angular/core';
import { unitName } from '@nockwright/core/units';

/** The name of a unit by its code, in the plural unless the quantity is 1. */
@Pipe({ name: 'unit' })
export class UnitPipe implements PipeTransform {
  transform(code: string, quantity = '1'): string {
    return unitName(code, quantity);
  }
}
