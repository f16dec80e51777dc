import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { consignmentRoutes, type OfferView } from '@nockwright/contract/shipping';
import { catchError, EMPTY } from 'rxjs';
import { Api } from '../../api';
import { DayPipe, PricePipe } from '../../paper';

/** What carriers ask for a consignment and when it would arrive, as rows side by side; the cheapest in time is the bold one. */
@Component({
  selector: 'nock-carrier-offers',
  imports: [MatButton, DayPipe, PricePipe],
  template: `
    <table class="ruled" aria-label="Carrier services">
      <thead>
        <tr>
          <th>Service</th>
          <th class="figure">Freight, {{ currency() }}</th>
          <th>Arrives</th>
          <th>In time</th>
          <th><span class="visually-hidden">Choose</span></th>
        </tr>
      </thead>
      <tbody>
        @for (offer of offers(); track offer.service) {
          <tr [class.best]="offer.best">
            <td>{{ offer.name }}</td>
            <td class="figure">{{ offer.rate === null ? '' : (offer.rate | price) }}</td>
            <td>{{ offer.arrives === null ? offer.fault : (offer.arrives | day) }}</td>
            <td>{{ offer.arrives === null ? '' : offer.inTime ? 'yes' : 'late' }}</td>
            <td>
              @if (offer.service === chosen()) {
                chosen
              } @else if (offer.rate !== null) {
                <button mat-button type="button" (click)="choose.emit(offer.service)" [attr.aria-label]="'Send by ' + offer.name">Choose</button>
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="5" class="quiet">{{ fault() || 'Asking the carriers …' }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    table {
      width: 100%;
    }
    .best td {
      font-weight: 700;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CarrierOffers {
  private readonly api = inject(Api);
  readonly consignment = input.required<number>();
  /** Its version: what is in it may have changed. */
  readonly version = input.required<number>();
  readonly chosen = input.required<string>();
  readonly currency = input.required<string>();
  readonly choose = output<string>();
  protected readonly offers = signal<readonly OfferView[]>([]);
  protected readonly fault = signal('');

  constructor() {
    effect((onCleanup) => {
      const consignment = this.consignment();
      this.version();
      const asked = untracked(() =>
        this.api
          .call(consignmentRoutes.readOffers, { params: { consignment } })
          .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY)))
          .subscribe((offers) => this.offers.set(offers)),
      );
      onCleanup(() => asked.unsubscribe());
    });
  }
}
