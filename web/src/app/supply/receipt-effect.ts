import { ChangeDetectionStrategy, Component, computed, input, model } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import type { SupplyRipple } from '@nockwright/contract/supply';
import { compareDecimal, minus } from '@nockwright/core/money';
import { Ripple, type Preview } from '../ripple';

/** What came of a line, and what was awaited of it. */
export interface Came {
  readonly line: number;
  readonly item: string;
  readonly quantity: string;
  readonly open: string;
  /** Came unfit, and is awaited no more. */
  readonly damaged?: string;
}

/** What came is more or less than was awaited: whether the rest is still awaited, and whose promises move by it. */
@Component({
  selector: 'nock-receipt-effect',
  imports: [MatCheckbox, Ripple],
  template: `
    <h2>Not as expected</h2>
    @for (words of differences(); track $index) {
      <p>{{ words }}</p>
    }
    @if (short()) {
      <mat-checkbox [checked]="closeRest()" (change)="closeRest.set($event.checked)">close the remainder</mat-checkbox>
    }
    @if (preview().shown(); as effect) {
      <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" [attr.aria-busy]="preview().reckoning()" />
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
  readonly preview = input.required<Preview<unknown, SupplyRipple>>();
  readonly closeRest = model(false);
  readonly accepted = model<readonly number[]>([]);

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
}

/** What of a line has not come; below 0 where more has. */
function missingOf({ quantity, open, damaged = '0' }: Came): string {
  return minus(minus(open, quantity), damaged);
}

/** The same of each line came: what else is typed of it, its lot or bin, moves nobody. */
export function sameCame(one: readonly Came[], other: readonly Came[]): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
