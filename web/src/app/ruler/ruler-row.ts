import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import type { ScheduleView, SupplyTick } from '@nockwright/contract/orders';
import { shortDay, type IsoDay } from '@nockwright/core/calendar';
import { max } from 'd3-array';
import { scaleSqrt } from 'd3-scale';
import { Session } from '../access';
import { apart, merge, type Cut } from './cuts';
import type { RulerScale } from './scale';

/** A part of a schedule as the ruler draws it; how sure it is where that is known. */
export type RulerPart = Pick<ScheduleView, 'day' | 'quantity' | 'kept' | 'dropShip' | 'arrives' | 'broken'> & Partial<Pick<ScheduleView, 'holds' | 'safeDay'>>;

const LINE = 17;
const HALF = 6;
const DEPTH = 10;
const TALLEST = 14;

/**
 * A line's days on the sheet's scale. The day asked for is an open notch above the line; each part promised is a notch
 * cut into it, filled when in time, half filled when late; supply that is due stands on it as ticks, taller for more.
 * What has no cover leaves the line dashed, with an open notch at its end.
 */
@Component({
  selector: 'nock-ruler-row',
  imports: [MatTooltip],
  template: `
    <svg [attr.width]="scale().width" [attr.height]="height()" role="img" [attr.aria-label]="words()" [matTooltip]="words()" matTooltipPosition="above">
      @for (day of days(); track day.day) {
        @if (day.weekend) {
          <rect class="shade" [attr.x]="day.left" y="0" [attr.width]="day.width" [attr.height]="height()" />
        }
      }
      <path class="today" [attr.d]="'M' + scale().x(today()) + ' 0V' + height()" />
      @if (compact()) {
        <path class="through" [attr.d]="'M' + scale().x(requested()) + ' 0V' + height()" />
      }
      @for (tick of bars(); track $index) {
        <path class="supply" [attr.d]="'M' + tick.x + ' ' + line + 'v' + -tick.height" />
      }
      <path class="base" [class.dashed]="hasOpen()" [attr.d]="base()" />
      @for (cut of cuts(); track $index) {
        <g [class]="cut.kind" [class.offered]="cut.offered">
          @switch (cut.kind) {
            @case ('covered') {
              <path class="full" [attr.d]="notch(cut.x)" />
            }
            @case ('late') {
              <path class="full" [attr.d]="halfNotch(cut.x)" />
            }
          }
          <path class="edge" [attr.d]="notch(cut.x)" />
          @if (cut.dropShip) {
            <circle class="full" [attr.cx]="cut.x" [attr.cy]="line + 15" r="2" />
          }
          @if (!compact()) {
            <text [attr.x]="cut.middle" y="42" text-anchor="middle">{{ cut.label }}</text>
          }
        </g>
      }
      @for (reach of reaches(); track $index) {
        <path class="reach" [attr.d]="reach" />
      }
      @if (!compact()) {
        <path class="asked" [attr.d]="askedNotch()" />
      }
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
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.4;
    }
    .through {
      stroke: var(--ink);
      stroke-dasharray: 1.5 2.5;
    }
    .dashed {
      stroke: var(--open);
      stroke-dasharray: 4 3;
    }
    .supply {
      stroke: var(--act);
      stroke-width: 2.5;
    }
    .asked {
      fill: var(--paper);
      stroke: var(--ink);
      stroke-width: 1.5;
    }
    .reach {
      fill: none;
      stroke: var(--ink-quiet);
      stroke-width: 1.6;
      stroke-dasharray: 1.5 2.5;
    }
    .full {
      fill: currentColor;
    }
    .edge {
      fill: none;
      stroke: currentColor;
      stroke-width: 1.6;
    }
    .covered {
      color: var(--covered);
    }
    .uncovered {
      color: var(--open);
    }
    .offered .edge {
      stroke-dasharray: 2 1.5;
    }
    text {
      fill: currentColor;
      font:
        600 12px 'Atkinson Hyperlegible Mono Variable',
        monospace;
      paint-order: stroke;
      stroke: var(--paper);
      stroke-width: 3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulerRow {
  private readonly session = inject(Session);
  readonly scale = input.required<RulerScale>();
  readonly requested = input.required<IsoDay>();
  readonly schedule = input.required<readonly RulerPart[]>();
  readonly uncovered = input('0');
  readonly ticks = input<readonly SupplyTick[]>([]);
  /** How high it is where there is little room: without figures then, and the day requested runs through it. Null: as high as it likes. */
  readonly low = input<number | null>(null);
  protected readonly compact = computed(() => this.low() !== null);
  protected readonly height = computed(() => this.low() ?? 44);
  /** A released line: what is not kept could be promised, but is not. */
  readonly released = input(false);

  protected readonly line = LINE;
  protected readonly today = computed(() => this.session.today());
  protected readonly days = computed(() => this.scale().days());
  protected readonly hasOpen = computed(() => Number(this.uncovered()) > 0);

  protected readonly cuts = computed((): readonly Cut[] => {
    const cuts = this.schedule().map((entry): Cut => {
      const day = entry.arrives ?? entry.day;
      const kind = entry.broken ? 'uncovered' : day > this.requested() ? 'late' : 'covered';
      const x = this.scale().x(day);
      return { x, middle: x, label: entry.quantity, kind, offered: this.released() && !entry.kept, dropShip: entry.dropShip };
    });
    if (this.hasOpen())
      cuts.push({ x: this.scale().width - 14, middle: this.scale().width - 14, label: this.uncovered(), kind: 'uncovered', offered: false, dropShip: false });
    return apart(merge(cuts), this.scale().width);
  });

  protected readonly bars = computed(() => {
    const ticks = this.ticks();
    const height = scaleSqrt([0, max(ticks, (tick) => Number(tick.quantity)) ?? 1], [4, TALLEST]);
    return ticks.filter((tick) => tick.day <= this.scale().last).map((tick) => ({ x: this.scale().x(tick.day), height: height(Number(tick.quantity)) }));
  });

  /** From each day that is not sure to the day that is: dotted below the line, ending in a stroke up to it. */
  protected readonly reaches = computed(() =>
    this.schedule().flatMap((entry) => {
      const day = entry.arrives ?? entry.day;
      if (entry.broken || entry.holds === undefined || entry.safeDay === undefined || entry.safeDay === day) return [];
      const from = this.scale().x(day) + HALF + 1;
      const to = entry.safeDay === null ? this.scale().width : this.scale().x(entry.safeDay);
      return [`M${from} ${LINE + 6}H${Math.max(from, to)}${entry.safeDay === null ? '' : 'v-6'}`];
    }),
  );

  /** The line, with a gap where a notch is cut into it. */
  protected readonly base = computed(() => {
    let path = `M0 ${LINE}`;
    for (const { x } of [...this.cuts()].sort((a, b) => a.x - b.x)) path += `H${Math.max(0, x - HALF)}M${x + HALF} ${LINE}`;
    return `${path}H${this.scale().width}`;
  });

  protected readonly words = computed(() => {
    const day = (text: string) => shortDay(text, this.today());
    const parts = this.schedule().map(
      (entry) =>
        `${entry.quantity} ${entry.dropShip ? 'shipped by the supplier ' : ''}${day(entry.arrives ?? entry.day)}${entry.arrives ? ` (promised ${day(entry.day)})` : ''}${sureness(entry, day)}`,
    );
    if (this.hasOpen()) parts.push(`${this.uncovered()} backordered`);
    const due = this.ticks().map((tick) => `${tick.quantity} expected ${day(tick.day)}`);
    return `Requested ${day(this.requested())}. Ships: ${parts.join(', ') || 'nothing'}.${due.length > 0 ? ` Supply: ${due.join(', ')}.` : ''}`;
  });

  protected notch(x: number): string {
    return `M${x - HALF} ${LINE}L${x} ${LINE + DEPTH}L${x + HALF} ${LINE}`;
  }

  protected halfNotch(x: number): string {
    return `M${x - HALF} ${LINE}L${x} ${LINE + DEPTH}V${LINE}Z`;
  }

  protected askedNotch(): string {
    const x = this.scale().x(this.requested());
    return `M${x - 4.5} ${LINE - 11}L${x} ${LINE - 3}L${x + 4.5} ${LINE - 11}Z`;
  }
}

/** How often the part holds, and the day that is safe, where it rests on supply. */
function sureness(entry: RulerPart, day: (text: string) => string): string {
  if (entry.holds === undefined || entry.holds >= 100) return '';
  return ` (confidence ${entry.holds} %${entry.safeDay ? `, safe ${day(entry.safeDay)}` : ''})`;
}
