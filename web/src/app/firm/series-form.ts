import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { firmRoutes, type Firm, type NumberSeries } from '@nockwright/contract/firm';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../api';
import { fieldsOf, RecordForm } from '../paper';
import { seriesName } from './series-words';

type Body = BodyOf<typeof firmRoutes.setSeries>;

const FIELDS = fieldsOf<Body>([
  { name: 'prefix', label: 'Prefix', most: 8, upper: true },
  { name: 'next', label: 'Next number', kind: 'whole', most: 9 },
]);

/** Where a number series goes on. */
@Component({
  selector: 'nock-series-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="heading()"
      act="Save series"
      name="series"
      [fields]="fields"
      [value]="series()"
      [route]="route"
      [version]="version()"
      [send]="store"
      (saved)="closed.emit($event)"
      (closed)="closed.emit(null)"
    >
      <p class="quiet small">A number that is given already is not given again.</p>
    </nock-record-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SeriesForm {
  private readonly api = inject(Api);
  readonly series = input.required<NumberSeries>();
  readonly version = input.required<number>();
  readonly closed = output<Firm | null>();
  protected readonly route = firmRoutes.setSeries;
  protected readonly fields = FIELDS;
  protected readonly heading = computed(() => `Number series: ${seriesName(this.series().name)}`);

  protected readonly store = (body: Body, version: number) => this.api.call(firmRoutes.setSeries, { body: { ...body, version, name: this.series().name } });
}
