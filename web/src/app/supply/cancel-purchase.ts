import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { GlossForm, Keys, ListChoice, TextField, type Choice } from '../paper';
import { decisionOf, previewOf, Ripple } from '../ripple';
import { PurchaseStore } from './purchase-store';

const WHO: readonly Choice<'us' | 'supplier'>[] = [
  ['us', 'by us'],
  ['supplier', 'by the supplier'],
];

/** Cancels what is open of a purchase order: whose promises it takes goods from stands there before it is done. */
@Component({
  selector: 'nock-cancel-purchase',
  imports: [MatButton, GlossForm, ListChoice, TextField, Ripple],
  template: `
    <nock-gloss-form heading="Cancel what is open" [act]="act()" [ready]="!store.busy()" (done)="cancel()" (left)="closed.emit()">
      <nock-list-choice what="Who cancels" [choices]="who" [chosen]="by()" (choose)="by.set($any($event ?? 'us'))" />
      <nock-text-field fieldId="cancel-why" [most]="300" [(text)]="reason">Why</nock-text-field>
      @if (effect(); as effect) {
        <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
        @if (effect.ripple.later.length > 0) {
          <button mat-stroked-button type="button" class="rescue" (click)="rescue()" [disabled]="store.busy()">
            Cancel it and route what it hurts <kbd>Ctrl B</kbd>
          </button>
        }
      }
    </nock-gloss-form>
  `,
  styles: `
    .rescue {
      margin-top: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CancelPurchase {
  protected readonly store = inject(PurchaseStore);
  private readonly router = inject(Router);
  readonly closed = output<void>();
  protected readonly who = WHO;
  protected readonly by = signal<'us' | 'supplier'>('us');
  protected readonly reason = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  private readonly wish = computed(() => ({ accepted: this.accepted(), version: this.store.purchase()?.version }));
  protected readonly effect = previewOf(this.wish, ({ accepted }) => this.store.previewCancel(accepted), this.store.fault);
  protected readonly act = computed(() => {
    const ripple = this.effect()?.ripple;
    const moves = ripple ? ripple.later.length + ripple.earlier.length : 0;
    return moves > 0 ? `Cancel it, move ${moves} ${moves === 1 ? 'promise' : 'promises'}` : 'Cancel it';
  });

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+B', does: 'cancel it and route what it hurts', run: () => this.rescue() }]);
  }

  /** What loses its goods waits again, and is looked at line by line on the board, each with every way that serves it. */
  protected rescue(): boolean {
    const lines = [...new Set((this.effect()?.ripple.later ?? []).map((row) => row.line))].join(',');
    const reason = this.reason().trim();
    if (lines === '') return false;
    if (reason === '') this.store.fault.set('Why? The history keeps it.');
    else
      this.store.cancel(this.by(), reason, undefined, () => {
        this.closed.emit();
        void this.router.navigate(['/shortages'], { queryParams: { lines } });
      });
    return true;
  }

  protected cancel(): void {
    const reason = this.reason().trim();
    const effect = this.effect();
    if (reason === '') return this.store.fault.set('Why? The history keeps it.');
    if (!effect) return this.store.fault.set('Whom it moves is not known yet: one moment.');
    this.store.cancel(this.by(), reason, decisionOf(effect.ripple, this.accepted()), () => this.closed.emit());
  }
}
