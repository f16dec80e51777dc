import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { OrderStore } from './order-store';

/** Holds a draft until the customer has answered something. */
@Component({
  selector: 'nock-hold-form',
  imports: [MatButton, MatFormField, MatInput],
  template: `
    <form (submit)="$event.preventDefault(); hold()">
      <label for="hold-why">Hold it until they answer</label>
      <mat-form-field
        ><input matInput #asks id="hold-why" placeholder="what?" maxlength="300" autocomplete="off" [value]="question()" (input)="question.set(asks.value)"
      /></mat-form-field>
      <button mat-button type="submit" [disabled]="store.busy()">Hold</button>
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
export class HoldForm {
  protected readonly store = inject(OrderStore);
  protected readonly question = signal('');

  protected hold(): void {
    const question = this.question().trim();
    if (question === '') return this.store.fault.set('What does it wait for? Type what the customer must answer.');
    this.store.hold(question, () => this.question.set(''));
  }
}
