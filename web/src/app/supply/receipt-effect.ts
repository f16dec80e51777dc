import { ChangeDetectionStrategy, Component, computed, effect, input, model, output, type WritableSignal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import type { RippleView } from '@nockwright/contract/promise';
import type { SupplyRipple } from '@nockwright/contract/supply';
import { compareDecimal, minus } from '@nockwright/core/money';
import type { Observable } from 'rxjs';
import { previewOf, Ripple } from '../ripple';

/** What came of a line, and what was awaited of it. */
export interface Came {
  readonly line: number;
  readonly item: string;
  readonly quantity: string;
  readonly open: string;
  /** Came unfit, and is awaited no more. */
  readonly damaged?: string;
}

/** Asks what a receipt does: of these lines, with the rest still awaited or not, with these offers taken. */
export type AskReceipt = (lines: readonly Came[], closeRest: boolean, accepted: readonly number[]) => Observable<SupplyRipple>;

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
  readonly lines = input.required<readonly Came[]>();
  readonly ask = input.required<AskReceipt>();
  readonly fault = input.required<WritableSignal<string>>();
  readonly closeRest = model(false);
  readonly accepted = model<readonly number[]>([]);
  /** The ripple that is shown; null while there is none. */
  readonly seen = output<RippleView | null>();

  private readonly wish = computed(() => (this.lines().length === 0 ? null : { lines: this.lines(), closeRest: this.closeRest(), accepted: this.accepted() }));
  private readonly preview = previewOf(this.wish, ({ lines, closeRest, accepted }) => this.ask()(lines, closeRest, accepted), {
    set: (words) => this.fault().set(words),
  });
  protected readonly ripple = computed(() => this.preview()?.ripple ?? null);
  protected readonly differences = computed(() =>
    this.lines().flatMap((line) => {
      const { item, quantity, open, damaged = '0' } = line;
      const missing = missingOf(line);
      const words = [
        ...(compareDecimal(damaged, '0') > 0 ? [`${damaged} damaged`] : []),
        ...(compareDecimal(missing, '0') > 0 ? [`${missing} short`] : []),
        ...(compareDecimal(missing, '0') < 0 ? [`${minus('0', missing)} over`] : []),
      ];
      return words.length === 0 ? [] : [`${item}: ${quantity} of ${open}, ${words.join(', ')}`];
    }),
  );
  protected readonly short = computed(() => this.lines().some((line) => compareDecimal(missingOf(line), '0') > 0));

  constructor() {
    effect(() => this.seen.emit(this.ripple()));
  }
}

/** What of a line has not come; below 0 where more has. */
function missingOf({ quantity, open, damaged = '0' }: Came): string {
  return minus(minus(open, quantity), damaged);
}
