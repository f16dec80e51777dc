import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { itemRoutes, type PoolView } from '@nockwright/contract/items';
import { catchError, combineLatest, debounceTime, of, switchMap } from 'rxjs';
import { Api } from '../api';
import { AmountPipe, GlossForm } from '../paper';
import { decisionOf, Ripple } from '../ripple';

const QUANTITY = /^\d{1,9}(\.\d{1,4})?$/;

/** What was counted instead of what the books say: whose promises move by it, then done or left. */
@Component({
  selector: 'nock-count-form',
  imports: [GlossForm, MatFormField, MatInput, AmountPipe, Ripple],
  template: `
    <nock-gloss-form
      heading="Count of {{ item() }} at {{ pool().name }}"
      act="Correct the count"
      [ready]="!(!ripple() || busy())"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      <label for="counted">Counted (the books say {{ pool().onHand | amount }})</label>
      <mat-form-field
        ><input
          matInput
          #amount
          id="counted"
          class="figure"
          inputmode="decimal"
          [value]="counted()"
          (input)="counted.set(amount.value.trim())"
          autocomplete="off"
      /></mat-form-field>
      <label for="count-reason">Why it differs</label>
      <mat-form-field
        ><input matInput #why id="count-reason" [value]="reason()" (input)="reason.set(why.value)" maxlength="200" autocomplete="off"
      /></mat-form-field>
      <p class="open" role="alert">{{ fault() }}</p>
      @if (ripple(); as view) {
        <nock-ripple [ripple]="view" [(accepted)]="accepted" />
      }
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CountForm {
  private readonly api = inject(Api);
  readonly item = input.required<string>();
  readonly pool = input.required<PoolView>();
  readonly closed = output<void>();

  protected readonly counted = signal('');
  protected readonly reason = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private readonly wish = computed(() => (QUANTITY.test(this.counted()) && Number(this.counted()) !== Number(this.pool().onHand) ? this.counted() : null));
  protected readonly ripple = toSignal(
    combineLatest([toObservable(this.pool), toObservable(this.wish), toObservable(this.accepted)]).pipe(
      debounceTime(80),
      switchMap(([{ warehouse }, counted, accepted]) => {
        this.fault.set('');
        if (counted === null) return of(null);
        return this.api
          .call(itemRoutes.previewCount, { params: { item: this.item() }, query: { warehouse, counted, accept: accepted.join(',') } })
          .pipe(catchError((error: Error) => (this.fault.set(error.message), of(null))));
      }),
    ),
    { initialValue: null },
  );

  protected confirm(): void {
    const [counted, ripple] = [this.wish(), this.ripple()];
    const reason = this.reason().trim();
    if (counted === null || !ripple) return this.fault.set('Type what was counted, where it is not what the books say.');
    if (reason === '') return this.fault.set('Say why it differs.');
    if (this.busy()) return;
    this.busy.set(true);
    this.api
      .call(itemRoutes.countStock, {
        params: { item: this.item() },
        body: { warehouse: this.pool().warehouse, counted, reason, decision: decisionOf(ripple, this.accepted()) },
      })
      .subscribe({
        next: () => this.closed.emit(),
        error: (error: Error) => {
          this.busy.set(false);
          this.fault.set(error.message);
        },
      });
  }
}
