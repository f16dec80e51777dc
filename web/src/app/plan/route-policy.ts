import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { shortageRoutes, type RoutePolicyView } from '@nockwright/contract/shortages';
import { catchError, EMPTY, Subject } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { ListChoice, QuantityField } from '../paper';
import { POLICY_CHOICES, type PolicyName } from '../shortages';

type Weight = keyof RoutePolicyView['weights']['on_time'];

const WEIGHTS: readonly (readonly [Weight, string])[] = [
  ['latePercent', 'a day late, % of the value'],
  ['shipmentCost', 'a further shipment'],
  ['surplusPercent', 'left on the shelf, % of the cost'],
  ['cutPercent', 'cut, % of the value'],
];
const FIGURE = /^\d{1,6}(\.\d{1,2})?$/;

/** How the desk ranks the ways out of a shortage: what is preferred, and what weighs how much in each preference. The manager sets it. */
@Component({
  selector: 'nock-route-policy',
  imports: [MatButton, ListChoice, QuantityField],
  template: `
    @if (policy(); as view) {
      <h3>Options for a shortage</h3>
      <div class="row">
        <span class="quiet">Ranked</span>
        @if (mayPlan()) {
          <nock-list-choice what="How the desk ranks options" [choices]="names" [chosen]="view.name" (choose)="choose($any($event ?? 'on_time'))" />
        } @else {
          <b>{{ nameOf(view.name) }}</b>
        }
      </div>
      <p class="quiet small">An option is worth its margin less these. What a customer wishes goes first: it stands beside their orders.</p>
      @for (weight of weights; track weight[0]) {
        <div class="row">
          @if (mayPlan()) {
            <nock-quantity-field [label]="labelOf(weight)" [quantity]="view.weights[view.name][weight[0]]" (typed)="weigh(weight[0], $event)" />
          } @else {
            <b class="figure">{{ view.weights[view.name][weight[0]] }}</b>
          }
          <span>{{ labelOf(weight) }}</span>
        </div>
      }
      @if (changed()) {
        <button mat-stroked-button type="button" (click)="store()">Save</button>
      }
      <p class="fault" role="alert">{{ fault() }}</p>
    }
  `,
  styles: `
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 34px;
    }
    nock-quantity-field {
      width: 64px;
    }
    .fault {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RoutePolicy {
  private readonly api = inject(Api);
  private readonly again = new Subject<void>();
  private readonly session = inject(Session);
  protected readonly mayPlan = this.session.mayPlan;
  private readonly currency = this.session.currency;
  protected readonly names = POLICY_CHOICES;
  protected readonly weights = WEIGHTS;
  protected readonly policy = signal<RoutePolicyView | null>(null);
  protected readonly changed = signal(false);
  protected readonly fault = signal('');

  constructor() {
    inject(Live)
      .kept(
        () => this.api.call(shortageRoutes.readPolicy).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic === 'customer:all',
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe((policy) => {
        // What is being typed is not swept away.
        if (!this.changed()) this.policy.set(policy);
      });
  }

  protected nameOf(name: PolicyName): string {
    return POLICY_CHOICES.find(([known]) => known === name)![1];
  }

  /** What a shipment weighs is money; the others are shares. */
  protected labelOf([weight, words]: (typeof WEIGHTS)[number]): string {
    return weight === 'shipmentCost' ? `${words}, ${this.currency()}` : words;
  }

  protected choose(name: PolicyName): void {
    this.policy.update((view) => view && { ...view, name });
    this.changed.set(true);
  }

  protected weigh(weight: Weight, figure: string): void {
    this.policy.update((view) => view && { ...view, weights: { ...view.weights, [view.name]: { ...view.weights[view.name], [weight]: figure } } });
    this.changed.set(true);
  }

  protected store(): void {
    const policy = this.policy();
    if (!policy) return;
    const wrong = WEIGHTS.find(([weight]) => !FIGURE.test(policy.weights[policy.name][weight]));
    if (wrong) return this.fault.set(`${wrong[1]}: expected a number with at most two decimals.`);
    this.fault.set('');
    this.api.call(shortageRoutes.setPolicy, { body: policy }).subscribe({
      next: (stored) => {
        this.changed.set(false);
        this.policy.set(stored);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
