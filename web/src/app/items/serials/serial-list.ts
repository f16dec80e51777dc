import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { serialRoutes, type SerialRow } from '@nockwright/contract/items';
import { catchError, combineLatest, EMPTY, switchMap } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { CustomerName, Keys, ListCell, ListPage, Sheet, type ListColumn } from '../../paper';
import { SerialForm } from './serial-form';
import { STATES } from './serial-states';

const COLUMNS: readonly ListColumn<SerialRow>[] = [
  { id: 'serial', name: 'Serial number', text: (row) => row.serial, sort: (row) => row.serial, link: (row) => ['/items/serials', row.id] },
  { id: 'state', name: 'State', text: (row) => STATES[row.state], sort: (row) => STATES[row.state] },
  { id: 'place', name: 'Place', text: (row) => `${row.warehouse} ${row.bin}`.trim(), sort: (row) => `${row.warehouse} ${row.bin}` },
  { id: 'lot', name: 'Lot', text: (row) => row.lot, sort: (row) => row.lot || null, from: 700 },
  { id: 'shipment', name: 'Shipment', text: (row) => row.shipment ?? '', sort: (row) => row.shipment },
  { id: 'customer', name: 'Customer', text: (row) => row.customer ?? '', sort: (row) => row.customer },
];

/** The serial numbers of an item: which are in the house, and which customer has the others. */
@Component({
  selector: 'nock-serial-list',
  imports: [RouterLink, MatButton, CustomerName, ListCell, ListPage, Sheet, SerialForm],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <nock-list
          [heading]="'Serial numbers of ' + code()"
          what="serial numbers"
          label="Serial numbers"
          hint="filter by number"
          [q]="q()"
          [columns]="columns"
          [rows]="found().rows"
          [key]="idOf"
          [none]="fault() || (loaded() ? none() : 'Fetching the serial numbers …')"
          (opened)="open($event)"
        >
          <a beside [routerLink]="['/items', code()]">The item</a>
          <ng-template nockCell="customer" [nockCellOf]="found().rows" let-row>
            @if (row.customerId) {
              <nock-customer-name [id]="row.customerId" [name]="row.customer ?? ''" />
            }
          </ng-template>
        </nock-list>
      </ng-container>
      <ng-container gloss>
        @if (naming()) {
          <nock-serial-form [item]="code()" (saved)="show($event)" (closed)="naming.set(false)" />
        } @else {
          <h2>{{ code() }}</h2>
          <p>{{ found().description }}</p>
          <p class="quiet">
            {{
              found().tracked
                ? 'Each piece has a serial number: it is entered at receipt, and scanned when it is packed or sold.'
                : 'This item has no serial numbers. Whether it has, is set at the item.'
            }}
          </p>
        }
      </ng-container>
      <ng-container acts>
        @if (mayMove()) {
          <button mat-flat-button type="button" (click)="start()" [disabled]="!found().tracked">Enter what is in a bin <kbd>N</kbd></button>
        }
      </ng-container>
    </nock-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SerialList {
  private readonly router = inject(Router);
  protected readonly mayMove = inject(Session).mayMove;
  readonly code = input.required<string>();
  readonly q = input<string>();
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: SerialRow) => row.id;
  protected readonly found = signal<{ readonly description: string; readonly tracked: boolean; readonly rows: readonly SerialRow[] }>({
    description: '',
    tracked: false,
    rows: [],
  });
  protected readonly loaded = signal(false);
  protected readonly naming = signal(false);
  protected readonly fault = signal('');
  protected readonly none = computed(() => (this.q() ? 'No serial number begins with it.' : 'No serial number is known yet.'));

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    combineLatest([toObservable(this.code), toObservable(this.q)])
      .pipe(
        switchMap(([item, search]) =>
          live.kept(
            () =>
              api
                .call(serialRoutes.listSerials, { params: { item }, query: search ? { search: search.slice(0, 100) } : {} })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `item:${item}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((found) => {
        this.found.set(found);
        this.loaded.set(true);
      });
    inject(Keys).use([
      { key: 'N', does: 'enter which serial numbers are in a bin', run: () => this.start() },
      { key: 'Escape', does: 'to the item', run: () => void this.router.navigate(['/items', this.code()]) },
    ]);
  }

  protected start(): boolean {
    if (!this.mayMove() || !this.found().tracked || this.naming()) return false;
    this.naming.set(true);
    return true;
  }

  protected show(found: { readonly description: string; readonly tracked: boolean; readonly rows: readonly SerialRow[] }): void {
    this.found.set(found);
    this.naming.set(false);
  }

  protected open(row: SerialRow): void {
    void this.router.navigate(['/items/serials', row.id]);
  }
}
