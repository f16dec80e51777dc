import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** A quantity in a row of a list, as it is typed; the row says of what. */
@Component({
  selector: 'nock-quantity-field',
  imports: [MatFormField, MatInput],
  template: `
    <mat-form-field
      ><input
        matInput
        #field
        class="figure"
        inputmode="decimal"
        [value]="quantity()"
        (input)="typed.emit(field.value.trim())"
        [attr.aria-label]="label()"
        autocomplete="off"
    /></mat-form-field>
  `,
  styles: `
    :host {
      display: inline-block;
      max-width: 100%;
    }
    mat-form-field {
      width: 100%;
    }
    /* A telephone enlarges the whole page around a field with smaller letters. */
    @media (max-width: 820px) {
      input {
        font-size: 16px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QuantityField {
  readonly label = input.required<string>();
  readonly quantity = input.required<string>();
  readonly typed = output<string>();
}
