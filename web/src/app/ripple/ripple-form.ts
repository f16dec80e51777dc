import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, input, model, output, signal, type OnInit } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import type { Decision } from '@nockwright/contract/promise';
import type { SupplyRipple } from '@nockwright/contract/supply';
import { DayPipe, Keys, TextField } from '../paper';
import { MarginMoves } from './margin-moves';
import type { Preview } from './preview';
import { Ripple } from './ripple';
import { decisionOf, linesHurt } from './ripple-words';

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
      @if (version() !== opened()) {
        <p class="elsewhere" role="status">Changed elsewhere meanwhile. What you typed stays; the rest, and whose promises move, is as it is now.</p>
      }
      <nock-text-field fieldId="why" [most]="300" [(text)]="reason">{{ asks() }}</nock-text-field>
      @if (preview().shown(); as effect) {
        <div [attr.aria-busy]="preview().reckoning()">
          @if (effect.availableDay; as day) {
            <p>
              Its goods would be available from <b>{{ day | day }}</b>.
            </p>
          }
          <nock-ripple [ripple]="effect.ripple" [(accepted)]="accepted" />
          @if (effect.margins; as moves) {
            <nock-margin-moves [moves]="moves" />
          }
        </div>
      }
      <p class="open" role="alert">{{ preview().fault() }}</p>
      <div class="acts">
        <button mat-flat-button type="submit" [disabled]="busy()">{{ act() }} <kbd>Ctrl Enter</kbd></button>
        @if (hurt() !== '') {
          <button mat-stroked-button type="button" (click)="rescue()" [disabled]="busy()">{{ does() }} and route the shortages <kbd>Ctrl B</kbd></button>
          <button mat-button type="button" (click)="record()" [disabled]="busy()">{{ only() }}</button>
        }
        <button mat-button type="button" (click)="left.emit()">Back <kbd>Esc</kbd></button>
      </div>
      @if (hurt() !== '') {
        <p class="small">
          Moved: each gets its later day and a call. Not moved: what is late stays promised, at risk; what is lost becomes a backorder, with a call. The board
          of shortages has every option for each.
        </p>
      }
    </form>
  `,
  styles: `
    .elsewhere {
      color: var(--late);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RippleForm implements OnInit {
  private readonly router = inject(Router);
  readonly heading = input.required<string>();
  /** What doing it is called: `Save`. */
  readonly does = input.required<string>();
  /** What doing it is called where no promise is moved: `Save only: promises at risk`. */
  readonly only = input.required<string>();
  readonly asks = input('Why');
  readonly preview = input.required<Preview<unknown, SupplyRipple>>();
  /** Of the paper that is changed. */
  readonly version = input<number>();
  readonly busy = input(false);
  readonly reason = model('');
  readonly accepted = model<readonly number[]>([]);
  readonly settled = output<Settled>();
  readonly left = output<void>();

  /** The version the form was opened on. */
  protected readonly opened = signal<number | undefined>(undefined);
  /** The lines it hurts, as the board is asked for them; empty: nobody. */
  protected readonly hurt = computed(() => linesHurt(this.preview().shown()));
  protected readonly act = computed(() => {
    const ripple = this.preview().shown()?.ripple;
    const moves = ripple ? ripple.later.length + ripple.earlier.length : 0;
    return moves > 0 ? `${this.does()}, move ${moves} ${moves === 1 ? 'promise' : 'promises'}` : this.does();
  });

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'do the change', run: () => this.settle() },
      { key: 'Ctrl+B', does: 'do it and route the shortages', run: () => this.rescue() },
      { key: 'Escape', does: 'leave it as it is', run: () => this.left.emit() },
    ]);
  }

  ngOnInit(): void {
    this.opened.set(this.version());
  }

  /** Where nothing is asked for yet it is for the one who is told to say what is missing. */
  protected settle(): void {
    if (!this.preview().asks()) return this.emit(() => undefined);
    this.preview().once(({ ripple }) => this.emit(() => undefined, decisionOf(ripple, this.accepted())));
  }

  protected rescue(): boolean {
    if (this.hurt() === '') return false;
    this.preview().onceHurt((lines) => this.emit(() => void this.router.navigate(['/shortages'], { queryParams: { lines } })));
    return true;
  }

  protected record(): void {
    this.preview().once(() => this.emit(() => undefined));
  }

  private emit(then: () => void, decision?: Decision): void {
    if (this.busy()) return;
    this.settled.emit({ reason: this.reason().trim(), then, ...(decision ? { decision } : {}) });
  }
}
