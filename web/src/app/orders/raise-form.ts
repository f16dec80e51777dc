import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { catchError, combineLatest, debounceTime, of, switchMap } from 'rxjs';
import { AmountPipe, DayPipe, GlossForm, UnitPipe } from '../paper';
import { decisionOf, Ripple } from '../ripple';
import { OrderStore } from './order-store';

const QUANTITY = /^\d{1,9}(\.\d{1,4})?$/;

/** More of a released line: the days it would leave on, and whom it would move where it claims its turn. */
@Component({
  selector: 'nock-raise-form',
  imports: [GlossForm, MatCheckbox, MatFormField, MatInput, AmountPipe, DayPipe, UnitPipe, Ripple],
  template: `
    <nock-gloss-form
      heading="More of line {{ line().lineNo }}: {{ line().item }}"
      act="Raise it"
      [ready]="!(!preview() || store.busy())"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      <label for="raise-quantity">Instead of {{ line().quantity | amount }} {{ line().unit | unit: line().quantity }}</label>
      <mat-form-field
        ><input
          matInput
          #quantity
          id="raise-quantity"
          class="figure"
          inputmode="decimal"
          [value]="wanted()"
          (input)="wanted.set(quantity.value.trim())"
          autocomplete="off"
      /></mat-form-field>
      <mat-checkbox [checked]="claim()" (change)="claim.set($event.checked)">take its turn: also what those behind it were promised</mat-checkbox>
      @if (preview(); as effect) {
        <h3>The whole line would leave</h3>
        @for (part of effect.schedule; track part.day) {
          <p>
            <b>{{ part.quantity | amount }}</b> on {{ part.day | day }}
          </p>
        }
        @if (effect.uncovered !== '0') {
          <p class="open">{{ effect.uncovered | amount }} have no cover and will wait: choose a way for them on the line.</p>
        }
        <nock-ripple [ripple]="effect.ripple" />
      }
    </nock-gloss-form>
  `,
  styles: `
    p {
      margin: 4px 0;
    }
    .open {
      color: var(--open);
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
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  readonly closed = output<void>();

  protected readonly wanted = signal('');
  protected readonly claim = signal(false);
  private readonly wish = computed(() => (QUANTITY.test(this.wanted()) ? this.wanted() : null));
  protected readonly preview = toSignal(
    combineLatest([toObservable(this.order), toObservable(this.line), toObservable(this.wish), toObservable(this.claim)]).pipe(
      debounceTime(80),
      switchMap(([, line, wish, claim]) => {
        this.store.fault.set('');
        return wish === null
          ? of(null)
          : this.store.previewRaise(line, wish, claim).pipe(catchError((error: Error) => (this.store.fault.set(error.message), of(null))));
      }),
    ),
    { initialValue: null },
  );

  protected confirm(): void {
    const [wish, effect] = [this.wish(), this.preview()];
    if (wish === null || !effect) return this.store.fault.set('How many shall it be? Type the whole quantity.');
    this.store.raise(this.line(), { quantity: wish, claim: this.claim(), decision: decisionOf(effect.ripple, []) }, () => this.closed.emit());
  }
}
