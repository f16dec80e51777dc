import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { DatePipe } from '@angular/common';
import type { Happened } from '@nockwright/contract/shape';

/** What happened, newest first: what, why, who and when. */
@Component({
  selector: 'nock-history',
  imports: [DatePipe],
  template: `
    <ol>
      @for (row of rows(); track row.id) {
        <li>
          {{ row.what }}
          @if (row.why) {
            <span class="quiet">({{ row.why }})</span>
          }
          <div class="quiet small">{{ row.who }}, {{ row.at | date: 'EEE d MMM HH:mm' }}</div>
        </li>
      } @empty {
        <li class="quiet">Nothing yet.</li>
      }
    </ol>
  `,
  styles: `
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      padding: 6px 0;
      border-bottom: 1px solid var(--hairline);
      overflow-wrap: anywhere;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class History {
  readonly rows = input.required<readonly Happened[]>();
}
