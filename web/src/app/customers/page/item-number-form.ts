import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { customerRoutes, type Customer } from '@nockwright/contract/customers';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../../api';
import { fieldsOf, RecordForm } from '../../paper';

type Body = BodyOf<typeof customerRoutes.setItemNumber>;

const FIELDS = fieldsOf<Body>([{ name: 'code', label: 'Customer’s item number', most: 40, empty: null }]);

/** What a customer calls an item on their own papers. */
@Component({
  selector: 'nock-item-number-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="'Their number for ' + item()"
      act="Save number"
      name="item-number"
      [fields]="fields"
      [value]="{ code: known() }"
      [route]="route"
      [send]="store"
      (saved)="changed.emit($event)"
      (closed)="closed.emit()"
    >
      <p class="small quiet">The item is found by this number, in their mails too, and their papers show it. Leave it empty to remove it.</p>
    </nock-record-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemNumberForm {
  private readonly api = inject(Api);
  readonly customer = input.required<Customer>();
  readonly item = input.required<string>();
  readonly known = input.required<string>();
  readonly changed = output<Customer>();
  readonly closed = output<void>();
  protected readonly route = customerRoutes.setItemNumber;
  protected readonly fields = FIELDS;

  protected readonly store = (body: Body) => this.api.call(customerRoutes.setItemNumber, { params: { customer: this.customer().id, item: this.item() }, body });
}
