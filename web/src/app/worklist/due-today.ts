import { inject, Injectable, signal } from '@angular/core';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { catchError, EMPTY } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';

/** How many orders are promised for today or earlier and have not left: a reminder beside the work area's name, wherever one is. */
@Injectable({ providedIn: 'root' })
export class DueToday {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private following = false;
  readonly orders = signal(0);

  follow(): void {
    if (this.following) return;
    this.following = true;
    this.live
      .kept(
        () => this.api.call(shippingRoutes.countDue).pipe(catchError(() => EMPTY)),
        (topic) => topic.startsWith('order:'),
      )
      .subscribe(({ orders }) => this.orders.set(orders));
  }
}
