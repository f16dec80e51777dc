import { ChangeDetectionStrategy, Component, computed, input, model } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';

/** One warehouse or supplier of a few, under its label. */
@Component({
  selector: 'nock-place-choice',
  imports: [MatFormField, MatOption, MatSelect],
  template: `
    <span class="label" [id]="labelId()">{{ label() }}</span>
    <mat-form-field
      ><mat-select [aria-labelledby]="labelId()" [value]="code()" (selectionChange)="code.set($event.value)">
        @for (place of places(); track place.code) {
          <mat-option [value]="place.code">{{ place.name }}</mat-option>
        }
      </mat-select></mat-form-field
    >
  `,
  styles: `
    :host {
      display: block;
    }
    .label {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    mat-form-field {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceChoice {
  readonly label = input.required<string>();
  readonly places = input.required<readonly { readonly code: string; readonly name: string }[]>();
  readonly code = model.required<string>();
  protected readonly labelId = computed(() => `${this.label().toLowerCase().replaceAll(' ', '-')}-label`);
}
