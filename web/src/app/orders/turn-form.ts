import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect, MatSelectTrigger } from '@angular/material/select';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { shortDays } from '@nockwright/core/calendar';
import { catchError, of, switchMap } from 'rxjs';
import { Session } from '../access';
import { GlossForm, TextField, typedOver } from '../paper';
import { decisionOf, Preview, Ripple } from '../ripple';
import { OrderStanding } from './order-standing';
import { OrderLines } from './order-lines';
import { OrderStore } from './order-store';

const CLASSES = [1, 2, 3, 4, 5, 6, 7, 8, 9] as const;

/** Another turn for an order: another class, or a place ahead of a named order. Who is hurt is seen before it is done. */
@Component({
  selector: 'nock-turn-form',
  imports: [GlossForm, TextField, MatFormField, MatSelect, MatSelectTrigger, MatOption, Ripple],
  template: `
    <nock-gloss-form
      heading="Move order {{ order().number }} up"
      act="{{ act() }}"
      [ready]="preview.shown() !== null && !store.busy()"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      <span class="label" id="ahead-label">Ahead of, in the queue for {{ line()?.item ?? 'its items' }}</span>
      <mat-form-field>
        <mat-select aria-labelledby="ahead-label" [value]="ahead()" (selectionChange)="choose($event.value, null)" panelWidth="340">
          <mat-select-trigger>{{ chosen() }}</mat-select-trigger>
          <mat-option [value]="null">no other order</mat-option>
          @for (row of queue(); track row.line) {
            <mat-option [value]="row.order">
              <b>{{ row.number }} {{ row.customer }}</b>
              <div class="quiet small">class {{ row.priority }}, {{ row.words }}</div>
            </mat-option>
          }
        </mat-select>
      </mat-form-field>
      <span class="label" id="class-label">Priority, 1 is highest (now {{ order().priority }}{{ order().placed ? ', placed by hand' : '' }})</span>
      <mat-form-field>
        <mat-select aria-labelledby="class-label" [value]="priority()" (selectionChange)="choose(null, $event.value)">
          @for (choice of classes; track choice) {
            <mat-option [value]="choice">{{ choice }}{{ choice === order().priority ? ', as it is' : '' }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <nock-text-field fieldId="turn-reason" [most]="300" [(text)]="reason">Why (for the history)</nock-text-field>
      @if (preview.shown(); as effect) {
        <nock-ripple [ripple]="effect" [(accepted)]="accepted" />
        @if (effect.earlier.length === 0) {
          <p class="quiet">No promise of it moves earlier: nobody behind it has goods for it.</p>
        }
      } @else {
        <p class="quiet">Choose an order to stand ahead of, or another priority: whose promises move stands on the sheet before anything is done.</p>
      }
      <p class="open" role="alert">{{ preview.fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TurnForm {
  protected readonly store = inject(OrderStore);
  private readonly lines = inject(OrderLines);
  private readonly standing = inject(OrderStanding);
  private readonly session = inject(Session);
  readonly order = input.required<OrderView>();
  /** The line whose item's queue is shown. */
  readonly line = input<LineView | null>(null);
  readonly closed = output<void>();

  protected readonly classes = CLASSES;
  protected readonly ahead = signal<number | null>(null);
  protected readonly priority = typedOver(() => this.order().priority);
  protected readonly reason = signal('');
  protected readonly accepted = signal<readonly number[]>([]);

  private readonly queued = toSignal(
    toObservable(this.line).pipe(switchMap((line) => (line ? this.lines.queueOf(line).pipe(catchError(() => of([]))) : of([])))),
    { initialValue: [] },
  );
  /** The others in the queue, in their turn, each once. */
  protected readonly queue = computed(() => {
    const seen = new Set([this.order().id]);
    return this.queued().flatMap((row) => {
      if (seen.has(row.order)) return [];
      seen.add(row.order);
      const days = shortDays(
        row.promised.map((part) => part.day),
        this.session.today(),
      );
      return [{ ...row, words: `${row.quantity} ${days ? `leaving ${days}` : 'waiting'}${row.daysLate ? `, ${row.daysLate} days late` : ''}` }];
    });
  });
  /** The order it is to stand ahead of, in the closed field. */
  protected readonly chosen = computed(() => {
    const row = this.queue().find(({ order }) => order === this.ahead());
    return row ? `${row.number} ${row.customer}` : '';
  });
  private readonly wish = computed(() => {
    const ahead = this.ahead();
    if (ahead !== null) return { ahead };
    return this.priority() === this.order().priority ? null : { priority: this.priority() };
  });
  private readonly asked = computed(() => {
    const wish = this.wish();
    return wish && { order: this.order(), query: { ...wish, accept: this.accepted().join(',') } };
  });
  protected readonly preview = new Preview(this.asked, ({ query }) => this.standing.previewTurn(query));
  protected readonly act = computed(() => {
    const ripple = this.preview.shown();
    const moves = ripple ? ripple.later.length + ripple.earlier.length : 0;
    return moves === 0 ? 'Change priority' : `Move ${moves} ${moves === 1 ? 'promise' : 'promises'}`;
  });

  protected choose(ahead: number | null, priority: number | null): void {
    this.ahead.set(ahead);
    this.priority.set(priority ?? this.order().priority);
    this.accepted.set([]);
  }

  protected confirm(): void {
    const wish = this.wish();
    if (!wish) return this.preview.fault.set('Choose an order to stand ahead of, or another priority.');
    this.preview.once((ripple) =>
      this.standing.rank({ ...wish, reason: this.reason().trim(), decision: decisionOf(ripple, this.accepted()) }, () => this.closed.emit()),
    );
  }
}
