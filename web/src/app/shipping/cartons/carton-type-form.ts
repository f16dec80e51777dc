import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { consignmentRoutes, type CartonTypeView } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../../api';
import { fieldsOf, RecordForm } from '../../paper';

type Body = BodyOf<typeof consignmentRoutes.setCartonType>;

const CODE = fieldsOf<Body>([{ name: 'code', label: 'Code', most: 20, upper: true }]);
const SIZES = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 60 },
  { name: 'length', label: 'Length inside, cm', called: 'Length', kind: 'figure' },
  { name: 'width', label: 'Width inside, cm', called: 'Width', kind: 'figure' },
  { name: 'height', label: 'Height inside, cm', called: 'Height', kind: 'figure' },
  { name: 'tare', label: 'Weight empty, kg', called: 'Weight empty', kind: 'figure' },
  { name: 'most', label: 'Weight packed at most, kg', called: 'Weight packed', kind: 'figure' },
]);

/** A new kind of carton, or another size of one there is. */
@Component({
  selector: 'nock-carton-type-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="type()?.name ?? 'New carton type'"
      act="Save carton type"
      name="carton-type"
      [fields]="fields()"
      [value]="value()"
      [route]="route"
      [send]="send"
      (saved)="saved.emit($event)"
      (closed)="closed.emit()"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CartonTypeForm {
  private readonly api = inject(Api);
  /** Null: a new one. */
  readonly type = input.required<CartonTypeView | null>();
  readonly saved = output<readonly CartonTypeView[]>();
  readonly closed = output<void>();
  protected readonly route = consignmentRoutes.setCartonType;
  protected readonly fields = computed(() => (this.type() ? SIZES : [...CODE, ...SIZES]));
  protected readonly value = computed(() => this.type() ?? {});
  protected readonly send = (body: Body) => this.api.call(consignmentRoutes.setCartonType, { body: { ...body, code: this.type()?.code ?? body.code } });
}
