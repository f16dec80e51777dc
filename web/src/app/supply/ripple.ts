import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { ReschedulePreview } from '@nockwright/contract/supply';
import { AmountPipe, DayPipe } from '../paper';

/** Before a change of supply is done: whose promises it breaks or mends, worst first, and what to say to each. */
@Component({
  selector: 'nock-ripple',
  imports: [RouterLink, AmountPipe, DayPipe],
  template: `
    @let effect = preview();
    @if (effect.availableDay) {
      <p>
        Its goods could leave again <b>{{ effect.availableDay | day }}</b>.
      </p>
    }
    <h3>Promises it breaks</h3>
    @for (row of effect.breaks; track $index) {
      <div class="row">
        <b>
          <a [routerLink]="['/orders', row.order]">{{ row.number }}/{{ row.lineNo }}</a> {{ row.customer }}</b
        >
        <div>
          {{ row.quantity | amount }} {{ row.item }}: {{ row.promised | day }} →
          <b [class.late]="row.arrives" [class.open]="!row.arrives">{{
            row.arrives ? (row.arrives | day) + ', ' + row.daysLate + ' days later' : 'no supply left'
          }}</b>, {{ row.value | amount }} EUR
        </div>
        <q>{{ row.say }}</q>
      </div>
    } @empty {
      <p class="quiet">none</p>
    }
    @if (effect.mends.length > 0) {
      <h3>Promises it mends</h3>
      @for (row of effect.mends; track $index) {
        <div class="row">
          <b>{{ row.number }}/{{ row.lineNo }} {{ row.customer }}</b
          >: {{ row.quantity | amount }} {{ row.item }}, {{ row.promised | day }}
        </div>
      }
    }
  `,
  styles: `
    p {
      margin: 6px 0;
    }
    .row {
      padding: 6px 0;
      border-bottom: 1px solid var(--hairline);
    }
    q {
      display: block;
      margin-top: 3px;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
    .late {
      color: var(--late);
    }
    .open {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Ripple {
  readonly preview = input.required<ReschedulePreview>();
}
