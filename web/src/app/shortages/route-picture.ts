import { ChangeDetectionStrategy, Component, computed, inject, input, model } from '@angular/core';
import type { RouteChoice } from '@nockwright/contract/shortages';
import { dayNumber, isoDay, shortDay } from '@nockwright/core/calendar';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { Session } from '../access';

const WIDTH = 312;
const HEIGHT = 150;
const MARGIN = { left: 44, right: 16, top: 12, bottom: 24 };
/** Ways that would stand on each other are set beside each other. */
const NEAR = 11;

interface Point {
  readonly at: number;
  readonly x: number;
  readonly y: number;
  readonly label: string;
  readonly late: boolean;
  readonly beaten: boolean;
  readonly words: string;
}

/**
 * Day against margin: each way that can be chosen is a notch with its number, further right the later it leaves (on
 * average, where it is shared out), higher the more it brings. Notches are as on the ruler: filled when in time, half filled when late. What another way beats in
 * everything is faint; the line joins those that nothing beats.
 */
@Component({
  selector: 'nock-route-picture',
  template: `
    @let chart = drawing();
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="words()">
      @for (tick of chart.money; track tick.y) {
        <path class="grid" [attr.d]="'M' + margin.left + ' ' + tick.y + 'H' + (width - margin.right)" />
        <text class="axis" [attr.x]="margin.left - 6" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.label }}</text>
      }
      @for (tick of chart.days; track tick.x) {
        <path class="grid" [attr.d]="'M' + tick.x + ' ' + (height - margin.bottom) + 'v4'" />
        <text class="axis" [attr.x]="tick.x" [attr.y]="height - 6" [attr.text-anchor]="tick.anchor">{{ tick.label }}</text>
      }
      <path class="asked" [attr.d]="'M' + chart.asked + ' ' + margin.top + 'V' + (height - margin.bottom)" />
      <path class="frontier" [attr.d]="chart.frontier" />
      @for (point of chart.points; track point.at) {
        <g [class]="point.late ? 'late' : 'covered'" [class.beaten]="point.beaten" [class.at]="point.at === at()" (mouseenter)="at.set(point.at)">
          <title>{{ point.words }}</title>
          <path class="full" [attr.d]="point.late ? half(point) : notch(point)" />
          <path class="edge" [attr.d]="notch(point)" />
          <text [attr.x]="point.x" [attr.y]="point.y - 6" text-anchor="middle">{{ point.label }}</text>
        </g>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: auto;
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
    .asked {
      stroke: var(--act);
      stroke-dasharray: 2 3;
    }
    .frontier {
      fill: none;
      stroke: var(--ink-quiet);
      stroke-dasharray: 1 3;
    }
    .covered {
      color: var(--covered);
    }
    .late {
      color: var(--late);
    }
    .full {
      fill: currentColor;
    }
    .edge {
      fill: none;
      stroke: currentColor;
      stroke-width: 1.6;
    }
    g text {
      fill: var(--ink);
      font:
        600 12px 'Atkinson Hyperlegible Mono Variable',
        monospace;
      paint-order: stroke;
      stroke: var(--paper-raised);
      stroke-width: 3px;
    }
    .beaten .full,
    .beaten .edge {
      opacity: 0.35;
    }
    .beaten text {
      fill: var(--ink-quiet);
    }
    .at .edge {
      stroke: var(--ink);
      stroke-width: 2.6;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RoutePicture {
  private readonly session = inject(Session);
  readonly routes = input.required<readonly RouteChoice[]>();
  /** The ship day asked for. */
  readonly requested = input.required<string>();
  /** The way that is looked at. */
  readonly at = model(0);

  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly margin = MARGIN;

  protected readonly drawing = computed(() => {
    const asked = dayNumber(this.requested());
    const shown = this.routes().flatMap((route, at) => (route.possible && route.shipDay !== null ? [{ route, at, day: asked + route.meanLate! }] : []));
    const [first = asked, last = asked] = extent([asked, ...shown.map((row) => row.day)]);
    const [least = 0, most = 0] = extent(shown.map((row) => Number(row.route.marginAmount)));
    const x = scaleLinear([first, Math.max(last, first + 1)], [MARGIN.left + 8, WIDTH - MARGIN.right - 8]);
    const y = scaleLinear([least, most > least ? most : least + 1], [HEIGHT - MARGIN.bottom - 12, MARGIN.top + 14]).nice(3);
    const points: Point[] = [];
    for (const { route, at, day } of shown) {
      let place = { x: x(day), y: y(Number(route.marginAmount)) };
      while (points.some((other) => Math.abs(other.x - place.x) < NEAR && Math.abs(other.y - place.y) < NEAR)) place = { ...place, x: place.x + NEAR };
      points.push({ at, ...place, label: String(at + 1), late: route.meanLate! > 0, beaten: route.beaten, words: this.wordsOf(route, at) });
    }
    const best = points.filter((point) => !point.beaten).sort((a, b) => a.x - b.x);
    const dayTicks = [...new Set([first, asked, last])].map((day) => ({
      x: x(day),
      label: shortDay(isoDay(Math.round(day)), this.session.today()).replace(/^\w+ /, ''),
      anchor: day === last && last > first ? 'end' : 'start',
    }));
    return {
      points,
      asked: x(asked),
      frontier: best.length > 1 ? `M${best.map((point) => `${point.x} ${point.y}`).join('L')}` : '',
      money: y.ticks(3).map((value) => ({ y: y(value), label: value.toLocaleString('en') })),
      days: dayTicks.filter((tick, index) => dayTicks.findIndex((other) => Math.abs(other.x - tick.x) < 52) === index),
    };
  });

  protected readonly words = computed(
    () =>
      `Ways by day and margin. ${this.drawing()
        .points.map((point) => point.words)
        .join('. ')}`,
  );

  private wordsOf(route: RouteChoice, at: number): string {
    return `${at + 1}: ${route.label}, leaves ${shortDay(route.shipDay!, this.session.today())}, brings ${route.marginAmount}${route.beaten ? ', another is better in all' : ''}`;
  }

  protected notch({ x, y }: Point): string {
    return `M${x - 5} ${y - 3}L${x} ${y + 6}L${x + 5} ${y - 3}Z`;
  }

  protected half({ x, y }: Point): string {
    return `M${x - 5} ${y - 3}L${x} ${y + 6}V${y - 3}Z`;
  }
}
