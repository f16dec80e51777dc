import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { pricingRoutes, type ContractRow, type PriceListRow } from '@nockwright/contract/pricing';
import { catchError, of } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { keptList, Live } from '../live';
import { addressWords, DayPipe, FilterField, ListChoice, rowKey, wordOf } from '../paper';

const STATES = [
  ['in_force', 'in force'],
  ['coming', 'coming'],
  ['ended', 'ended'],
  ['all', 'all'],
] as const;
/** Contracts that end within so many days say so. */
const SOON = 14;

/** Contracts, what ends first before the rest, how much of each is used; and the price lists. */
@Component({
  selector: 'nock-contract-list',
  imports: [RouterLink, MatButton, DayPipe, FilterField, ListChoice],
  template: `
    <div class="list-head">
      <h1>Prices</h1>
      <nock-filter what="contracts" [text]="q() ?? ''" (typed)="filter({ q: $event || null })" hint="filter by number, name, customer" />
      <nock-list-choice what="Which contracts" [choices]="states" [chosen]="which()" (choose)="filter({ state: $event })" />
      @if (mayWrite()) {
        <button mat-flat-button type="button" (click)="make()" [disabled]="making()">New contract</button>
      }
      <p class="lists">
        @for (list of lists(); track list.code) {
          <a [routerLink]="['/prices/lists', list.code]">{{ list.name }}</a>
          <span class="quiet"> {{ list.prices }} prices{{ list.customers > 0 ? ', ' + list.customers + ' customers' : '' }}</span>
        }
      </p>
    </div>
    <table class="ruled" aria-label="Contracts">
      <thead>
        <tr>
          <th>Contract</th>
          <th>Name</th>
          <th>Customers</th>
          <th>From</th>
          <th>Until</th>
          <th class="figure">Lines</th>
          <th class="figure">Used of its most</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.id) {
          <tr tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
            <td>
              <a class="code" [routerLink]="['/prices/contracts', row.id]" tabindex="-1">{{ row.number }}</a>
            </td>
            <td>{{ row.name }}</td>
            <td class="customers">{{ row.customers || 'nobody yet' }}</td>
            <td>{{ row.firstDay | day }}</td>
            <td>
              {{ row.lastDay | day }}
              @if (row.endsIn !== null && row.endsIn <= soon) {
                <b class="late">{{ row.endsIn === 0 ? 'last day' : row.endsIn === 1 ? 'one day left' : row.endsIn + ' days left' }}</b>
              } @else if (row.state !== 'in_force') {
                <span class="quiet">{{ row.state }}</span>
              }
            </td>
            <td class="figure">{{ row.lines }}</td>
            <td class="figure" [class.late]="row.used !== null && +row.used >= 90">{{ row.used === null ? '–' : row.used + ' %' }}</td>
          </tr>
        } @empty {
          <tr>
            <td colspan="7" class="quiet none">{{ fault() || 'No contract matches.' }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    .lists {
      margin: 0 0 0 auto;
    }
    .lists a {
      margin-left: 14px;
    }
    tbody tr {
      cursor: pointer;
      height: 34px;
    }
    .customers {
      max-width: 380px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .late {
      color: var(--late);
    }
    b.late {
      margin-left: 6px;
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

  protected key(event: KeyboardEvent, row: ContractRow): void {
    rowKey(event, () => this.open(row));
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
