import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { firmRoutes, type Firm } from '@nockwright/contract/firm';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../api';
import { fieldsOf, RecordForm } from '../paper';

type Body = BodyOf<typeof firmRoutes.setFirm>;

const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 80 },
  { name: 'street', label: 'Street', most: 100 },
  { name: 'postcode', label: 'Postcode', most: 20 },
  { name: 'town', label: 'Town', most: 60 },
  { name: 'country', label: 'Country, two letters', called: 'Country', most: 2, upper: true },
  { name: 'phone', label: 'Phone', most: 40 },
  { name: 'email', label: 'Mail address', most: 200 },
  { name: 'taxNumber', label: 'Tax number', most: 40 },
  { name: 'gs1Prefix', label: 'GS1 company prefix', most: 10 },
  { name: 'footer', label: 'Foot of papers', most: 160 },
  { name: 'code', label: 'Code in files', most: 20, upper: true },
]);
const CURRENCY = fieldsOf<Body>([{ name: 'currency', label: 'Currency, three letters', called: 'Currency', most: 3, upper: true }]);

/** Another name, address or number for the firm. */
@Component({
  selector: 'nock-firm-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      heading="Edit firm"
      act="Save firm"
      name="firm"
      [fields]="fields()"
      [value]="firm()"
      [route]="route"
      [version]="firm().version"
      [send]="store"
      (saved)="closed.emit($event)"
      (closed)="closed.emit(null)"
    >
      @if (firm().currencySettled) {
        <p class="quiet small">Amounts stand in {{ firm().currency }} already: the currency cannot be changed any more.</p>
      }
    </nock-record-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FirmForm {
  private readonly api = inject(Api);
  readonly firm = input.required<Firm>();
  readonly closed = output<Firm | null>();
  private readonly settled = computed(() => this.firm().currencySettled);
  protected readonly route = firmRoutes.setFirm;
  protected readonly fields = computed(() => (this.settled() ? FIELDS : [...FIELDS, ...CURRENCY]));

  protected readonly store = (body: Body, version: number) =>
    this.api.call(firmRoutes.setFirm, { body: { ...body, currency: body.currency ?? this.firm().currency, version } });
}
