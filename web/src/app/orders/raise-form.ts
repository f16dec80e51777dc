import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { AmountPipe, DayPipe, GlossForm, isQuantity, PricePipe, TextField, UnitPipe } from '../paper';
import { decisionOf, Preview, Ripple } from '../ripple';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

/** More of a released line: the days it would leave on, and whom it would move where it claims its turn. */
@Component({
  selector: 'nock-raise-form',
  imports: [GlossForm, MatCheckbox, TextField, AmountPipe, DayPipe, PricePipe, UnitPipe, Ripple],
  template: `
    <nock-gloss-form
      heading="Increase line {{ line().lineNo }}: {{ line().item }}"
      act="Increase line"
      [ready]="preview.shown() !== null && !store.busy()"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      <nock-text-field fieldId="raise-quantity" [figure]="true" [(text)]="wanted"
        >Instead of {{ line().quantity | amount }} {{ line().unit | unit: line().quantity }}</nock-text-field
      >
      <mat-checkbox [checked]="claim()" (change)="claim.set($event.checked)">claim its place: also what those behind it were promised</mat-checkbox>
      @if (preview.shown(); as effect) {
        <p>
          At <b>{{ effect.price | price }}</b>, {{ effect.price === line().price ? 'as agreed' : effect.priceSource + '; it was ' + (line().price | price) }}
        </p>
        <h3>The whole line would leave</h3>
        @for (part of effect.schedule; track part.day) {
          <p>
            <b>{{ part.quantity | amount }}</b> on {{ part.day | day }}
          </p>
        }
        @if (effect.uncovered !== '0') {
          <p class="open">{{ effect.uncovered | amount }} are backordered: choose an option for them on the line.</p>
        }
        <nock-ripple [ripple]="effect.ripple" />
      }
      <p class="open" role="alert">{{ preview.fault() }}</p>
    </nock-gloss-form>
  `,
  styles: `
    p {
      margin: 4px 0;
    }
    mat-checkbox {
      display: block;
      margin: 6px 0 0 -8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RaiseForm {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  readonly closed = output<void>();

  protected readonly wanted = signal('');
  protected readonly claim = signal(false);
  private readonly wish = computed(() => {
    const quantity = this.wanted().trim();
    return isQuantity(quantity) ? { order: this.order(), line: this.line(), quantity, claim: this.claim() } : null;
  });
  /** The days it would leave on are always looked at: they are told to the customer. */
  protected readonly preview = new Preview(
    this.wish,
    ({ line, quantity, claim }) => this.standing.previewRaise(line, quantity, claim),
    () => false,
  );

  protected confirm(): void {
    const wish = this.wish();
    if (wish === null) return this.preview.fault.set('How many? Type the new whole quantity.');
    this.preview.once(({ ripple }) =>
      this.standing.raise(wish.line, { quantity: wish.quantity, claim: wish.claim, decision: decisionOf(ripple, []) }, () => this.closed.emit()),
    );
  }
}
