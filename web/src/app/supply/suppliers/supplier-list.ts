import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type Supplier } from '@nockwright/contract/supply';
import { catchError, EMPTY } from 'rxjs';
import { Api } from '../../api';
import { Live } from '../../live';
import { addressWords, FilterField, rowKey } from '../../paper';
import { SupplyNav } from '../supply-nav';

/** Suppliers, with what is open at them and how they deliver. */
@Component({
  selector: 'nock-supplier-list',
  imports: [RouterLink, FilterField, SupplyNav],
  template: `
    <div class="list-head">
      <h1>Suppliers</h1>
      <nock-filter what="suppliers" [text]="q() ?? ''" (typed)="go({ q: $event || null })" hint="filter by name" />
    </div>
    <nock-supply-nav />
    <table class="ruled" aria-label="Suppliers">
      <thead>
        <tr>
          <th>Supplier</th>
          <th class="figure">Working days</th>
          <th class="figure">Items</th>
          <th class="figure">Open orders</th>
          <th class="figure">Overdue</th>
          <th class="figure">On time</th>
          <th class="figure">Receipts</th>
          <th>Ships to customers</th>
          <th>Takes files</th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.code) {
          <tr tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
            <td>
              <a [routerLink]="['/supply/suppliers', row.code]" tabindex="-1">{{ row.name }}</a>
            </td>
            <td class="figure">{{ row.leadDays }}</td>
            <td class="figure">{{ row.items }}</td>
            <td class="figure">{{ row.openOrders }}</td>
            <td class="figure" [class.late]="row.overdueOrders > 0">{{ row.overdueOrders || '' }}</td>
            <td class="figure">{{ row.onTimePercent === null ? '' : row.onTimePercent + ' %' }}</td>
            <td class="figure">{{ row.receipts }}</td>
            <td>{{ row.dropShips ? 'yes' : '' }}</td>
            <td>{{ row.exchanges ? 'yes' : '' }}</td>
          </tr>
        } @empty {
          <tr>
            <td colspan="9" class="none quiet">{{ fault() || 'No supplier matches.' }}</td>
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
      font-weight: 600;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierList {
  private readonly router = inject(Router);
  protected readonly go = addressWords();
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

  protected key(event: KeyboardEvent, row: Supplier): void {
    rowKey(event, () => this.open(row));
  }
}
