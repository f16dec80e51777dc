import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Customer } from '@nockwright/contract/customers';
import { termsInWords } from '@nockwright/core/billing';
import { freightWords } from '@nockwright/core/freight';
import { Session } from '../../access';
import { AmountPipe, DayPipe } from '../../paper';

/** Who a customer is and on which terms they buy. */
@Component({
  selector: 'nock-customer-head',
  imports: [RouterLink, AmountPipe, DayPipe],
  template: `
    <h1>
      {{ customer().name }} <span class="quiet code">{{ customer().number }}</span>
      @if (customer().prospect) {
        <span class="quiet">prospect</span>
      }
    </h1>
    <p class="quiet">{{ customer().street }}, {{ customer().postcode }} {{ customer().town }}</p>
    <dl>
      <div>
        <dt>Contact</dt>
        <dd>{{ customer().contact || 'none' }}</dd>
        <dd class="code">{{ customer().phone }}</dd>
        <dd class="small">{{ customer().email }}</dd>
      </div>
      <div>
        <dt>Credit used, <a [routerLink]="['/customers', customer().id, 'money']">what they owe</a></dt>
        <dd [class.late]="customer().credit.left?.startsWith('-')">
          {{ customer().credit.exposure | amount }} of {{ customer().credit.limit === null ? 'no limit' : (customer().credit.limit | amount) }}
        </dd>
        @if (customer().credit.overdueSince) {
          <dd class="late small">{{ customer().credit.overdue | amount }} overdue since {{ customer().credit.overdueSince | day }}</dd>
        }
      </div>
      <div>
        <dt>Terms</dt>
        <dd>{{ terms() }}</dd>
        <dd class="small">
          {{ customer().priceList ? 'price list ' + customer().priceList : 'list prices' }}{{ customer().mustNameContract ? ', contract named' : '' }}
        </dd>
      </div>
      <div>
        <dt>Delivery</dt>
        <dd>{{ customer().deliveryRule === 'complete' ? 'ship complete' : 'partial shipments' }}</dd>
        <dd class="small">
          {{ customer().mostShipments ? 'at most ' + customer().mostShipments + ', ' : '' }}{{ customer().carrierName }} from {{ customer().warehouseName }}
        </dd>
        <dd class="small">{{ freight() }}</dd>
      </div>
      <div>
        <dt>Priority</dt>
        <dd>{{ customer().priority }}</dd>
      </div>
    </dl>
  `,
  styles: `
    dd.small {
      font-weight: 400;
    }
    dd.late {
      color: var(--late);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerHead {
  private readonly session = inject(Session);
  readonly customer = input.required<Customer>();

  protected readonly terms = computed(() => {
    const { termsKind: kind, termsDays: days, discountPercent, discountDays } = this.customer();
    return termsInWords({ kind, days, discountPercent, discountDays });
  });
  protected readonly freight = computed(() => {
    const { freightRule: rule, freightFlat: flat, freightFreeFrom: freeFrom, freightAccount: account } = this.customer();
    return freightWords({ rule, flat, freeFrom }, account, this.session.currency());
  });
}
