import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import type { OrderView } from '@nockwright/contract/orders';
import { LOST_REASONS, type LostReason } from '@nockwright/core/orders';
import { GlossForm, TextField } from '../../paper';
import { OrderStanding } from '../order-standing';
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
  imports: [GlossForm, TextField, MatFormField, MatSelect, MatOption],
  template: `
    <nock-gloss-form heading="{{ order().number }} is lost" act="Mark as lost" [ready]="!store.busy()" (done)="confirm()" (left)="closed.emit()">
      <span class="label" id="lost-reason">Why</span>
      <mat-form-field>
        <mat-select aria-labelledby="lost-reason" [value]="reason()" (selectionChange)="reason.set($event.value)">
          @for (choice of reasons; track choice) {
            <mat-option [value]="choice">{{ words[choice] }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <nock-text-field fieldId="lost-note" [most]="500" [(text)]="note">What they said</nock-text-field>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LoseForm {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  readonly order = input.required<OrderView>();
  readonly closed = output<void>();
  protected readonly reasons = LOST_REASONS;
  protected readonly words = LOST_WORDS;
  protected readonly reason = signal<LostReason>('price');
  protected readonly note = signal('');

  protected confirm(): void {
    this.standing.loseQuote(this.reason(), this.note().trim(), () => this.closed.emit());
  }
}
