import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { customerRoutes, type ShipTo } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../api';
import { fieldsOf, RecordForm } from '../paper';

type Body = BodyOf<typeof customerRoutes.addShipTo>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Who receives it', most: 100 },
  { name: 'street', label: 'Street', most: 100 },
  { name: 'postcode', label: 'Postcode', most: 20 },
  { name: 'town', label: 'Town', most: 60 },
  { name: 'country', label: 'Country', most: 2, upper: true },
]);

/** Another address for a customer, made without leaving the order. */
@Component({
  selector: 'nock-address-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      heading="Another address"
      [act]="act()"
      name="address"
      [fields]="fields"
      [value]="begins()"
      [route]="route"
      [send]="store"
      (saved)="added.emit($event)"
      (closed)="closed.emit()"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AddressForm {
  private readonly api = inject(Api);
  readonly customer = input.required<{ readonly id: number; readonly name: string }>();
  readonly act = input('Use address');
  readonly added = output<ShipTo>();
  readonly closed = output<void>();
  protected readonly route = customerRoutes.addShipTo;
  protected readonly fields = FIELDS;
  protected readonly begins = computed(() => ({ name: this.customer().name, country: 'GB' }));

  protected readonly store = (body: Body) => this.api.call(customerRoutes.addShipTo, { params: { customer: this.customer().id }, body });
}
