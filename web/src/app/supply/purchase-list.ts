import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type PurchaseRow } from '@nockwright/contract/supply';
import { Session } from '../access';
import { Api } from '../api';
import { keptList } from '../live';
import { addressWords, amountInWords, DayPipe, ListCell, ListChoice, ListPage, wordOf, type ListColumn } from '../paper';
import { SupplyNav } from './supply-nav';

const STATES = [
  ['open', 'open'],
  ['look', 'to review'],
  ['closed', 'closed'],
  ['all', 'all'],
] as const;

const COLUMNS: readonly ListColumn<PurchaseRow>[] = [
  { id: 'number', name: 'Purchase order', text: (row) => row.number, sort: (row) => row.number, link: (row) => ['/supply', row.id] },
  { id: 'supplier', name: 'Supplier', text: (row) => row.supplier, sort: (row) => row.supplier },
  { id: 'to', name: 'Ships to', text: (row) => goesTo(row), sort: goesTo, from: 620 },
  { id: 'state', name: 'State', text: (row) => row.state, sort: (row) => row.state },
  { id: 'expected', name: 'Expected', text: (row) => row.expectedDay ?? '', sort: (row) => row.expectedDay },
  { id: 'lines', name: 'Open lines', figure: true, text: (row) => `${row.openLines} of ${row.lines}`, sort: (row) => row.openLines, from: 560 },
  {
    id: 'value',
    name: 'Value',
    figure: true,
    text: (row) => (row.value === null ? '' : amountInWords(row.value)),
    sort: (row) => (row.value === null ? null : Number(row.value)),
    from: 500,
  },
];

/** Purchase orders, what is due first; overdue ones say so. */
@Component({
  selector: 'nock-purchase-list',
  imports: [ListCell, ListChoice, ListPage, RouterLink, MatButton, DayPipe, SupplyNav],
  template: `
    <nock-list
      heading="Supply"
      what="purchase orders"
      label="Purchase orders"
      hint="filter by number, supplier, item, order"
      [q]="q()"
      [columns]="columns"
      [rows]="rows()"
      [key]="idOf"
      [none]="fault() || 'No purchase order matches.'"
      (opened)="open($event)"
    >
      <nock-list-choice which what="Which purchase orders" [choices]="states" [chosen]="which()" (choose)="filter({ state: $event })" />
      @if (maySell()) {
        <a beside mat-flat-button routerLink="/supply/new">New purchase order</a>
      }
      <nock-supply-nav below />
      <ng-template nockCell="state" [nockCellOf]="rows()" let-row>
        {{ row.state }}
        @if (row.toLook) {
          <b class="look">review the response</b>
        }
      </ng-template>
      <ng-template nockCell="expected" [nockCellOf]="rows()" let-row>
        {{ row.expectedDay | day }}
        @if (row.overdue) {
          <b class="late">overdue</b>
        }
      </ng-template>
    </nock-list>
  `,
  styles: `
    .look {
      color: var(--open);
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchaseList {
  private readonly router = inject(Router);
  protected readonly filter = addressWords();
  protected readonly states = STATES;
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: PurchaseRow) => row.id;
  protected readonly maySell = inject(Session).maySell;
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly PurchaseRow[]>([]);
  protected readonly fault = signal('');

  constructor() {
    const api = inject(Api);
    keptList({
      q: this.q,
      state: this.which,
      load: (query) => api.call(supplyRoutes.listPurchases, { query }),
      topics: 'purchase:',
      fault: this.fault,
    }).subscribe((rows) => this.rows.set(rows));
  }

  protected open(row: PurchaseRow): void {
    void this.router.navigate(['/supply', row.id]);
  }
}

/** `Marrowby, bought for 20417`, or the customer whom the supplier ships it to. */
function goesTo(row: PurchaseRow): string {
  if (row.kind === 'drop_ship') return `the customer of order ${row.order}`;
  return `${row.warehouse}${row.order ? `, bought for ${row.order}` : ''}`;
}
