import { ChangeDetectionStrategy, Component, type ElementRef, inject, input, output, viewChild } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Keys } from './keys';

/** The field that filters a list while it is typed; `F` goes to it. */
@Component({
  selector: 'nock-filter',
  imports: [MatFormField, MatInput],
  template: `
    <mat-form-field>
      <input
        matInput
        #field
        type="search"
        [value]="text()"
        (input)="typed.emit(field.value)"
        (keydown.arrowdown)="$event.preventDefault(); left.emit()"
        [placeholder]="hint()"
        [attr.aria-label]="'Filter ' + what()"
        autocomplete="off"
      />
    </mat-form-field>
  `,
  styles: `
    :host {
      display: block;
      width: 340px;
      max-width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilterField {
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  readonly text = input('');
  /** Down, to what is listed. */
  readonly left = output<void>();
  /** What is filtered: `orders`. */
  readonly what = input.required<string>();
  readonly hint = input('');
  readonly typed = output<string>();

  constructor() {
    inject(Keys).use([{ key: 'F', does: 'filter the list', run: () => this.focus() }]);
  }

  focus(): void {
    this.field().nativeElement.focus();
  }
}
