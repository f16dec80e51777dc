import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { OtherItem } from '@nockwright/contract/items';
import { AmountPipe, UnitPipe } from '../paper';

/** Items that have to do with another, and how many of them are free. Nothing stands there where there are none. */
@Component({
  selector: 'nock-other-items',
  imports: [RouterLink, AmountPipe, UnitPipe],
  template: `
    @if (items().length > 0) {
      <h3>{{ heading() }}</h3>
      @for (other of items(); track other.item) {
        <p>
          <a class="code" [routerLink]="['/items', other.item]">{{ other.item }}</a> {{ other.description }}<br />
          <span class="quiet small"
            >{{ other.ratio | amount }} {{ words() }}, {{ other.available | amount }} {{ other.unit | unit: other.available }} to promise</span
          >
        </p>
      }
    }
  `,
  styles: `
    p {
      margin: 6px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OtherItems {
  readonly heading = input.required<string>();
  /** What the number of them is for: `for one`. */
  readonly words = input.required<string>();
  readonly items = input.required<readonly OtherItem[]>();
}
