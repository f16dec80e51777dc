import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { supplyRoutes, type Supplier } from '@nockwright/contract/supply';
import { catchError, EMPTY } from 'rxjs';
import { Api } from '../../api';
import { Live } from '../../live';
import { ListCell, ListPage, type ListColumn } from '../../paper';
import { SupplyNav } from '../supply-nav';

const COLUMNS: readonly ListColumn<Supplier>[] = [
  { id: 'name', name: 'Supplier', text: (row) => row.name, sort: (row) => row.name, link: (row) => ['/supply/suppliers', row.code] },
  { id: 'lead', name: 'Working days', figure: true, text: (row) => String(row.leadDays), sort: (row) => row.leadDays, from: 520 },
  { id: 'items', name: 'Items', figure: true, text: (row) => String(row.items), sort: (row) => row.items, from: 460 },
  { id: 'open', name: 'Open orders', figure: true, text: (row) => String(row.openOrders), sort: (row) => row.openOrders },
  { id: 'overdue', name: 'Overdue', figure: true, text: (row) => String(row.overdueOrders || ''), sort: (row) => row.overdueOrders },
  {
    id: 'on_time',
    name: 'On time',
    figure: true,
    text: (row) => (row.onTimePercent === null ? '' : `${row.onTimePercent} %`),
    sort: (row) => (row.onTimePercent === null ? null : Number(row.onTimePercent)),
  },
  { id: 'receipts', name: 'Receipts', figure: true, text: (row) => String(row.receipts), sort: (row) => row.receipts, from: 640 },
  { id: 'ships', name: 'Drop ships', text: (row) => (row.dropShips ? 'yes' : ''), sort: (row) => (row.dropShips ? 0 : 1), from: 700 },
  { id: 'files', name: 'Takes files', text: (row) => (row.exchanges ? 'yes' : ''), sort: (row) => (row.exchanges ? 0 : 1), from: 780 },
];

/** Suppliers, with what is open at them and how they deliver. */
@Component({
  selector: 'nock-supplier-list',
  imports: [ListCell, ListPage, SupplyNav],
  template: `
    <nock-list
      heading="Suppliers"
      what="suppliers"
      label="Suppliers"
      hint="filter by name"
      [q]="q()"
      [columns]="columns"
      [rows]="shown()"
      [key]="codeOf"
      [none]="fault() || 'No supplier matches.'"
      (opened)="open($event)"
    >
      <nock-supply-nav below />
      <ng-template nockCell="overdue" [nockCellOf]="rows()" let-row>
        @if (row.overdueOrders > 0) {
          <b class="late">{{ row.overdueOrders }}</b>
        }
      </ng-template>
    </nock-list>
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierList {
  private readonly router = inject(Router);
  protected readonly columns = COLUMNS;
  protected readonly codeOf = (row: Supplier) => row.code;
  readonly q = input<string>();
  protected readonly rows = signal<readonly Supplier[]>([]);
  protected readonly fault = signal('');
  protected readonly shown = computed(() => {
    const words = (this.q() ?? '').toLowerCase().split(/\s+/).filter(Boolean);
    return this.rows().filter((row) => words.every((word) => `${row.code} ${row.name}`.toLowerCase().includes(word)));
  });

  constructor() {
    const api = inject(Api);
    inject(Live)
      .kept(
        () => api.call(supplyRoutes.listSuppliers).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic.startsWith('supplier:') || topic.startsWith('purchase:'),
      )
      .pipe(takeUntilDestroyed())
      .subscribe((rows) => this.rows.set(rows));
  }

  protected open(row: Supplier): void {
    void this.router.navigate(['/supply/suppliers', row.code]);
  }
}
