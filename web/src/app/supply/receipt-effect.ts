import { ChangeDetectionStrategy, Component, computed, inject, input, model, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatCheckbox } from '@angular/material/checkbox';
import type { RippleView } from '@nockwright/contract/promise';
import type { PurchaseView } from '@nockwright/contract/supply';
import { catchError, combineLatest, debounceTime, map, of, switchMap } from 'rxjs';
import { Ripple } from '../ripple';
import { PurchaseStore, type LineQuantity } from './purchase-store';

/** What came is more or less than was awaited: whether the rest is still awaited, and whose promises move by it. */
@Component({
  selector: 'nock-receipt-effect',
  imports: [MatCheckbox, Ripple],
  template: `
    <h2>Not as awaited</h2>
    @for (words of differences(); track words) {
      <p>{{ words }}</p>
    }
    @if (short()) {
      <mat-checkbox [checked]="closeRest()" (change)="closeRest.set($event.checked)">nothing more will come of it</mat-checkbox>
    }
    @if (ripple(); as effect) {
      <nock-ripple [ripple]="effect" [(accepted)]="accepted" />
    }
  `,
  styles: `
    p {
      margin: 6px 0 0;
    }
    mat-checkbox {
      display: block;
      margin-left: -8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReceiptEffect {
  private readonly store = inject(PurchaseStore);
  readonly purchase = input.required<PurchaseView>();
  readonly lines = input.required<readonly LineQuantity[]>();
  readonly closeRest = model(false);
  readonly accepted = model<readonly number[]>([]);
  /** The ripple that is shown; null while there is none. */
  readonly seen = output<RippleView | null>();

  protected readonly ripple = signal<RippleView | null>(null);
  protected readonly differences = computed(() =>
    this.lines().flatMap(({ line, quantity }) => {
      const row = this.purchase().lines.find((other) => other.id === line);
      const difference = row ? Number(quantity) - Number(row.open) : 0;
      return row && difference !== 0 ? [`${row.item}: ${quantity} of ${row.open}, ${Math.abs(difference)} ${difference < 0 ? 'short' : 'over'}`] : [];
    }),
  );
  protected readonly short = computed(() => this.differences().some((words) => words.endsWith('short')));

  constructor() {
    combineLatest([toObservable(this.lines), toObservable(this.closeRest), toObservable(this.accepted)])
      .pipe(
        debounceTime(80),
        switchMap(([lines, closeRest, accepted]) =>
          lines.length === 0
            ? of(null)
            : this.store.previewReceipt(lines, closeRest, accepted).pipe(
                map((effect) => effect.ripple),
                catchError((error: Error) => (this.store.fault.set(error.message), of(null))),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((ripple) => {
        this.ripple.set(ripple);
        this.seen.emit(ripple);
      });
  }
}
