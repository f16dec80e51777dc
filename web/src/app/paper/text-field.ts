import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** One line of text under its label, as it is typed; a quantity where it is a figure, or a password. The label is what it wraps. */
@Component({
  selector: 'nock-text-field',
  imports: [MatFormField, MatInput],
  template: `
    <label [for]="fieldId()"><ng-content /></label>
    <mat-form-field
      ><input
        matInput
        #field
        [id]="fieldId()"
        [class.figure]="figure()"
        [attr.inputmode]="figure() ? 'decimal' : null"
        [attr.maxlength]="most()"
        [type]="password() ? 'password' : 'text'"
        [value]="text()"
        (input)="text.set(field.value)"
        [autocomplete]="password() ?? 'off'"
    /></mat-form-field>
  `,
  styles: `
    :host {
      display: block;
    }
    label {
      display: block;
      margin-top: 10px;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextField {
  readonly fieldId = input.required<string>();
  readonly text = model.required<string>();
  readonly figure = input(false);
  /** Which password it is, where it is one: what a password manager may fill in. */
  readonly password = input<'current-password' | 'new-password' | null>(null);
  /** Characters it takes. */
  readonly most = input<number | null>(null);
}
