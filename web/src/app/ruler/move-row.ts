import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { IsoDay } from '@nockwright/core/calendar';
import { Session } from '../access';
import type { RulerScale } from './scale';

const LINE = 15;
const HALF = 6;
const DEPTH = 10;
const HEIGHT = 32;

/** A promise that moves, on the ruler: an arrow from its old day to its new one. Without a day before it begins, without one after it ends open. */
@Component({
  selector: 'nock-move-row',
  template: `
    <svg [attr.width]="scale().width" height="32" aria-hidden="true">
      @for (day of days(); track day.day) {
        @if (day.weekend) {
          <rect class="shade" [attr.x]="day.left" y="0" [attr.width]="day.width" height="32" />
        }
      }
      <path class="today" [attr.d]="'M' + scale().x(today()) + ' 0V32'" />
      <path class="base" [attr.d]="'M0 15H' + scale().width" />
      @if (from(); as day) {
        <path class="was" [attr.d]="notch(scale().x(day))" />
      }
      <g [class]="tone()">
        @if (arrow(); as path) {
          <path class="edge" [attr.d]="path" />
        }
        @if (to(); as day) {
          <path class="full" [attr.d]="notch(scale().x(day)) + 'Z'" />
        } @else {
          <path class="edge" [attr.d]="notch(end())" />
        }
      </g>
    </svg>
  `,
  styles: `
    :host,
    svg {
      display: block;
    }
    .shade {
      fill: var(--shade);
    }
    .today {
      stroke: var(--act);
      stroke-dasharray: 2 2.5;
      opacity: 0.7;
    }
    .base {
      stroke: var(--rule);
    }
    .was {
      fill: none;
      stroke: var(--ink-quiet);
      stroke-width: 1.4;
    }
    .edge {
      fill: none;
      stroke: currentColor;
      stroke-width: 1.6;
    }
    .full {
      fill: currentColor;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveRow {
  private readonly session = inject(Session);
  readonly scale = input.required<RulerScale>();
  readonly from = input.required<IsoDay | null>();
  readonly to = input.required<IsoDay | null>();
  readonly tone = input.required<'open' | 'late' | 'good'>();

  protected readonly today = computed(() => this.session.today());
  protected readonly days = computed(() => this.scale().days());
  protected readonly end = computed(() => this.scale().width - 10);
  protected readonly arrow = computed(() => {
    const from = this.from();
    if (from === null) return null;
    const a = this.scale().x(from);
    const to = this.to();
    const b = to === null ? this.end() : this.scale().x(to);
    const way = b > a ? 1 : -1;
    if (Math.abs(b - a) < 2 * HALF + 4) return null;
    const [start, tip] = [a + way * (HALF + 1), b - way * (HALF + 1)];
    return `M${start} ${LINE - 5}H${tip}M${tip - way * 5} ${LINE - 9}L${tip} ${LINE - 5}L${tip - way * 5} ${LINE - 1}`;
  });

  protected notch(x: number): string {
    return `M${x - HALF} ${LINE}L${x} ${Math.min(HEIGHT, LINE + DEPTH)}L${x + HALF} ${LINE}`;
  }
}
