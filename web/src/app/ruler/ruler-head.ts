import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { IsoDay } from '@nockwright/core/calendar';
import { DayPipe } from '../paper';
import type { RulerScale } from './scale';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const LABEL_ROOM = 40;
const WITH_WORD = 200;
const TODAY_ROOM = 34;
const ASKED_ROOM = 116;

/** The ruler's own edge, above the lines: a tick a day, Mondays by date, today and the day asked for. */
@Component({
  selector: 'nock-ruler-head',
  imports: [DayPipe],
  template: `
    <svg [attr.width]="scale().width" height="50" aria-hidden="true">
      @for (day of days(); track day.day) {
        @if (day.weekend) {
          <rect class="shade" [attr.x]="day.left" y="36" [attr.width]="day.width" height="14" />
        }
        <path class="tick" [attr.d]="'M' + day.left + ' 50v' + (day.monday ? -10 : -5)" />
      }
      @for (label of labels(); track label.x) {
        <text class="label" [attr.x]="label.x" y="34">{{ label.text }}</text>
      }
      <path class="edge" [attr.d]="'M0 49.500H' + scale().width" />
      <path class="today" [attr.d]="'M' + scale().x(today()) + ' 37V50'" />
      <text class="now" [attr.x]="scale().x(today())" y="12" text-anchor="middle" [attr.dx]="scale().x(today()) < 20 ? 14 : 0">today</text>
      @if (asked(); as day) {
        <path class="asked" [attr.d]="'M' + scale().x(day) + ' 16V50'" />
        <text class="label ink" [attr.x]="askedLabel().x" y="12" [attr.text-anchor]="askedLabel().anchor">
          {{ hasRoom() ? 'requested ' : '' }}{{ day | day }}
        </text>
      }
    </svg>
  `,
  styles: `
    :host,
    svg {
      display: block;
    }
    .tick,
    .edge {
      stroke: var(--rule);
      stroke-width: 1;
    }
    .shade {
      fill: var(--shade);
    }
    text {
      font-size: 12px;
      fill: var(--ink-quiet);
    }
    .now {
      fill: var(--act);
      font-weight: 600;
    }
    .ink {
      fill: var(--ink);
    }
    .today {
      stroke: var(--act);
      stroke-dasharray: 2 2.5;
    }
    .asked {
      stroke: var(--ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulerHead {
  readonly scale = input.required<RulerScale>();
  readonly today = input.required<IsoDay>();
  readonly asked = input<IsoDay | null>(null);
  protected readonly days = computed(() => this.scale().days());
  /** For the word beside the day. */
  protected readonly hasRoom = computed(() => this.scale().width > WITH_WORD);
  /** Beside its day; to the right of `today` where the two would meet, and to the left at the end of the ruler. */
  protected readonly askedLabel = computed(() => {
    const x = this.scale().x(this.asked() ?? this.today());
    const afterToday = this.scale().x(this.today()) + TODAY_ROOM;
    return x > this.scale().width - ASKED_ROOM ? { x: x + 2, anchor: 'end' } : { x: Math.max(x - 2, afterToday), anchor: 'start' };
  });
  /** Mondays by date as far as there is room; the month where it begins. */
  protected readonly labels = computed(() => {
    const labels: { x: number; text: string }[] = [];
    let month = '';
    for (const day of this.days()) {
      const last = labels[labels.length - 1];
      if (!day.monday || (last && day.left - last.x < LABEL_ROOM) || day.left > this.scale().width - 24) continue;
      const name = MONTHS[Number(day.day.slice(5, 7)) - 1]!;
      labels.push({ x: day.left + 3, text: `${Number(day.day.slice(8))}${name === month ? '' : ` ${name}`}` });
      month = name;
    }
    return labels;
  });
}
