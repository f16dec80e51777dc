import { ChangeDetectionStrategy, Component, computed, effect, inject, input, model, output } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import type { RippleView } from '@nockwright/contract/promise';
import type { PurchaseView } from '@nockwright/contract/supply';
import { previewOf, Ripple } from '../ripple';
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

  private readonly wish = computed(() => (this.lines().length === 0 ? null : { lines: this.lines(), closeRest: this.closeRest(), accepted: this.accepted() }));
  private readonly preview = previewOf(this.wish, ({ lines, closeRest, accepted }) => this.store.previewReceipt(lines, closeRest, accepted), this.store.fault);
  protected readonly ripple = computed(() => this.preview()?.ripple ?? null);
  protected readonly differences = computed(() =>
    this.lines().flatMap(({ line, quantity }) => {
      const row = this.purchase().lines.find((other) => other.id === line);
      const difference = row ? Number(quantity) - Number(row.open) : 0;
      return row && difference !== 0 ? [`${row.item}: ${quantity} of ${row.open}, ${Math.abs(difference)} ${difference < 0 ? 'short' : 'over'}`] : [];
    }),
  );
  protected readonly short = computed(() => this.differences().some((words) => words.endsWith('short')));

  constructor() {
    effect(() => this.seen.emit(this.ripple()));
  }
}
