import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, input, model, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import type { Decision } from '@nockwright/contract/promise';
import type { SupplyRipple } from '@nockwright/contract/supply';
import { DayPipe, Keys, TextField } from '../paper';
import { MarginMoves } from './margin-moves';
import { Ripple } from './ripple';
import { decisionOf } from './ripple-words';

/** How a change of supply was decided. */
export interface Settled {
  readonly reason: string;
  /** The promises it reaches move as was seen; where absent, they are left to those who save them. */
  readonly decision?: Decision;
  /** To be called when it is done: leads on to what is to be done next. */
  readonly then: () => void;
}

/**
 * A change of supply in the gloss: its fields, why, and whom it hurts before it is done. Then it is done with all that moves
 * (Ctrl+Enter), done with whom it hurts looked at on the board, line by line, each with every way that saves it (Ctrl+B), or
 * only recorded.
 */
@Component({
  selector: 'nock-ripple-form',
  imports: [A11yModule, MatButton, DayPipe, TextField, MarginMoves, Ripple],
  template: `
    <form class="gloss-form" novalidate cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault(); settle()">
      <h2>{{ heading() }}</h2>
      <ng-content />
      <nock-text-field fieldId="why" [most]="300" [(text)]="reason">{{ asks() }}</nock-text-field>
      @if (effect(); as effect) {
        @if (effect.availableDay; as day) {
          <p>
            Its goods could leave again <b>{{ day | day }}</b>.
          </p>
        }
        <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
        @if (effect.margins; as moves) {
          <nock-margin-moves [moves]="moves" />
        }
      }
      <div class="acts">
        <button mat-flat-button type="submit" [disabled]="busy()">{{ act() }} <kbd>Ctrl Enter</kbd></button>
        @if (hurt() !== '') {
          <button mat-stroked-button type="button" (click)="rescue()" [disabled]="busy()">{{ does() }} and route what it hurts <kbd>Ctrl B</kbd></button>
          <button mat-button type="button" (click)="record()" [disabled]="busy()">{{ only() }}</button>
        }
        <button mat-button type="button" (click)="left.emit()">Leave it <kbd>Esc</kbd></button>
      </div>
      @if (hurt() !== '') {
        <p class="small">
          Moved: a later day and a call for each. Not moved: what is late stands as told, at risk; what is lost waits, with a call. The board has every way that
          saves each.
        </p>
      }
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RippleForm {
  private readonly router = inject(Router);
  readonly heading = input.required<string>();
  /** What doing it is called: `Record it`. */
  readonly does = input.required<string>();
  /** What doing it is called where no promise is moved: `Only record it: promises at risk`. */
  readonly only = input.required<string>();
  readonly asks = input('Why');
  /** Null while it is not known. */
  readonly effect = input.required<SupplyRipple | null>();
  readonly busy = input(false);
  readonly reason = model('');
  readonly accepted = model<readonly number[]>([]);
  readonly settled = output<Settled>();
  readonly left = output<void>();

  /** The lines it hurts, as the board is asked for them; empty: nobody. */
  protected readonly hurt = computed(() => [...new Set((this.effect()?.ripple.later ?? []).map((row) => row.line))].join(','));
  protected readonly act = computed(() => {
    const ripple = this.effect()?.ripple;
    const moves = ripple ? ripple.later.length + ripple.earlier.length : 0;
    return moves > 0 ? `${this.does()}, move ${moves} ${moves === 1 ? 'promise' : 'promises'}` : this.does();
  });

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'do the change', run: () => this.settle() },
      { key: 'Ctrl+B', does: 'do it and route what it hurts', run: () => this.rescue() },
      { key: 'Escape', does: 'leave it as it is', run: () => this.left.emit() },
    ]);
  }

  protected settle(): void {
    const ripple = this.effect()?.ripple;
    this.emit(() => undefined, ripple ? decisionOf(ripple, this.accepted()) : undefined);
  }

  protected rescue(): boolean {
    const lines = this.hurt();
    if (lines === '') return false;
    this.emit(() => void this.router.navigate(['/shortages'], { queryParams: { lines } }));
    return true;
  }

  protected record(): void {
    this.emit(() => undefined);
  }

  private emit(then: () => void, decision?: Decision): void {
    if (this.busy()) return;
    this.settled.emit({ reason: this.reason().trim(), then, ...(decision ? { decision } : {}) });
  }
}
