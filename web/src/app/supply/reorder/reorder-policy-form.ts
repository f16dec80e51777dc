import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { supplyRoutes, type ReorderPolicy } from '@nockwright/contract/supply';
import { Session } from '../../access';
import { Api } from '../../api';
import { ListChoice, TextField, type Choice, isWhole } from '../../paper';

const LEVELS: readonly Choice<ReorderPolicy['level']>[] = (['80', '85', '90', '95', '97.5', '98', '99', '99.5'] as const).map(
  (level): Choice<ReorderPolicy['level']> => [level, `${level} %`],
);

/** How it is computed when to buy and how much: seen by all, set by the manager. */
@Component({
  selector: 'nock-reorder-policy-form',
  imports: [MatButton, ListChoice, TextField],
  template: `
    @if (policy(); as view) {
      <h3>How it is computed</h3>
      @if (mayPlan()) {
        <span class="small quiet">No shortage until more comes, in</span>
        <nock-list-choice what="Service level" [choices]="levels" [chosen]="view.level" (choose)="set({ level: $any($event ?? '80') })" />
        <nock-text-field fieldId="order-cost" [figure]="true" [text]="view.orderCost" (textChange)="set({ orderCost: $event.trim() })"
          >What an order costs us, {{ currency() }}</nock-text-field
        >
        <nock-text-field fieldId="holding" [figure]="true" [text]="view.holdingPercent" (textChange)="set({ holdingPercent: $event.trim() })"
          >Holding a year, % of the value</nock-text-field
        >
        <nock-text-field fieldId="demand-days" [figure]="true" [text]="days()" (textChange)="days.set($event)">Days looked back on</nock-text-field>
        <button mat-stroked-button type="button" (click)="store()">Save</button>
      } @else {
        <p class="quiet small">
          No shortage in {{ view.level }} % of the times until more comes; orders of the last {{ view.demandDays }} days. An order costs {{ view.orderCost }}
          {{ currency() }}, holding {{ view.holdingPercent }} % a year.
        </p>
      }
    }
    <p class="quiet" role="status">{{ said() }}</p>
  `,
  styles: `
    button {
      margin-top: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReorderPolicyForm {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly mayPlan = this.session.mayPlan;
  protected readonly currency = this.session.currency;
  readonly changed = output<void>();
  protected readonly levels = LEVELS;
  protected readonly policy = signal<ReorderPolicy | null>(null);
  protected readonly days = signal('');
  protected readonly said = signal('');

  constructor() {
    this.api.call(supplyRoutes.readReorderPolicy).subscribe({ next: (policy) => this.show(policy), error: (error: Error) => this.said.set(error.message) });
  }

  protected set(change: Partial<ReorderPolicy>): void {
    this.policy.update((policy) => policy && { ...policy, ...change });
  }

  protected store(): void {
    const policy = this.policy();
    if (!policy) return;
    if (!isWhole(this.days(), 999)) return this.said.set('Days looked back on: expected a whole number.');
    this.api.call(supplyRoutes.setReorderPolicy, { body: { ...policy, demandDays: Number(this.days()) } }).subscribe({
      next: (stored) => {
        this.show(stored);
        this.said.set('Saved.');
        this.changed.emit();
      },
      error: (error: Error) => this.said.set(error.message),
    });
  }

  private show(policy: ReorderPolicy): void {
    this.policy.set(policy);
    this.days.set(String(policy.demandDays));
  }
}
