import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** A password under its label, which is what it wraps. `fills`: what a password manager may put there. */
@Component({
  selector: 'nock-password-field',
  imports: [MatFormField, MatInput],
  template: `
    <label [for]="fieldId()"><ng-content /></label>
    <mat-form-field
      ><input matInput #field type="password" maxlength="200" [id]="fieldId()" [autocomplete]="fills()" [value]="text()" (input)="text.set(field.value)"
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
export class PasswordField {
  readonly fieldId = input.required<string>();
  readonly fills = input.required<'current-password' | 'new-password'>();
  readonly text = model.required<string>();
}
