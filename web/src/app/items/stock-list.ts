import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { itemRoutes, type ItemRow } from '@nockwright/contract/items';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, rowKey, UnitPipe, FilterField } from '../paper';

/** Items that are drawn at first. */
const PAGE = 60;

/** Items with what is on hand, promised, due and still to promise, over all warehouses. */
@Component({
  selector: 'nock-stock-list',
  imports: [FilterField, MatButton, RouterLink, AmountPipe, UnitPipe],
  template: `
    <div class="list-head">
      <h1>Items</h1>
      <nock-filter what="items" [text]="q() ?? ''" (typed)="filter($event)" hint="filter by code, words, group" />
      <a routerLink="/items/places">By place: bins, lots, quarantine</a>
    </div>
    <table class="ruled" aria-label="Items">
      <thead>
        <tr>
          <th>Item</th>
          <th>Description</th>
          <th>Group</th>
          <th class="figure">On hand</th>
          <th class="figure">Inbound</th>
          <th class="figure">Committed</th>
          <th class="figure" title="Available to promise">Available</th>
          <th class="figure">Backordered</th>
          <th>Unit</th>
        </tr>
      </thead>
      <tbody>
        @for (row of found().rows; track row.code) {
          <tr tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
            <td>
              <a class="code" [routerLink]="['/items', row.code]" tabindex="-1">{{ row.code }}</a>
            </td>
            <td>{{ row.description }}{{ row.discontinued ? ', discontinued' : '' }}</td>
            <td class="quiet">{{ row.group }}</td>
            <td class="figure">{{ row.onHand | amount }}</td>
            <td class="figure">{{ row.inbound | amount }}</td>
            <td class="figure">{{ row.committed | amount }}</td>
            <td class="figure">
              <b>{{ row.available | amount }}</b>
            </td>
            <td class="figure" [class.open]="row.waiting !== '0'">{{ row.waiting === '0' ? '' : (row.waiting | amount) }}</td>
            <td>{{ row.unit | unit: '2' }}</td>
          </tr>
        } @empty {
          <tr>
            <td colspan="9" class="quiet none">{{ fault() || 'No item matches.' }}</td>
          </tr>
        }
      </tbody>
    </table>
    @if (found().count > found().rows.length) {
      <button mat-button type="button" (click)="most.set(most() + page)">Show more of the {{ found().count + '' | amount }}</button>
    }
  `,
  styles: `
    tbody tr {
      cursor: pointer;
      height: 32px;
    }
    .open {
      color: var(--open);
      font-weight: 600;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockList {
  private readonly router = inject(Router);
  readonly q = input<string>();
  protected readonly page = PAGE;
  protected readonly most = signal(PAGE);
  protected readonly found = signal<{ readonly rows: readonly ItemRow[]; readonly count: number }>({ rows: [], count: 0 });
  protected readonly fault = signal('');

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    toObservable(computed(() => ({ most: this.most(), search: (this.q() ?? '').slice(0, 100) })))
      .pipe(
        switchMap(({ most, search }) =>
          live.kept(
            () =>
              api
                .call(itemRoutes.listStock, { query: { most, ...(search ? { search } : {}) } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('item:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((found) => this.found.set(found));
  }

  protected filter(q: string): void {
    void this.router.navigate([], { queryParams: { q: q || null }, replaceUrl: true });
  }

  protected open(row: ItemRow): void {
    void this.router.navigate(['/items', row.code]);
  }

  protected key(event: KeyboardEvent, row: ItemRow): void {
    rowKey(event, () => this.open(row));
  }
}
