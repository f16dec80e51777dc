import { ChangeDetectionStrategy, Component, type ElementRef, input, model, output, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** One line of text and what is done with it: a reason, a name, a note. It is said without the spaces around it. */
@Component({
  selector: 'nock-line-form',
  imports: [MatButton, MatFormField, MatInput],
  template: `
    <form (submit)="$event.preventDefault(); said.emit(text().trim())">
      <label [for]="fieldId()">{{ label() }}</label>
      <mat-form-field
        ><input
          matInput
          #field
          [id]="fieldId()"
          [placeholder]="hint()"
          [attr.maxlength]="most()"
          autocomplete="off"
          [value]="text()"
          (input)="text.set(field.value)"
      /></mat-form-field>
      <button mat-button type="submit" [disabled]="busy()">{{ act() }}</button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 8px;
      align-items: center;
      margin-top: 10px;
    }
    label {
      grid-column: 1 / -1;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineForm {
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  readonly fieldId = input.required<string>();
  readonly label = input.required<string>();
  readonly act = input.required<string>();
  readonly hint = input('');
  readonly most = input(300);
  readonly busy = input(false);
  /** As it is typed; whoever uses it clears it when it is done. */
  readonly text = model('');
  readonly said = output<string>();

  focus(): void {
    this.field().nativeElement.focus();
  }
}
