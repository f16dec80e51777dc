import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { MarginMove } from '@nockwright/contract/supply';
import { AmountPipe, amountInWords } from '../paper';

/** What another cost makes of the margin on what is owed, order by order, worst first. */
@Component({
  selector: 'nock-margin-moves',
  imports: [RouterLink, AmountPipe],
  template: `
    <h3>Margin of the orders it is for</h3>
    @for (row of moves(); track row.order + '/' + row.lineNo) {
      <p>
        <a class="code" [routerLink]="['/orders', row.order]">{{ row.number }}/{{ row.lineNo }}</a> {{ row.customer }}<br />
        on {{ row.quantity | amount }}: {{ percent(row.before) }} → <b [class.late]="dearer(row)" [class.loss]="atLoss(row)">{{ percent(row.after) }}</b>,
        {{ change(row) }}
      </p>
    } @empty {
      <p class="quiet">No open order uses it: no margin changes.</p>
    }
  `,
  styles: `
    p {
      margin: 6px 0 0;
    }
    .loss {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MarginMoves {
  readonly moves = input.required<readonly MarginMove[]>();

  protected percent(margin: string | null): string {
    return margin === null ? 'no price' : `${margin} %`;
  }

  protected dearer({ lost }: MarginMove): boolean {
    return Number(lost) > 0;
  }

  /** Sold below what it costs. */
  protected atLoss({ after }: MarginMove): boolean {
    return after !== null && Number(after) < 0;
  }

  protected change({ lost, currency }: MarginMove): string {
    return `${amountInWords(lost.replace('-', ''))} ${currency} ${Number(lost) > 0 ? 'less' : 'more'}`;
  }
}
