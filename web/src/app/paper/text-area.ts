import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** Text of several lines under its label, as it is typed or pasted. The label is what it wraps. */
@Component({
  selector: 'nock-text-area',
  imports: [MatFormField, MatInput],
  template: `
    <label [for]="fieldId()"><ng-content /></label>
    <mat-form-field>
      <textarea matInput #field [id]="fieldId()" [rows]="rows()" [attr.maxlength]="most()" [value]="text()" (input)="text.set(field.value)"></textarea>
    </mat-form-field>
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
    mat-form-field {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextArea {
  readonly fieldId = input.required<string>();
  readonly text = model.required<string>();
  readonly rows = input(4);
  /** Characters it takes. */
  readonly most = input<number | null>(null);
}
