import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { itemRoutes, type ItemRow } from '@nockwright/contract/items';
import { unitName } from '@nockwright/core/units';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { amountInWords, ListCell, ListPage, type ListColumn } from '../paper';

/** Items that are drawn at first. */
const PAGE = 60;

const COLUMNS: readonly ListColumn<ItemRow>[] = [
  { id: 'item', name: 'Item', text: (row) => row.code, link: (row) => ['/items', row.code] },
  { id: 'description', name: 'Description', text: (row) => `${row.description}${row.discontinued ? ', discontinued' : ''}` },
  { id: 'group', name: 'Group', text: (row) => row.group, from: 760 },
  { id: 'on_hand', name: 'On hand', figure: true, text: (row) => amountInWords(row.onHand) },
  { id: 'inbound', name: 'Inbound', figure: true, text: (row) => amountInWords(row.inbound), from: 560 },
  { id: 'committed', name: 'Committed', figure: true, text: (row) => amountInWords(row.committed), from: 640 },
  { id: 'available', name: 'Available', title: 'Available to promise', figure: true, text: (row) => amountInWords(row.available) },
  { id: 'backordered', name: 'Backordered', figure: true, text: (row) => (row.waiting === '0' ? '' : amountInWords(row.waiting)) },
  { id: 'unit', name: 'Unit', text: (row) => unitName(row.unit, '2'), from: 700 },
];

/** Items with what is on hand, inbound, committed and available to promise, over all warehouses. */
@Component({
  selector: 'nock-stock-list',
  imports: [ListCell, ListPage, RouterLink],
  template: `
    <nock-list
      heading="Items"
      what="items"
      label="Items"
      hint="filter by code, words, group"
      [q]="q()"
      [columns]="columns"
      [rows]="found().rows"
      [key]="codeOf"
      [none]="fault() || 'No item matches.'"
      [whole]="false"
      [more]="more()"
      (further)="most.set(most() + page)"
      (opened)="open($event)"
    >
      <a beside routerLink="/items/places">By place: bins, lots, quarantine</a>
      <ng-template nockCell="available" [nockCellOf]="found().rows" let-row>
        <b>{{ amount(row.available) }}</b>
      </ng-template>
      <ng-template nockCell="backordered" [nockCellOf]="found().rows" let-row>
        <b class="open">{{ row.waiting === '0' ? '' : amount(row.waiting) }}</b>
      </ng-template>
    </nock-list>
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockList {
  private readonly router = inject(Router);
  readonly q = input<string>();
  protected readonly page = PAGE;
  protected readonly columns = COLUMNS;
  protected readonly codeOf = (row: ItemRow) => row.code;
  protected readonly amount = amountInWords;
  protected readonly most = signal(PAGE);
  protected readonly found = signal<{ readonly rows: readonly ItemRow[]; readonly count: number }>({ rows: [], count: 0 });
  protected readonly more = computed(() => {
    const { rows, count } = this.found();
    return count > rows.length ? `Show more of the ${amountInWords(String(count))}` : '';
  });
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

  protected open(row: ItemRow): void {
    void this.router.navigate(['/items', row.code]);
  }
}
