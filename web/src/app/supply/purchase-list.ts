import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type PurchaseRow } from '@nockwright/contract/supply';
import { Session } from '../access';
import { Api } from '../api';
import { keptList } from '../live';
import { addressWords, AmountPipe, DayPipe, FilterField, ListChoice, rowKey, wordOf } from '../paper';
import { SupplyNav } from './supply-nav';

const STATES = [
  ['open', 'open'],
  ['look', 'to look at'],
  ['closed', 'closed'],
  ['all', 'all'],
] as const;

/** Purchase orders, what is due first; overdue ones say so. */
@Component({
  selector: 'nock-purchase-list',
  imports: [FilterField, ListChoice, RouterLink, MatButton, AmountPipe, DayPipe, SupplyNav],
  template: `
    <div class="list-head">
      <h1>Supply</h1>
      <nock-filter what="purchase orders" [text]="q() ?? ''" (typed)="filter({ q: $event || null })" hint="filter by number, supplier, item, order" />
      <nock-list-choice what="Which purchase orders" [choices]="states" [chosen]="which()" (choose)="filter({ state: $event })" />
      @if (maySell()) {
        <a mat-flat-button routerLink="/supply/new">New purchase</a>
      }
    </div>
    <nock-supply-nav />
    <table class="ruled" aria-label="Purchase orders">
      <thead>
        <tr>
          <th>Purchase</th>
          <th>Supplier</th>
          <th>Goes to</th>
          <th>State</th>
          <th>Expected</th>
          <th class="figure">Open lines</th>
          <th class="figure">Value</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.id) {
          <tr tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
            <td>
              <a class="code" [routerLink]="['/supply', row.id]" tabindex="-1">{{ row.number }}</a>
            </td>
            <td>{{ row.supplier }}</td>
            <td>
              {{ row.kind === 'drop_ship' ? 'the customer of order ' + row.order : row.warehouse
              }}{{ row.kind === 'stock' && row.order ? ', bought for ' + row.order : '' }}
            </td>
            <td>
              {{ row.state }}
              @if (row.toLook) {
                <b class="look">review the response</b>
              }
            </td>
            <td>
              {{ row.expectedDay | day }}
              @if (row.overdue) {
                <b class="late">overdue</b>
              }
            </td>
            <td class="figure">{{ row.openLines }} of {{ row.lines }}</td>
            <td class="figure">{{ row.value | amount }}</td>
          </tr>
        } @empty {
          <tr>
            <td colspan="7" class="quiet none">{{ fault() || 'No purchase order matches.' }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    tbody tr {
      cursor: pointer;
      height: 34px;
    }
    .late {
      color: var(--late);
      margin-left: 6px;
    }
    .look {
      color: var(--open);
      margin-left: 6px;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchaseList {
  private readonly router = inject(Router);
  protected readonly filter = addressWords();
  protected readonly states = STATES;
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

  protected key(event: KeyboardEvent, row: PurchaseRow): void {
    rowKey(event, () => this.open(row));
  }
}
