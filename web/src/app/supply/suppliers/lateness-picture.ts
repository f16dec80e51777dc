import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { SupplierScore } from '@nockwright/contract/supply';
import { max, range } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';

const WIDTH = 640;
const HEIGHT = 190;
const MARGIN = { left: 34, right: 12, top: 26, bottom: 34 };
/** Later than this stands in the last bar: one straggler does not squeeze all others. */
const LAST = 15;
const FIRST = -3;

interface Bar {
  readonly days: number;
  readonly label: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly receipts: number;
  readonly late: boolean;
}

/** How many days late goods came, a bar for each day: on time at the left of the line, late at its right. */
@Component({
  selector: 'nock-lateness-picture',
  template: `
    @let chart = drawing();
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="words()">
      @for (tick of chart.counts; track tick.y) {
        <path class="grid" [attr.d]="'M' + margin.left + ' ' + tick.y + 'H' + (width - margin.right)" />
        <text [attr.x]="margin.left - 6" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.label }}</text>
      }
      @for (bar of chart.bars; track bar.days) {
        <rect [class.late]="bar.late" [attr.x]="bar.x" [attr.y]="bar.y" [attr.width]="bar.width" [attr.height]="bar.height">
          <title>{{ bar.receipts }} of {{ score().receipts }} came {{ bar.label }}</title>
        </rect>
        <text [attr.x]="bar.x + bar.width / 2" [attr.y]="height - margin.bottom + 15" text-anchor="middle">{{ axis(bar.days) }}</text>
      }
      <path class="due" [attr.d]="'M' + chart.due + ' ' + margin.top + 'V' + (height - margin.bottom)" />
      <text class="side" [attr.x]="chart.due - 6" y="14" text-anchor="end">on time</text>
      <text class="side late" [attr.x]="chart.due + 6" y="14">late</text>
      <text [attr.x]="width - margin.right" [attr.y]="height - 4" text-anchor="end">calendar days after the day first given</text>
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-width: 720px;
      height: auto;
    }
    .grid {
      stroke: var(--hairline);
    }
    text {
      font:
        12px 'Atkinson Hyperlegible Mono Variable',
        monospace;
      fill: var(--ink-quiet);
    }
    rect {
      fill: var(--covered);
    }
    rect.late {
      fill: var(--late);
    }
    .side {
      fill: var(--covered);
      font-weight: 600;
    }
    .side.late {
      fill: var(--late);
    }
    .due {
      stroke: var(--ink);
      stroke-width: 1.4;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LatenessPicture {
  readonly score = input.required<SupplierScore>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly margin = MARGIN;

  protected readonly words = computed(() => {
    const { receipts, onTimePercent, medianDays, worstTenthDays } = this.score();
    return `${receipts} receipts: ${onTimePercent} percent on time, half of them no later than ${medianDays} days, nine of ten no later than ${worstTenthDays}`;
  });

  protected readonly drawing = computed(() => {
    const counts = new Map<number, number>();
    for (const { days, receipts } of this.score().spread) {
      const bar = Math.min(LAST, Math.max(FIRST, days));
      counts.set(bar, (counts.get(bar) ?? 0) + receipts);
    }
    const days = range(FIRST, Math.max(7, max(counts.keys()) ?? 0) + 1);
    const x = scaleBand(days, [MARGIN.left, WIDTH - MARGIN.right]).padding(0.18);
    const y = scaleLinear([0, max(counts.values()) ?? 1], [HEIGHT - MARGIN.bottom, MARGIN.top]).nice(4);
    const bars = days.map((day): Bar => {
      const receipts = counts.get(day) ?? 0;
      return { days: day, label: inWords(day), x: x(day)!, y: y(receipts), width: x.bandwidth(), height: y(0) - y(receipts), receipts, late: day > 0 };
    });
    return {
      bars,
      counts: y
        .ticks(4)
        .filter(Number.isInteger)
        .map((count) => ({ y: y(count), label: String(count) })),
      due: x(0)! + x.bandwidth() + (x.step() - x.bandwidth()) / 2,
    };
  });

  /** `≥15` for all that is later. */
  protected axis(days: number): string {
    return days === LAST ? `≥${LAST}` : days === FIRST ? `≤${FIRST}` : String(days);
  }
}

function inWords(days: number): string {
  if (days === 0) return 'on the day';
  const count = `${Math.abs(days)}${days === LAST || days === FIRST ? ' or more' : ''} ${Math.abs(days) === 1 ? 'day' : 'days'}`;
  return days < 0 ? `${count} early` : `${count} late`;
}
