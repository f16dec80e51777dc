import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { pricingRoutes, type ContractRow, type PriceListRow } from '@nockwright/contract/pricing';
import { catchError, of } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { keptList, Live } from '../live';
import { addressWords, DayPipe, ListCell, ListChoice, ListPage, wordOf, type ListColumn } from '../paper';

const STATES = [
  ['in_force', 'in force'],
  ['coming', 'coming'],
  ['ended', 'ended'],
  ['all', 'all'],
] as const;
/** Contracts that end within so many days say so. */
const SOON = 14;

const COLUMNS: readonly ListColumn<ContractRow>[] = [
  { id: 'number', name: 'Contract', text: (row) => row.number, sort: (row) => row.number, link: (row) => ['/prices/contracts', row.id] },
  { id: 'name', name: 'Name', text: (row) => row.name, sort: (row) => row.name },
  { id: 'customers', name: 'Customers', text: (row) => row.customers || 'nobody yet', sort: (row) => row.customers, from: 700 },
  { id: 'from', name: 'From', text: (row) => row.firstDay, sort: (row) => row.firstDay, from: 560 },
  { id: 'until', name: 'Until', text: (row) => row.lastDay, sort: (row) => row.lastDay },
  { id: 'lines', name: 'Lines', figure: true, text: (row) => String(row.lines), sort: (row) => row.lines, from: 500 },
  {
    id: 'used',
    name: 'Used, %',
    title: 'Of the most that may be bought',
    figure: true,
    text: (row) => row.used ?? '–',
    sort: (row) => (row.used === null ? null : Number(row.used)),
  },
];

/** Contracts, what ends first before the rest, how much of each is used; and the price lists. */
@Component({
  selector: 'nock-contract-list',
  imports: [RouterLink, MatButton, DayPipe, ListCell, ListChoice, ListPage],
  template: `
    <nock-list
      heading="Prices"
      what="contracts"
      label="Contracts"
      hint="filter by number, name, customer"
      [q]="q()"
      [columns]="columns"
      [rows]="rows()"
      [key]="idOf"
      [none]="fault() || 'No contract matches.'"
      (opened)="open($event)"
    >
      <nock-list-choice which what="Which contracts" [choices]="states" [chosen]="which()" (choose)="filter({ state: $event })" />
      @if (mayWrite()) {
        <button beside mat-flat-button type="button" (click)="make()" [disabled]="making()">New contract</button>
      }
      <p below class="lists">
        Price lists:
        @for (list of lists(); track list.code) {
          <a [routerLink]="['/prices/lists', list.code]">{{ list.name }}</a>
          <span class="quiet"> {{ list.prices }} prices{{ list.customers > 0 ? ', ' + list.customers + ' customers' : '' }}</span>
        }
      </p>
      <ng-template nockCell="customers" [nockCellOf]="rows()" let-row>
        <div class="customers" [title]="row.customers">{{ row.customers || 'nobody yet' }}</div>
      </ng-template>
      <ng-template nockCell="from" [nockCellOf]="rows()" let-row>{{ row.firstDay | day }}</ng-template>
      <ng-template nockCell="until" [nockCellOf]="rows()" let-row>
        {{ row.lastDay | day }}
        @if (row.endsIn !== null && row.endsIn <= soon) {
          <b class="late">{{ row.endsIn === 0 ? 'last day' : row.endsIn === 1 ? 'one day left' : row.endsIn + ' days left' }}</b>
        } @else if (row.state !== 'in_force') {
          <span class="quiet">{{ row.state }}</span>
        }
      </ng-template>
      <ng-template nockCell="used" [nockCellOf]="rows()" let-row>
        <span [class.late]="row.used !== null && +row.used >= 90">{{ row.used ?? '–' }}</span>
      </ng-template>
    </nock-list>
  `,
  styles: `
    .lists {
      margin: 0 0 8px;
    }
    .lists a {
      margin-left: 14px;
    }
    .customers {
      max-width: 380px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContractList {
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly filter = addressWords();
  protected readonly states = STATES;
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: ContractRow) => row.id;
  protected readonly mayWrite = this.session.mayPlan;
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly soon = SOON;
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly ContractRow[]>([]);
  protected readonly lists = signal<readonly PriceListRow[]>([]);
  protected readonly fault = signal('');
  protected readonly making = signal(false);

  constructor() {
    const live = inject(Live);
    keptList({
      q: this.q,
      state: this.which,
      load: (query) => this.api.call(pricingRoutes.listContracts, { query }),
      topics: 'contract:',
      fault: this.fault,
    }).subscribe((rows) => this.rows.set(rows));
    live
      .kept(
        () => this.api.call(pricingRoutes.listPriceLists).pipe(catchError(() => of([]))),
        (topic) => topic.startsWith('price_list:'),
      )
      .pipe(takeUntilDestroyed())
      .subscribe((lists) => this.lists.set(lists));
  }

  protected open(row: { readonly id: number }): void {
    void this.router.navigate(['/prices/contracts', row.id]);
  }

  /** A contract for a year from today; its sheet asks the rest. */
  protected make(): void {
    const today = this.session.today();
    this.making.set(true);
    const lastDay = `${Number(today.slice(0, 4)) + 1}${today.slice(4).replace('-02-29', '-02-28')}`;
    this.api.call(pricingRoutes.createContract, { body: { name: 'New contract', firstDay: today, lastDay } }).subscribe({
      next: (contract) => this.open(contract),
      error: (error: Error) => {
        this.making.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
