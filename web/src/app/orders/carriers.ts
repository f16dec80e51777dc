import { inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { orderRoutes, type Carrier } from '@nockwright/contract/orders';
import { catchError, of } from 'rxjs';
import { Api } from '../api';

/** Services of carriers: read once, they seldom change. */
@Injectable({ providedIn: 'root' })
export class Carriers {
  readonly services = toSignal(
    inject(Api)
      .call(orderRoutes.listCarriers)
      .pipe(catchError(() => of([]))),
    { initialValue: [] as readonly Carrier[] },
  );
}
