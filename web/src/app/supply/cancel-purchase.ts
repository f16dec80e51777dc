import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { ListChoice, type Choice } from '../paper';
import { Preview, RippleForm, type Settled } from '../ripple';
import { PurchaseStore } from './purchase-store';

const WHO: readonly Choice<'us' | 'supplier'>[] = [
  ['us', 'by us'],
  ['supplier', 'by the supplier'],
];

/** Cancels what is open of a purchase order: whose promises it takes goods from stands there before it is done. */
@Component({
  selector: 'nock-cancel-purchase',
  imports: [ListChoice, RippleForm],
  template: `
    <nock-ripple-form
      heading="Cancel what is open"
      does="Cancel purchase order"
      only="Cancel only: backorders with calls"
      [preview]="preview"
      [version]="store.purchase()?.version"
      [busy]="store.busy()"
      [(accepted)]="accepted"
      (settled)="cancel($event)"
      (left)="closed.emit()"
    >
      <nock-list-choice what="Who cancels" [choices]="who" [chosen]="by()" (choose)="by.set($any($event ?? 'us'))" />
    </nock-ripple-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CancelPurchase {
  protected readonly store = inject(PurchaseStore);
  readonly closed = output<void>();
  protected readonly who = WHO;
  protected readonly by = signal<'us' | 'supplier'>('us');
  protected readonly accepted = signal<readonly number[]>([]);
  private readonly wish = computed(() => ({ accepted: this.accepted(), version: this.store.purchase()?.version }));
  protected readonly preview = new Preview(this.wish, ({ accepted }) => this.store.previewCancel(accepted));

  protected cancel({ reason, decision, then }: Settled): void {
    if (reason === '') return this.preview.fault.set('Why? The history keeps it.');
    this.store.cancel(this.by(), reason, decision, () => {
      this.closed.emit();
      then();
    });
  }
}
