import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type InsideRow } from '@nockwright/contract/supply';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { addressWords, DayPipe, ListCell, ListChoice, ListPage, wordOf, type ListColumn } from '../../paper';
import { SupplyNav } from '../supply-nav';

const STATES = [
  ['open', 'under way'],
  ['all', 'all'],
] as const;
const STATE_NAMES = { open: 'not shipped', shipped: 'inbound', closed: 'done', cancelled: 'cancelled' } as const;

/** Where a transfer or an assembly is read. */
const linkOf = ({ kind, id }: InsideRow) => ['/supply', kind === 'transfer' ? 'transfers' : 'assemblies', id];
const whatOf = (row: InsideRow) => (row.kind === 'transfer' ? `${row.what}, ${row.lines} ${row.lines === 1 ? 'line' : 'lines'}` : row.what);

const COLUMNS: readonly ListColumn<InsideRow>[] = [
  { id: 'number', name: 'Number', text: (row) => row.number, sort: (row) => row.number, link: linkOf },
  { id: 'what', name: 'Goods', text: whatOf, sort: whatOf },
  { id: 'state', name: 'State', text: (row) => STATE_NAMES[row.state], sort: (row) => STATE_NAMES[row.state] },
  { id: 'expected', name: 'Expected', text: (row) => row.expectedDay, sort: (row) => row.expectedDay },
];

/** Goods that move between our warehouses or are put together in them, what is due first. */
@Component({
  selector: 'nock-inside-list',
  imports: [RouterLink, MatButton, DayPipe, ListCell, ListChoice, ListPage, SupplyNav],
  template: `
    <nock-list
      heading="Transfers and assemblies"
      what="transfers and assemblies"
      label="Transfers and assemblies"
      [columns]="columns"
      [rows]="rows()"
      [key]="keyOf"
      [none]="fault() || (loaded() ? 'No transfers and no assemblies.' : 'Fetching transfers and assemblies …')"
      (opened)="open($event)"
    >
      <nock-list-choice which what="Which transfers and assemblies" [choices]="choices" [chosen]="which()" (choose)="go({ state: $event })" />
      @if (maySell()) {
        <ng-container beside>
          <a mat-flat-button class="first" routerLink="/supply/transfers/new">New transfer</a>
          <a mat-stroked-button routerLink="/supply/assemblies/new">New assembly</a>
        </ng-container>
      }
      <nock-supply-nav below />
      <ng-template nockCell="expected" [nockCellOf]="rows()" let-row>
        {{ row.expectedDay | day }}
        @if (row.expectedDay < today() && (row.state === 'open' || row.state === 'shipped')) {
          <b class="late">overdue</b>
        }
      </ng-template>
    </nock-list>
  `,
  styles: `
    .first {
      margin-left: auto;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InsideList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly today = computed(() => this.session.today());
  protected readonly maySell = this.session.maySell;
  protected readonly go = addressWords();
  readonly state = input<string>();
  protected readonly choices = STATES;
  protected readonly columns = COLUMNS;
  protected readonly keyOf = (row: InsideRow) => `${row.kind}/${row.id}`;
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly InsideRow[]>([]);
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    toObservable(this.which)
      .pipe(
        switchMap((state) =>
          live.kept(
            () => api.call(supplyRoutes.listInside, { query: { state } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('transfer:') || topic.startsWith('assembly:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => {
        this.rows.set(rows);
        this.loaded.set(true);
      });
  }

  protected open(row: InsideRow): void {
    void this.router.navigate(linkOf(row));
  }
}
