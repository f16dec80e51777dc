import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { RouteChoice } from '@nockwright/contract/shortages';
import { roundMoney } from '@nockwright/core/money';
import { Session } from '../../access';
import { AmountPipe, DayPipe, PricePipe } from '../../paper';
import { RulerRow, type RulerScale } from '../../ruler';
import { asksCustomer, lateWords, scheduleOf, type PolicyName } from '../../shortages';

/** One option for a short line, in the columns of its sheet: what it is, cost, margin, its days on the ruler, how late and how sure. */
@Component({
  selector: 'tr[nock-option]',
  imports: [AmountPipe, DayPipe, PricePipe, RulerRow],
  template: `
    @let option = route();
    <td class="digit">
      @if (at() < 9) {
        <button type="button" tabindex="-1" [disabled]="!option.possible || busy()" [attr.aria-label]="'Take option ' + (at() + 1)" (click)="take()(option)">
          {{ at() + 1 }}
        </button>
      }
    </td>
    <td class="what" colspan="2">
      @if (option.possible) {
        <span class="label" [class.beaten]="option.beaten" [title]="option.label">{{ option.label }}</span>
      } @else {
        <span class="label one" [title]="option.label">{{ option.label }}</span>
        <div class="small why" [title]="option.remarks.join('; ')">not possible: {{ option.remarks.join('; ') }}</div>
      }
    </td>
    <td class="figure">{{ option.shipDay ? (cost() | price) : '–' }}</td>
    <td class="figure amount" [class.decides]="policy() === 'cheapest'">{{ option.marginAmount | amount }}</td>
    <td class="figure margin" [class.decides]="policy() === 'cheapest'">{{ option.marginPercent ?? '–' }}<span class="quiet"> %</span></td>
    <td class="ruler"><nock-ruler-row [low]="34" [scale]="scale()" [requested]="requested()" [schedule]="schedule()" /></td>
    <td class="ships">
      @if (option.possible && option.shipDay; as day) {
        <div class="day">
          <span>{{ day | day }}</span>
          <span [class.late]="option.daysLate! > 0" [class.covered]="option.daysLate === 0" [class.decides]="policy() === 'on_time'">{{
            late(option.daysLate!)
          }}</span>
        </div>
        <div class="small facts">
          <span class="figure" title="confidence">{{ option.holds }} %</span>
          <span class="figure" [class.decides]="policy() === 'fewest_shipments'" title="shipments">{{ option.shipments }}</span>
          <span class="asks">{{ asks() }}</span>
        </div>
      } @else {
        <div class="day quiet">–</div>
        <div class="small facts">
          <span></span><span class="figure">0</span><span class="asks">{{ asks() }}</span>
        </div>
      }
    </td>
  `,
  styleUrl: './options.css',
  host: { '[class.no-margin]': '!inOffice()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OptionRow {
  private readonly session = inject(Session);
  protected readonly inOffice = this.session.inOffice;
  protected readonly late = lateWords;

  readonly route = input.required<RouteChoice>();
  readonly at = input.required<number>();
  readonly scale = input.required<RulerScale>();
  readonly requested = input.required<string>();
  readonly policy = input.required<PolicyName>();
  readonly currency = input.required<string>();
  readonly busy = input(false);
  readonly take = input.required<(route: RouteChoice) => void>();

  protected readonly schedule = computed(() => scheduleOf(this.route()));
  protected readonly cost = computed(() => roundMoney(this.route().unitCost, this.currency()));
  /** What the customer has to agree to, and what is noteworthy beside, in a word each. */
  protected readonly asks = computed(() => {
    const { obliges, parts } = this.route();
    const words = [
      ...(asksCustomer(this.route()) ? [`? ${CONSENT[parts.find((part) => part.kind === 'substitute' || part.kind === 'cut')?.kind ?? 'later']}`] : []),
      ...obliges.flatMap(({ kind }) => (kind === 'consent' ? [] : [`! ${NOTES[kind]}`])),
    ];
    return [...new Set(words)].join(', ');
  });
}

const CONSENT: Readonly<Record<string, string>> = { substitute: 'other item', cut: 'less', later: 'later' };
const NOTES = { below_minimum: 'minimum', not_returnable: 'no return', surplus: 'surplus' } as const;
