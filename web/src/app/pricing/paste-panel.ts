import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { SheetRead } from '@nockwright/core/pricing';
import { Keys } from '../paper';

const MOST_FAULTS = 12;

/** Rows pasted from a spreadsheet or typed: what they are understood as, every fault with its line, then stored all or none. */
@Component({
  selector: 'nock-paste-panel',
  imports: [A11yModule, MatButton, MatCheckbox, MatFormField, MatInput],
  template: `
    <form class="gloss-form" cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault(); confirm()">
      <h2>{{ title() }}</h2>
      <label for="pasted">Paste rows from a spreadsheet, or type them</label>
      <mat-form-field>
        <textarea matInput #field id="pasted" class="code" rows="12" wrap="off" spellcheck="false" [value]="text()" (input)="text.set(field.value)"></textarea>
      </mat-form-field>
      <p class="quiet small">Columns: {{ columns() }}. A first row that names them may put them in any order.</p>
      @if (read().rows.length + read().faults.length > 0) {
        <p aria-live="polite">
          Understood {{ read().rows.length }} {{ read().rows.length === 1 ? 'row' : 'rows' }}{{ taken() ? ', from the columns ' + taken() : '' }}.
        </p>
      }
      @if (read().faults.length > 0) {
        <ul class="open" role="alert">
          @for (fault of read().faults.slice(0, most); track $index) {
            <li>line {{ fault.line }}, {{ fault.field }}: {{ fault.message }}</li>
          }
          @if (read().faults.length > most) {
            <li>and {{ read().faults.length - most }} more</li>
          }
        </ul>
      }
      <mat-checkbox [checked]="all()" (change)="all.set($event.checked)">in the place of all there are</mat-checkbox>
      <p class="open" role="alert">{{ fault() }}</p>
      <div class="acts">
        <button mat-flat-button type="submit" [disabled]="busy() || !ready()">
          Write {{ read().rows.length }} {{ read().rows.length === 1 ? 'row' : 'rows' }} <kbd>Ctrl Enter</kbd>
        </button>
        <button mat-button type="button" (click)="closed.emit()">Back <kbd>Esc</kbd></button>
      </div>
    </form>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
    textarea {
      font-size: 12.5px;
      white-space: pre;
      tab-size: 12;
      overflow: auto;
    }
    ul {
      margin: 6px 0;
      padding-left: 18px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PastePanel<T> {
  readonly title = input.required<string>();
  readonly columns = input.required<string>();
  readonly reader = input.required<(text: string) => SheetRead<T>>();
  /** What stands there to begin with. */
  readonly start = input('');
  readonly busy = input(false);
  readonly fault = input('');
  readonly closed = output<void>();
  readonly written = output<{ readonly rows: readonly T[]; readonly all: boolean }>();

  protected readonly most = MOST_FAULTS;
  protected readonly text = linkedSignal(() => this.start());
  protected readonly all = signal(false);
  protected readonly read = computed(() => this.reader()(this.text()));
  protected readonly taken = computed(() =>
    this.read()
      .columns.filter((name) => name !== null)
      .join(', '),
  );
  /** Rows with faults are not left out silently: all are in order, or nothing is written. */
  protected readonly ready = computed(() => this.read().faults.length === 0 && (this.read().rows.length > 0 || (this.all() && this.text().trim() === '')));

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'write the rows', run: () => this.confirm() },
      { key: 'Escape', does: 'back', run: () => this.closed.emit() },
    ]);
  }

  protected confirm(): void {
    if (this.ready() && !this.busy()) this.written.emit({ rows: this.read().rows, all: this.all() });
  }
}
