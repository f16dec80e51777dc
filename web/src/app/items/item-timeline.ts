import { ChangeDetectionStrategy, Component, computed, inject, input, model } from '@angular/core';
import type { TimelineStep } from '@nockwright/contract/items';
import { dayNumber, isoDay, isoWeekday, shortDay } from '@nockwright/core/calendar';
import { max, min } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area, curveStepAfter, line } from 'd3-shape';
import { Session } from '../access';
import { stackedByDay } from './stacked-by-day';

const WIDTH = 880;
const HEIGHT = 230;
const MARGIN = { left: 56, right: 50, top: 14, bottom: 26 };
const LEAST_DAYS = 21;
const BAR = 6;

interface Bar {
  readonly x: number;
  readonly y: number;
  readonly height: number;
  readonly step: number;
  readonly up: boolean;
}

/**
 * The days of one item at one warehouse: supply stands up from the zero line, commitments hang down from it, the line is
 * what is projected to be there, and the shaded step is what can still be promised.
 */
@Component({
  selector: 'nock-item-timeline',
  template: `
    @let chart = drawing();
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="words()">
      @for (band of chart.weekends; track band.x) {
        <rect class="shade" [attr.x]="band.x" [attr.y]="margin.top" [attr.width]="band.width" [attr.height]="height - margin.top - margin.bottom" />
      }
      @for (tick of chart.grid; track tick.value) {
        <path class="grid" [attr.d]="'M' + margin.left + ' ' + tick.y + 'H' + (width - margin.right)" />
        <text class="axis" [attr.x]="margin.left - 8" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.value.toLocaleString('en') }}</text>
      }
      @for (label of chart.labels; track label.x) {
        <text class="axis" [attr.x]="label.x" [attr.y]="height - 8">{{ label.text }}</text>
        <path class="grid" [attr.d]="'M' + label.x + ' ' + (height - margin.bottom) + 'v5'" />
      }
      <path class="available" [attr.d]="chart.available" />
      @for (bar of chart.bars; track bar.step) {
        <rect
          [attr.class]="bar.up ? 'supply' : 'promise'"
          [class.at]="bar.step === at()"
          [attr.x]="bar.x"
          [attr.y]="bar.y"
          width="6"
          [attr.height]="bar.height"
          (mouseenter)="at.set(bar.step)"
        />
      }
      <path class="zero" [attr.d]="'M' + margin.left + ' ' + chart.zero + 'H' + (width - margin.right)" />
      <path class="projected" [attr.d]="chart.projected" />
      <path class="today" [attr.d]="'M' + chart.today + ' ' + margin.top + 'V' + (height - margin.bottom)" />
    </svg>
    <p class="legend small">
      <span class="key supply"></span> supply <span class="key promise"></span> promised <span class="key projected"></span> projected
      <span class="key available"></span> available to promise
    </p>
  `,
  styles: `
    svg {
      width: 100%;
      height: auto;
      display: block;
    }
    .shade {
      fill: var(--shade);
    }
    .grid {
      stroke: var(--hairline);
    }
    .axis {
      font:
        12px 'Atkinson Hyperlegible Mono Variable',
        monospace;
      fill: var(--ink-quiet);
    }
    .available {
      fill: var(--covered);
      opacity: 0.22;
    }
    .supply {
      fill: var(--act);
    }
    .promise {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.2;
    }
    .at {
      stroke: var(--ink);
      stroke-width: 2.5;
    }
    .zero {
      stroke: var(--rule);
    }
    .projected {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.8;
    }
    .today {
      stroke: var(--act);
      stroke-dasharray: 2 3;
    }
    .legend {
      display: flex;
      gap: 8px;
      align-items: center;
      margin: 2px 0 0 56px;
      color: var(--ink-quiet);
    }
    .key {
      display: inline-block;
      width: 12px;
      height: 12px;
      margin-left: 10px;
    }
    .key.supply {
      background: var(--act);
      width: 6px;
    }
    .key.promise {
      border: 1.2px solid var(--ink);
      width: 6px;
    }
    .key.projected {
      height: 0;
      border-top: 2px solid var(--ink);
    }
    .key.available {
      background: var(--covered);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemTimeline {
  private readonly session = inject(Session);
  readonly steps = input.required<readonly TimelineStep[]>();
  /** The step that is looked at. */
  readonly at = model<number | null>(null);
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly margin = MARGIN;

  protected readonly words = computed(() => {
    const today = this.session.today();
    return (
      this.steps()
        .map((step) => `${shortDay(step.day, today)}: ${step.label} ${step.change}, then ${step.projected} projected, ${step.available} to promise`)
        .join('; ') || 'nothing on hand, inbound or promised'
    );
  });

  protected readonly drawing = computed(() => {
    const steps = this.steps();
    const today = dayNumber(this.session.today());
    const last = Math.max(today + LEAST_DAYS, ...steps.map((step) => dayNumber(step.day) + 3));
    const x = scaleLinear([today - 0.5, last + 0.5], [MARGIN.left, WIDTH - MARGIN.right]);
    const stacks = stackedByDay(steps);
    const values = [...steps.flatMap((step) => [Number(step.projected), Number(step.available)]), ...stacks.flatMap(({ from, to }) => [from, to])];
    const y = scaleLinear([Math.min(0, min(values) ?? 0), Math.max(1, max(values) ?? 1)], [HEIGHT - MARGIN.bottom, MARGIN.top]).nice(5);
    const points = [...endOfDays(steps), ...(steps.length > 0 ? [{ ...steps[steps.length - 1]!, day: isoDay(last) }] : [])];
    const position = (step: { day: string }) => x(dayNumber(step.day));
    return {
      zero: y(0),
      today: x(today),
      projected: line<(typeof points)[number]>(position, (step) => y(Number(step.projected))).curve(curveStepAfter)(points) ?? '',
      available: area<(typeof points)[number]>(position, y(0), (step) => y(Number(step.available))).curve(curveStepAfter)(points) ?? '',
      bars: stacks.map(({ from, to, up, step }): Bar => {
        const top = y(Math.max(from, to));
        return { x: x(dayNumber(steps[step]!.day)) - (up ? BAR : 0), y: top, height: Math.max(1, y(Math.min(from, to)) - top), step, up };
      }),
      grid: y.ticks(5).map((value) => ({ value, y: y(value) })),
      labels: mondays(today, last).map((day) => ({ x: x(day), text: `${Number(isoDay(day).slice(8))} ${shortDay(isoDay(day), isoDay(day)).slice(-3)}` })),
      weekends: days(today, last)
        .filter((day) => isoWeekday(day) > 5)
        .map((day) => ({ x: x(day - 0.5), width: x(day + 0.5) - x(day - 0.5) })),
    };
  });
}

/** One point a day: what is there when the day's supply and commitments are done. */
function endOfDays(steps: readonly TimelineStep[]): TimelineStep[] {
  return steps.filter((step, at) => steps[at + 1]?.day !== step.day);
}

function days(first: number, last: number): number[] {
  return Array.from({ length: last - first + 1 }, (_, at) => first + at);
}

function mondays(first: number, last: number): number[] {
  const all = days(first, last).filter((day) => isoWeekday(day) === 1);
  const every = Math.ceil(all.length / 9);
  return all.filter((_, at) => at % every === 0);
}
