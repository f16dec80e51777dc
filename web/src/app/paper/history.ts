import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DatePipe } from '@angular/common';
import { causeWords, eventWords } from '@nockwright/contract/history';
import type { Happened } from '@nockwright/contract/shape';
import { Session } from '../access';

/** What happened, newest first: what, why, who and when. */
@Component({
  selector: 'nock-history',
  imports: [DatePipe],
  template: `
    <ol>
      @for (row of said(); track row.id) {
        <li>
          {{ row.words }}
          @if (row.because) {
            <span class="quiet">({{ row.because }})</span>
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
  private readonly session = inject(Session);

  readonly rows = input.required<readonly Happened[]>();

  protected readonly said = computed(() =>
    this.rows().map((row) => ({
      ...row,
      words: eventWords(row, this.session.today()),
      because: row.cause === null ? row.why : causeWords(row.cause, this.session.today()),
    })),
  );
}
