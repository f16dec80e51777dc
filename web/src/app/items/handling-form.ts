import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../api';
import { fieldsOf, RecordForm } from '../paper';

type Body = BodyOf<typeof itemRoutes.setHandling>;

const FIELDS = fieldsOf<Body>([
  { name: 'weight', label: 'Weight of one, kg', called: 'Weight', kind: 'figure' },
  { name: 'length', label: 'Length, cm', called: 'Length', kind: 'figure', empty: null },
  { name: 'width', label: 'Width, cm', called: 'Width', kind: 'figure', empty: null },
  { name: 'height', label: 'Height, cm', called: 'Height', kind: 'figure', empty: null },
  { name: 'apart', label: 'Packed apart from other classes: its class', called: 'Class', most: 20 },
  { name: 'tracksSerials', label: 'Each piece has a serial number', kind: 'flag' },
]);

/** How an item is handled: cartons are proposed and weighed by its size and weight. */
@Component({
  selector: 'nock-handling-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="'Weight and size of ' + item().code"
      act="Save"
      name="handling"
      [fields]="fields"
      [value]="value()"
      [route]="route"
      [send]="send"
      (saved)="changed.emit($event)"
      (closed)="closed.emit()"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandlingForm {
  private readonly api = inject(Api);
  readonly item = input.required<ItemPage>();
  readonly changed = output<ItemPage>();
  readonly closed = output<void>();
  protected readonly fields = FIELDS;
  protected readonly route = itemRoutes.setHandling;
  protected readonly value = computed(() => {
    const { weight, length, width, height, apart, tracksSerials } = this.item();
    return { weight, length, width, height, apart, tracksSerials };
  });
  protected readonly send = (body: Body) => this.api.call(itemRoutes.setHandling, { params: { item: this.item().code }, body });
}
