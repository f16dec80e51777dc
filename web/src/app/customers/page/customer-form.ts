import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { customerRoutes, type Customer } from '@nockwright/contract/customers';
import { orderRoutes } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import { catchError, of } from 'rxjs';
import { Api } from '../../api';
import { fieldsOf, RecordForm, type Choice } from '../../paper';
import { Places } from '../../supply';

type Body = BodyOf<typeof customerRoutes.changeCustomer>;

const RULES: readonly Choice[] = [
  ['parts', 'Partial shipments'],
  ['complete', 'Ship complete'],
];

/** The fields in the order they are asked on the phone. */
const fields = (warehouses: readonly Choice[], carriers: readonly Choice[]) =>
  fieldsOf<Body>([
    { name: 'name', label: 'Name', most: 100 },
    { name: 'contact', label: 'Contact', most: 60 },
    { name: 'phone', label: 'Phone', most: 40 },
    { name: 'email', label: 'Mail', most: 200, empty: null },
    { name: 'street', label: 'Street', most: 100 },
    { name: 'postcode', label: 'Postcode', most: 20 },
    { name: 'town', label: 'Town', most: 60 },
    { name: 'country', label: 'Country, two letters', called: 'Country', most: 2, upper: true },
    { name: 'termsDays', label: 'Payment terms, days net', called: 'Payment terms', kind: 'whole', most: 3 },
    { name: 'priority', label: 'Priority, 1 highest to 9', called: 'Priority', kind: 'whole', most: 1 },
    { name: 'deliveryRule', label: 'Delivery', kind: 'choice', choices: RULES },
    { name: 'mostShipments', label: 'Most shipments an order (empty: any number)', called: 'Most shipments', kind: 'whole', most: 2, empty: null },
    { name: 'warehouse', label: 'Ships from', kind: 'choice', choices: warehouses },
    { name: 'carrierService', label: 'Carrier', kind: 'choice', choices: carriers },
    { name: 'notes', label: 'Notes', most: 1000 },
  ]);

/** The record of a customer, changed: how to reach them, and what their orders begin with. */
@Component({
  selector: 'nock-customer-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="'Record of ' + customer().name"
      act="Save record"
      name="customer"
      [fields]="fields()"
      [value]="customer()"
      [route]="route"
      [version]="customer().version"
      [send]="store"
      (saved)="changed.emit($event)"
      (closed)="closed.emit()"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerForm {
  private readonly api = inject(Api);
  readonly customer = input.required<Customer>();
  readonly changed = output<Customer>();
  readonly closed = output<void>();
  private readonly warehouses = inject(Places).warehouses;
  private readonly carriers = toSignal(this.api.call(orderRoutes.listCarriers).pipe(catchError(() => of([]))), { initialValue: [] });
  protected readonly route = customerRoutes.changeCustomer;
  protected readonly fields = computed(() =>
    fields(
      this.warehouses().map((place): Choice => [place.code, place.name]),
      this.carriers().map((service): Choice => [service.code, service.name]),
    ),
  );

  protected readonly store = (body: Body, version: number) =>
    this.api.call(customerRoutes.changeCustomer, { params: { customer: this.customer().id }, body: { ...body, version } });
}
