import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { MatOption, MatSelect } from '@angular/material/select';
import { CANCEL_REASONS, type LineView, type OrderView } from '@nockwright/contract/orders';
import { catchError, combineLatest, debounceTime, of, switchMap } from 'rxjs';
import { AmountPipe, DayPipe, GlossForm, UnitPipe } from '../paper';
import { decisionOf, Ripple } from '../ripple';
import { OrderStore } from './order-store';

type Reason = (typeof CANCEL_REASONS)[number];

/** Before anything is cancelled: what it frees, what hangs on it and who waits for the goods. Then it is done, or left. */
@Component({
  selector: 'nock-cancel-form',
  imports: [GlossForm, MatFormField, MatInput, MatSelect, MatOption, MatRadioGroup, MatRadioButton, AmountPipe, DayPipe, UnitPipe, Ripple],
  template: `
    <nock-gloss-form
      heading="Cancel {{ line() ? 'line ' + line()!.lineNo + ': ' + line()!.item : 'the whole order' }}"
      act="Cancel it"
      [ready]="!(!preview() || !reason() || store.busy())"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      @if (line(); as view) {
        <label for="cancel-quantity">How many ({{ view.unit | unit: '2' }}); empty: all that is open</label>
        <mat-form-field
          ><input
            matInput
            #quantity
            id="cancel-quantity"
            class="figure"
            inputmode="decimal"
            [value]="wanted()"
            (input)="wanted.set(quantity.value.trim())"
            autocomplete="off"
        /></mat-form-field>
      }
      <span class="label" id="reason-label">Reason</span>
      <mat-form-field>
        <mat-select aria-labelledby="reason-label" [value]="reason()" (selectionChange)="reason.set($event.value)" required>
          @for (choice of reasons; track choice) {
            <mat-option [value]="choice">{{ choice.replaceAll('_', ' ') }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <label for="cancel-note">Note</label>
      <mat-form-field
        ><input matInput #note id="cancel-note" [value]="remark()" (input)="remark.set(note.value)" maxlength="500" autocomplete="off"
      /></mat-form-field>

      @if (preview(); as effect) {
        <h3>What it frees</h3>
        <ul>
          @for (row of effect.lines; track row.line) {
            <li>
              <b>{{ row.quantity | amount }} {{ row.item }}</b>
              @for (freed of row.frees; track freed.day) {
                <div>{{ freed.quantity | amount }} promised {{ freed.day | day }}</div>
              }
            </li>
          }
        </ul>
        @if (effect.bound.length > 0) {
          <h3>What hangs on it</h3>
          <ul>
            @for (row of effect.bound; track $index) {
              <li>
                <b>{{ row.label }}</b>: {{ row.what }}
              </li>
            }
          </ul>
          @if (hasPurchase()) {
            <mat-radio-group aria-label="Purchases bound to it" [value]="purchases()" (change)="purchases.set($event.value)">
              <mat-radio-button value="cancel">close the purchase for it, too</mat-radio-button>
              <mat-radio-button value="keep">keep the purchase, for others</mat-radio-button>
            </mat-radio-group>
          }
        }
        <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
      } @else {
        <p class="open" role="alert">{{ fault() }}</p>
      }
    </nock-gloss-form>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .open {
      color: var(--open);
    }
    mat-radio-button {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CancelForm {
  protected readonly store = inject(OrderStore);
  readonly order = input.required<OrderView>();
  /** The line to cancel, or null for the whole order. */
  readonly line = input<LineView | null>(null);
  readonly closed = output<void>();

  protected readonly reasons = CANCEL_REASONS;
  protected readonly wanted = signal('');
  protected readonly reason = signal<Reason | null>(null);
  protected readonly remark = signal('');
  protected readonly purchases = signal<'cancel' | 'keep'>('cancel');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly fault = signal('');
  protected readonly preview = toSignal(
    combineLatest([
      toObservable(this.order),
      toObservable(this.line),
      toObservable(this.wanted),
      toObservable(this.purchases),
      toObservable(this.accepted),
    ]).pipe(
      debounceTime(80),
      switchMap(([, line, wanted, purchases, accepted]) => {
        this.fault.set('');
        const what = { ...(line ? { line: line.id } : {}), ...(line && wanted ? { quantity: wanted } : {}), purchases, accept: accepted.join(',') };
        return this.store.previewCancellation(what).pipe(catchError((error: Error) => (this.fault.set(error.message), of(null))));
      }),
    ),
    { initialValue: null },
  );
  protected readonly hasPurchase = computed(() => this.preview()?.bound.some((row) => row.kind === 'purchase') ?? false);

  protected confirm(): void {
    const reason = this.reason();
    if (!reason) return this.store.fault.set('Choose a reason for the cancellation.');
    if (!this.preview()) return;
    const line = this.line();
    const note = this.remark().trim();
    this.store.cancel(
      {
        ...(line ? { line: line.id } : {}),
        ...(line && this.wanted() ? { quantity: this.wanted() } : {}),
        reason,
        ...(note ? { note } : {}),
        purchases: this.purchases(),
        decision: decisionOf(this.preview()!.ripple, this.accepted()),
      },
      () => this.closed.emit(),
    );
  }
}
