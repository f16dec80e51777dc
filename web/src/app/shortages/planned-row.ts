import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { PlannedRoute } from '@nockwright/contract/shortages';
import { AmountPipe, DayPipe } from '../paper';
import { RulerRow, type RulerScale } from '../ruler';
import { asksCustomer, lateWords, scheduleOf } from './route-words';

/** What is planned for a line that is chosen, in the columns of the board: the option, its margin, its days on the ruler, how late. */
@Component({
  selector: 'tr[nock-planned]',
  imports: [AmountPipe, DayPipe, RulerRow],
  template: `
    @let row = planned();
    <td></td>
    @if (row.route; as route) {
      <td colspan="2">
        <div class="label" [title]="route.label">{{ route.label }}</div>
        @for (words of row.takesBack; track words) {
          <div class="small quiet">{{ words }}</div>
        }
      </td>
      <td class="figure">{{ row.quantity | amount }}</td>
      <td class="figure">{{ route.marginAmount | amount }}</td>
      <td class="small quiet">{{ route.marginPercent ?? '–' }} % margin</td>
      <td class="ruler"><nock-ruler-row [low]="34" [scale]="scale()" [requested]="requested()" [schedule]="schedule()" /></td>
      <td>
        <b>{{ route.shipDay ? (route.shipDay | day) : '–' }}</b>
        <div class="small" [class.late]="(route.daysLate ?? 0) > 0 || asks()">
          {{ asks() ? '? consent first: left out' : route.daysLate === null ? '' : late(route.daysLate) }}
        </div>
      </td>
    } @else {
      <td colspan="7" class="open">no option with a day</td>
    }
  `,
  styles: `
    td {
      height: 34px;
      padding-top: 0 !important;
      padding-bottom: 0 !important;
      white-space: nowrap;
    }
    .label {
      white-space: normal;
    }
    .label {
      font-weight: 600;
      line-height: 16px;
      display: -webkit-box;
      -webkit-box-orient: vertical;
      -webkit-line-clamp: 2;
      overflow: hidden;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlannedRow {
  readonly planned = input.required<PlannedRoute>();
  readonly scale = input.required<RulerScale>();
  readonly requested = input.required<string>();

  protected readonly late = lateWords;
  protected readonly schedule = computed(() => {
    const { route } = this.planned();
    return route ? scheduleOf(route) : [];
  });
  protected readonly asks = computed(() => {
    const { route } = this.planned();
    return route !== null && asksCustomer(route);
  });
}
