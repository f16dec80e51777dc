import { inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { supplyRoutes, type Supplier, type Warehouse } from '@nockwright/contract/supply';
import { catchError, of } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';

/** Warehouses and suppliers: read once, they seldom change. */
@Injectable({ providedIn: 'root' })
export class Places {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  readonly warehouses = toSignal(this.api.call(supplyRoutes.listWarehouses).pipe(catchError(() => of([]))), { initialValue: [] as readonly Warehouse[] });
  readonly suppliers = toSignal(this.listSuppliers(), { initialValue: [] as readonly Supplier[] });

  private listSuppliers() {
    return this.session.may(supplyRoutes.listSuppliers) ? this.api.call(supplyRoutes.listSuppliers).pipe(catchError(() => of([]))) : of([]);
  }
}
