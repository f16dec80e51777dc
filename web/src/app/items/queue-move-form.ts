import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, output, signal, untracked } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import type { QueueRow } from '@nockwright/contract/items';
import { orderRoutes } from '@nockwright/contract/orders';
import type { Decision } from '@nockwright/contract/promise';
import { Api } from '../api';
import { GlossForm, TextField } from '../paper';
import { decisionOf, Preview, Ripple } from '../ripple';
import type { QueueMove } from './queue-table';

/** An order placed ahead of another in the queue for an item: who is hurt first, then done or left. */
@Component({
  selector: 'nock-queue-move-form',
  imports: [GlossForm, MatFormField, MatSelect, MatOption, Ripple, TextField],
  template: `
    <nock-gloss-form
      heading="Order {{ move().row.number }}, {{ move().row.customer }}"
      act="Move order"
      [ready]="preview.shown() !== null && !busy()"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      <span class="label" id="move-label">Ahead of</span>
      <mat-form-field>
        <mat-select aria-labelledby="move-label" [value]="ahead()" (selectionChange)="choose($event.value)">
          @for (row of others(); track row.line) {
            <mat-option [value]="row.order">{{ row.number }} {{ row.customer }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <nock-text-field fieldId="move-reason" [most]="300" [(text)]="reason">Why (for the history)</nock-text-field>
      <p class="open" role="alert">{{ fault() || preview.fault() }}</p>
      @if (preview.shown(); as view) {
        <nock-ripple [ripple]="view" [(accepted)]="accepted" />
      }
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QueueMoveForm {
  private readonly api = inject(Api);
  readonly move = input.required<QueueMove>();
  readonly queue = input.required<readonly QueueRow[]>();
  readonly closed = output<void>();

  protected readonly ahead = linkedSignal(() => this.move().ahead.order);
  protected readonly reason = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  /** Those that stand before it, each order once. */
  protected readonly others = computed(() => {
    const seen = new Set([this.move().row.order]);
    return this.queue().filter((row) => !seen.has(row.order) && seen.add(row.order));
  });
  /** Asked again, too, when the queue has changed. */
  private readonly wish = computed(() => ({ queue: this.queue(), order: this.move().row.order, ahead: this.ahead(), accept: this.accepted().join(',') }));
  protected readonly preview = new Preview(this.wish, ({ order, ahead, accept }) =>
    this.api.call(orderRoutes.previewTurn, { params: { order }, query: { ahead, accept } }),
  );

  constructor() {
    effect(() => {
      this.move();
      untracked(() => {
        this.accepted.set([]);
        this.fault.set('');
      });
    });
  }

  protected choose(order: number): void {
    this.ahead.set(order);
    this.accepted.set([]);
  }

  protected confirm(): void {
    if (this.busy()) return;
    this.fault.set('');
    this.preview.once((ripple) => this.send(decisionOf(ripple, this.accepted())));
  }

  private send(decision: Decision): void {
    const { row } = this.move();
    // The queue is read anew with every change: its row knows the order's version.
    const version = this.queue().find((other) => other.line === row.line)?.version ?? row.version;
    this.busy.set(true);
    this.api
      .call(orderRoutes.rankOrder, { params: { order: row.order }, body: { version, ahead: this.ahead(), reason: this.reason().trim(), decision } })
      .subscribe({
        next: () => this.closed.emit(),
        error: (error: Error) => {
          this.busy.set(false);
          this.fault.set(error.message);
        },
      });
  }
}
