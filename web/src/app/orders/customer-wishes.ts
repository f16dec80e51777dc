import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import type { OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { LineForm, isWhole } from '../paper';
import { POLICY_CHOICES, type PolicyName } from '../shortages';
import { CustomerTerms } from './customer-terms';
import { OrderStore } from './order-store';

/** Levels that are offered; a level of its own is kept as it is. */
const LEVELS = [75, 80, 90, 95, 99] as const;

/** How this customer wants to be promised to, and served when goods are short. */
@Component({
  selector: 'nock-customer-wishes',
  imports: [MatCheckbox, MatFormField, MatSelect, MatOption, LineForm],
  template: `
    @let customer = order().customer;
    <p class="sure">
      <span id="sure-label">Promises to them are made</span>
      <mat-form-field>
        <mat-select
          canSelectNullableOptions
          aria-labelledby="sure-label"
          [value]="customer.confidence"
          (selectionChange)="terms.setConfidence($event.value)"
          [disabled]="!maySell()"
        >
          <mat-option [value]="null">{{
            order().deskConfidence ? 'as the desk’s: ' + order().deskConfidence + ' % confidence' : 'on the supplier’s day'
          }}</mat-option>
          @for (level of levels; track level) {
            <mat-option [value]="level">with {{ level }} % confidence</mat-option>
          }
        </mat-select>
      </mat-form-field>
    </p>
    <p class="sure">
      <span id="policy-label">Options are ranked</span>
      <mat-form-field>
        <mat-select
          canSelectNullableOptions
          aria-labelledby="policy-label"
          [value]="customer.routePolicy"
          (selectionChange)="set($event.value, customer.asksWhenLate)"
          [disabled]="!maySell()"
        >
          <mat-option [value]="null">as the desk ranks them</mat-option>
          @for (choice of policies; track choice[0]) {
            <mat-option [value]="choice[0]">{{ choice[1] }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <mat-checkbox [checked]="customer.asksWhenLate" (change)="set(customer.routePolicy, $event.checked)" [disabled]="!maySell()"
        >asked before a later day is settled</mat-checkbox
      >
    </p>
    @if (maySell()) {
      <nock-line-form
        fieldId="customer-life"
        [label]="'Least life left on delivery, days' + (customer.leastLife === null ? '' : ': ' + customer.leastLife)"
        hint="90, or none"
        act="Save"
        [(text)]="life"
        (said)="setLife($event)"
      />
    }
  `,
  styles: `
    .sure {
      margin: 10px 0 0;
    }
    span {
      display: block;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    mat-form-field {
      width: 100%;
    }
    mat-checkbox {
      margin-left: -8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerWishes {
  protected readonly store = inject(OrderStore);
  protected readonly terms = inject(CustomerTerms);
  protected readonly maySell = inject(Session).maySell;
  readonly order = input.required<OrderView>();
  protected readonly levels = LEVELS;
  protected readonly policies = POLICY_CHOICES;

  protected readonly life = signal('');

  /** A number of days; `none`: as the items say. */
  protected setLife(said: string): void {
    const text = said.trim().toLowerCase();
    if (text !== 'none' && !isWhole(text)) return this.store.fault.set(`“${said}”: type a number of days, as in 90, or none.`);
    this.terms.setLeastLife(text === 'none' ? null : Number(text));
    this.life.set('');
  }

  protected set(policy: PolicyName | null, asksWhenLate: boolean): void {
    this.terms.setRoutePolicy({ policy, asksWhenLate });
  }
}
