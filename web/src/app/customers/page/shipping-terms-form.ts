import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { customerRoutes, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../../api';
import { fieldsOf, RecordForm, type Choice } from '../../paper';

type Body = BodyOf<typeof customerRoutes.setShippingTerms>;

const RULES: readonly Choice[] = [
  ['included', 'Included in the price'],
  ['flat', 'Flat, once an order'],
  ['at_cost', 'At cost'],
  ['own_account', 'On their own account'],
];
const FIELDS = fieldsOf<Body>([
  { name: 'freightRule', label: 'Freight', kind: 'choice', choices: RULES },
  { name: 'freightFlat', label: 'Flat amount an order', called: 'Flat amount', kind: 'figure', empty: null },
  { name: 'freightFreeFrom', label: 'Free from an order value of (empty: never)', called: 'Free from', kind: 'figure', empty: null },
  { name: 'freightAccount', label: 'Their account with the carrier', called: 'Account', most: 40 },
  { name: 'takesAdvices', label: 'Despatch advice as a file with the mail (UBL)', kind: 'flag' },
]);

/** What a customer pays for freight, and how they are told that goods have left. */
@Component({
  selector: 'nock-shipping-terms-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="'Freight of ' + customer().name"
      act="Save freight"
      name="freight"
      [fields]="fields"
      [value]="customer()"
      [route]="route"
      [version]="customer().version"
      [send]="send"
      (saved)="changed.emit($event)"
      (closed)="closed.emit()"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShippingTermsForm {
  private readonly api = inject(Api);
  readonly customer = input.required<Customer>();
  readonly changed = output<Customer>();
  readonly closed = output<void>();
  protected readonly fields = FIELDS;
  protected readonly route = customerRoutes.setShippingTerms;
  protected readonly send = (body: Body, version: number) =>
    this.api.call(customerRoutes.setShippingTerms, { params: { customer: this.customer().id }, body: { ...body, version } });
}
