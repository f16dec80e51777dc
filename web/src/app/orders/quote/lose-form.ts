import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatOption, MatSelect } from '@angular/material/select';
import type { OrderView } from '@nockwright/contract/orders';
import { LOST_REASONS, type LostReason } from '@nockwright/core/orders';
import { Keys } from '../../paper';
import { OrderStore } from '../order-store';

/** Why a quote came to nothing, as it is said on the desk. */
export const LOST_WORDS: Readonly<Record<LostReason, string>> = {
  price: 'the price',
  too_late: 'it would have come too late',
  other_supplier: 'they buy elsewhere',
  not_what_was_asked: 'not what they wanted',
  given_up: 'they gave the plan up',
  no_answer: 'no answer',
  other: 'another reason',
};

/** Closes a quote that came to nothing, and keeps why. */
@Component({
  selector: 'nock-lose-form',
  imports: [A11yModule, MatButton, MatFormField, MatInput, MatSelect, MatOption],
  template: `
    <form class="gloss-form" cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault(); confirm()">
      <h2>{{ order().number }} came to nothing</h2>
      <span class="label" id="lost-reason">Why</span>
      <mat-form-field>
        <mat-select aria-labelledby="lost-reason" [value]="reason()" (selectionChange)="reason.set($event.value)">
          @for (choice of reasons; track choice) {
            <mat-option [value]="choice">{{ words[choice] }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <label for="lost-note">What they said</label>
      <mat-form-field
        ><input matInput #said id="lost-note" [value]="note()" (input)="note.set(said.value)" maxlength="500" autocomplete="off"
      /></mat-form-field>
      <div class="acts">
        <button mat-flat-button type="submit" [disabled]="store.busy()">Close it as lost <kbd>Ctrl Enter</kbd></button>
        <button mat-button type="button" (click)="closed.emit()">Leave it <kbd>Esc</kbd></button>
      </div>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LoseForm {
  protected readonly store = inject(OrderStore);
  readonly order = input.required<OrderView>();
  readonly closed = output<void>();
  protected readonly reasons = LOST_REASONS;
  protected readonly words = LOST_WORDS;
  protected readonly reason = signal<LostReason>('price');
  protected readonly note = signal('');

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'close the quote as lost', run: () => this.confirm() },
      { key: 'Escape', does: 'leave the quote as it is', run: () => this.closed.emit() },
    ]);
  }

  protected confirm(): void {
    this.store.loseQuote(this.reason(), this.note().trim(), () => this.closed.emit());
  }
}
