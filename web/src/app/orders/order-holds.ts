import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { HOLD_CLEARED_BY, type HoldView, type OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { DayPipe } from '../paper';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';

/** What an order is held for, in words. */
export const HOLD_NAMES = { below_floor: 'price below the floor', credit: 'credit', customer: 'waits for the customer' } as const;

/** Why an order may not be released, who may release the hold, and what was let go before. */
@Component({
  selector: 'nock-order-holds',
  imports: [MatButton, MatFormField, MatInput, DayPipe],
  template: `
    @for (hold of order().holds; track hold.id) {
      <div class="hold" [class.waits]="!hold.cleared">
        <p>
          <b>{{ hold.cleared ? 'Was held' : 'Held' }}: {{ names[hold.kind] }}.</b> {{ hold.why }}
          <span class="quiet small">{{ hold.by }}, {{ hold.at.slice(0, 10) | day }}</span>
        </p>
        @if (hold.cleared; as cleared) {
          <p class="quiet small">{{ cleared.by }} released the hold: {{ cleared.why }}</p>
        } @else if (mayClear(hold)) {
          <form (submit)="$event.preventDefault(); clear(hold)">
            <mat-form-field
              ><input
                matInput
                #why
                [attr.aria-label]="'Why it may be released: ' + names[hold.kind]"
                placeholder="why it may be released"
                maxlength="300"
                autocomplete="off"
                [value]="reason()"
                (input)="reason.set(why.value)"
            /></mat-form-field>
            <button mat-stroked-button type="submit" [disabled]="store.busy()">Release hold</button>
          </form>
        } @else {
          <p class="small">{{ clearers[hold.kind] }} may release the hold.</p>
        }
      </div>
    }
  `,
  styles: `
    .hold {
      margin: 8px 0;
      padding-left: 10px;
      border-left: 3px solid var(--hairline);
    }
    .waits {
      border-left-color: var(--open);
    }
    p {
      margin: 2px 0;
    }
    form {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-top: 6px;
    }
    mat-form-field {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderHolds {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  private readonly session = inject(Session);
  readonly order = input.required<OrderView>();

  protected readonly names = HOLD_NAMES;
  protected readonly clearers = { below_floor: 'A manager', credit: 'Finance or a manager', customer: 'The desk' } as const;
  private readonly orderId = computed(() => this.order().id);
  protected readonly reason = linkedSignal({ source: this.orderId, computation: () => '' });

  protected mayClear(hold: HoldView): boolean {
    const role = this.session.user()?.role;
    return this.order().state === 'draft' && role !== undefined && HOLD_CLEARED_BY[hold.kind].includes(role);
  }

  protected clear(hold: HoldView): void {
    const why = this.reason().trim();
    if (why === '') return this.store.fault.set('Why may it be released? The reason stands on the order.');
    this.standing.clearHold(hold.id, why, () => this.reason.set(''));
  }
}
