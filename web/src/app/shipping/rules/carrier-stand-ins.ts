import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { carrierRoutes, type CarrierView } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../../api';
import { fieldsOf, RecordForm, recordOf } from '../../paper';

type Body = BodyOf<typeof carrierRoutes.setCarrier>;

const FIELDS = fieldsOf<Body>([
  { name: 'slow', label: 'Answers after seconds', kind: 'whole' },
  { name: 'failures', label: 'Failures before the next answer', kind: 'whole' },
  { name: 'refuses', label: 'Refuses parcels, because', most: 200 },
]);

/** How the stand-in of a carrier answers from now on. */
const standIn = (api: Api, carrier: CarrierView) =>
  recordOf<Body, CarrierView>({
    heading: `Stand-in: ${carrier.name}`,
    act: 'Set stand-in',
    name: 'carrier',
    subject: carrier.code,
    fields: FIELDS,
    value: carrier,
    route: carrierRoutes.setCarrier,
    send: (body) => api.call(carrierRoutes.setCarrier, { params: { carrier: carrier.code }, body }),
  });

/** How the stand-ins of carriers behave: for whoever tries the desk out. */
@Component({
  selector: 'nock-carrier-stand-ins',
  imports: [MatButton, RecordForm],
  template: `
    @if (record(); as record) {
      <nock-record-form [record]="record" (saved)="saved($event)" (closed)="edited.set(null)" />
    } @else {
      <h3>Carriers</h3>
      @for (carrier of carriers(); track carrier.code) {
        <p>
          <b>{{ carrier.name }}</b> {{ wordsOf(carrier) }}
          @if (carrier.there) {
            <button mat-button type="button" (click)="edited.set(carrier)">Edit {{ carrier.name }}</button>
            <button mat-button type="button" (click)="move(carrier)">Move parcels of {{ carrier.name }}</button>
          }
        </p>
      }
      <p role="status">{{ said() }}</p>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CarrierStandIns {
  private readonly api = inject(Api);
  protected readonly carriers = signal<readonly CarrierView[]>([]);
  protected readonly edited = signal<CarrierView | null>(null);
  protected readonly said = signal('');
  protected readonly record = computed(() => {
    const carrier = this.edited();
    return carrier && standIn(this.api, carrier);
  });

  constructor() {
    this.api
      .call(carrierRoutes.readCarriers)
      .subscribe({ next: (carriers) => this.carriers.set(carriers), error: (error: Error) => this.said.set(error.message) });
  }

  protected wordsOf({ there, slow, failures, refuses }: CarrierView): string {
    if (!there) return 'does not answer.';
    const words = [
      ...(slow > 0 ? [`answers after ${slow} ${slow === 1 ? 'second' : 'seconds'}`] : []),
      ...(failures > 0 ? [`fails ${failures === 1 ? 'once' : `${failures} times`}`] : []),
      ...(refuses ? [`refuses parcels: ${refuses}`] : []),
    ];
    return `${words.join(', ') || 'answers'}.`;
  }

  protected saved(carrier: CarrierView): void {
    this.carriers.update((all) => all.map((row) => (row.code === carrier.code ? carrier : row)));
    this.edited.set(null);
  }

  protected move(carrier: CarrierView): void {
    this.api.call(carrierRoutes.moveParcels, { params: { carrier: carrier.code }, body: {} }).subscribe({
      next: ({ moved }) => this.said.set(`${moved} ${moved === 1 ? 'parcel' : 'parcels'} of ${carrier.name} moved on.`),
      error: (error: Error) => this.said.set(error.message),
    });
  }
}
