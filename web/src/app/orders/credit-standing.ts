import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { CreditView } from '@nockwright/contract/customers';
import { dayNumber } from '@nockwright/core/calendar';
import { Session } from '../access';
import { AmountPipe, DayPipe } from '../paper';

/** What a customer owes: how much of their credit is used, and what is overdue. */
@Component({
  selector: 'nock-credit-standing',
  imports: [AmountPipe, DayPipe],
  template: `
    @let facts = credit();
    <p>
      {{ facts.limit === null ? 'Owes' : 'Credit:' }} <b class="figure">{{ facts.exposure | amount }}</b>{{
        facts.limit === null ? '; no credit limit.' : ' of ' + (facts.limit | amount) + ' used' + (over() ? '' : '.')
      }}
      @if (over()) {
        <b class="open">over the limit.</b>
      }
      <span class="quiet small">
        {{ facts.unpaid | amount }} unpaid, {{ facts.shippedNotBilled | amount }} shipped and not billed, {{ facts.openOrders | amount }} on open orders
      </span>
    </p>
    @if (facts.overdueSince) {
      <p class="open" role="status">
        {{ facts.overdue | amount }} overdue since {{ facts.overdueSince | day }}, {{ days() }} {{ days() === 1 ? 'day' : 'days' }}: ask for it before you take
        more.
      </p>
    }
  `,
  styles: `
    p {
      margin: 6px 0 0;
    }
    .small {
      display: block;
    }
    .open {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CreditStanding {
  private readonly session = inject(Session);
  readonly credit = input.required<CreditView>();
  protected readonly over = computed(() => this.credit().left !== null && Number(this.credit().left) < 0);
  protected readonly days = computed(() => {
    const { overdueSince } = this.credit();
    return overdueSince === null ? 0 : dayNumber(this.session.today()) - dayNumber(overdueSince);
  });
}
