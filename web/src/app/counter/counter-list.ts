import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { counterRoutes, type BasketRow } from '@nockwright/contract/counter';
import { customerRoutes, type CustomerFound } from '@nockwright/contract/customers';
import { catchError, debounceTime, EMPTY, filter, of, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { addressWords, AmountPipe, Keys, ListChoice, TextField, type Choice } from '../paper';
import { Places } from '../supply';

/** Where a sale over the counter begins: for cash, for a customer, or with a basket that waits. */
@Component({
  selector: 'nock-counter-list',
  imports: [RouterLink, MatButton, AmountPipe, ListChoice, TextField],
  template: `
    <header>
      <h1>Counter</h1>
      <nock-list-choice what="Warehouse" [choices]="places()" [chosen]="at()" (choose)="go({ warehouse: $event })" />
    </header>
    <div class="acts">
      <button mat-flat-button type="button" (click)="start(null)" [disabled]="busy()">New cash sale <kbd>Ctrl Enter</kbd></button>
    </div>
    <nock-text-field fieldId="counter-customer" [(text)]="search">For a customer: name, number or town</nock-text-field>
    <ul aria-label="Customers found">
      @for (row of found(); track row.id) {
        <li>
          <button mat-button type="button" (click)="start(row.id)" [disabled]="busy()">{{ row.name }}</button>
          <span class="quiet">{{ row.number }}, {{ row.town }}</span>
        </li>
      }
    </ul>
    <p class="fault" role="alert">{{ fault() }}</p>
    <h2>
      Open baskets <span class="quiet">{{ baskets().length }}</span>
    </h2>
    <ul aria-label="Open baskets">
      @for (row of baskets(); track row.order) {
        <li>
          <a [routerLink]="['/counter', row.order]"
            ><b>{{ row.customer }}</b></a
          >
          <span>{{ row.lines }} {{ row.lines === 1 ? 'line' : 'lines' }}</span>
          <span class="figure">{{ row.total | amount }} {{ currency() }}</span>
          <span class="quiet">{{ row.openedBy }}</span>
        </li>
      } @empty {
        <li class="quiet">No basket is open.</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      max-width: 720px;
      padding: 12px 16px;
    }
    header,
    .acts {
      display: flex;
      gap: 14px;
      align-items: baseline;
      margin-bottom: 8px;
    }
    h1 {
      margin: 0;
    }
    h2 {
      margin-top: 20px;
      padding-bottom: 4px;
      border-bottom: 1px solid var(--rule);
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 14px;
      align-items: center;
      min-height: 44px;
      border-bottom: 1px solid var(--hairline);
    }
    li .figure {
      margin-left: auto;
    }
    .fault {
      color: var(--open);
      font-weight: 600;
    }
    .fault:empty {
      display: none;
    }
    @media (max-width: 820px) {
      button {
        min-height: 48px;
      }
      kbd {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CounterList {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly go = addressWords();
  readonly warehouse = input<string>();
  private readonly warehouses = inject(Places).warehouses;
  protected readonly currency = inject(Session).currency;
  protected readonly places = computed((): readonly Choice[] => this.warehouses().map((row) => [row.code, row.name] as const));
  protected readonly at = computed(() => this.warehouse() ?? this.warehouses()[0]?.code ?? '');
  protected readonly baskets = signal<readonly BasketRow[]>([]);
  protected readonly search = signal('');
  protected readonly found = signal<readonly CustomerFound[]>([]);
  protected readonly busy = signal(false);
  protected readonly fault = signal('');

  constructor() {
    const live = inject(Live);
    toObservable(this.at)
      .pipe(
        filter((warehouse) => warehouse !== ''),
        switchMap((warehouse) =>
          live.kept(
            () => this.api.call(counterRoutes.listBaskets, { query: { warehouse } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('basket:') || topic.startsWith('order:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => this.baskets.set(rows));
    toObservable(this.search)
      .pipe(
        debounceTime(150),
        switchMap((search) =>
          search.trim().length < 2 ? of([]) : this.api.call(customerRoutes.findCustomers, { query: { search: search.trim() } }).pipe(catchError(() => of([]))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => this.found.set(rows.slice(0, 8)));
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'new cash sale', run: () => this.start(null) }]);
  }

  protected start(customer: number | null): void {
    if (this.busy() || this.at() === '') return;
    this.busy.set(true);
    this.api.call(counterRoutes.startBasket, { body: { warehouse: this.at(), customer } }).subscribe({
      next: ({ order }) => void this.router.navigate(['/counter', order]),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
