import { afterNextRender, ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import { Router, RouterLink } from '@angular/router';
import { orderRoutes, type OrderRow } from '@nockwright/contract/orders';
import { catchError, combineLatest, debounceTime, EMPTY, switchMap, tap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, DayPipe, FilterField, StateMark, type CoverState } from '../paper';
import { RulerHead, RulerRow, rulerScale } from '../ruler';

const STATES = ['open', 'draft', 'held', 'waiting', 'quote', 'done', 'all'] as const;
type State = (typeof STATES)[number];

/** All orders, newest first, each with its days on one ruler. What is typed filters; the address keeps it. */
@Component({
  selector: 'nock-order-list',
  imports: [FilterField, RouterLink, MatButton, MatFormField, MatSelect, MatOption, AmountPipe, DayPipe, StateMark, RulerHead, RulerRow],
  template: `
    <div class="list-head">
      <h1>Orders</h1>
      <nock-filter what="orders" [text]="q() ?? ''" (typed)="filter($event)" hint="filter by number, customer, town, their order no." />
      <mat-form-field class="state">
        <mat-select aria-label="Which orders" [value]="which()" (selectionChange)="narrow($event.value)">
          <mat-option value="open">open</mat-option>
          <mat-option value="draft">drafts</mat-option>
          <mat-option value="held">held</mat-option>
          <mat-option value="waiting">with something waiting</mat-option>
          <mat-option value="quote">quotes</mat-option>
          <mat-option value="done">done</mat-option>
          <mat-option value="all">all</mat-option>
        </mat-select>
      </mat-form-field>
      @if (maySell()) {
        <a mat-flat-button routerLink="/orders/new">New order <kbd>N</kbd></a>
      }
    </div>
    <table class="ruled" aria-label="Orders">
      <thead>
        <tr>
          <th>Order</th>
          <th>Customer</th>
          <th>Their no.</th>
          <th class="figure">Lines</th>
          <th class="figure">Net</th>
          <th>Asked</th>
          <th class="ruler"><nock-ruler-head [scale]="scale()" [today]="today()" /><span class="visually-hidden">Days</span></th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.id) {
          <tr #line tabindex="0" (click)="open(row)" (keydown)="handle($event, row, $index)">
            <td>
              <a class="code" [routerLink]="['/orders', row.id]" tabindex="-1">{{ row.number ?? (row.kind === 'quote' ? 'quote' : 'draft') }}</a>
            </td>
            <td>
              {{ row.customer }} <span class="quiet small">{{ row.town }}</span>
            </td>
            <td class="small">{{ row.poNumber }}</td>
            <td class="figure">{{ row.lines }}</td>
            <td class="figure">{{ row.amount | amount }}</td>
            <td>{{ row.requestedDay | day }}</td>
            <td class="ruler">
              <nock-ruler-row
                [scale]="scale()"
                [requested]="row.requestedDay"
                [schedule]="row.promisedDay ? [{ day: row.promisedDay, quantity: '', kept: true, dropShip: false, arrives: null, broken: false }] : []"
              />
            </td>
            <td>
              <nock-state
                [state]="coverOf(row)"
                [words]="row.waiting > 0 ? row.progress + ', ' + row.waiting + ' open' : row.atRisk ? 'at risk' : row.progress"
              />
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="8" class="quiet none">
              {{ loading() ? 'Fetching the orders …' : fault() || 'No order matches. Clear the filter, or press N for a new order.' }}
            </td>
          </tr>
        }
      </tbody>
    </table>
    @if (next()) {
      <button mat-button type="button" class="more" (click)="more()">Show more</button>
    }
  `,
  styles: `
    .state {
      width: 190px;
    }
    td {
      height: 44px;
      white-space: nowrap;
    }
    .more {
      margin: 10px 0;
    }
    td:nth-child(2) {
      max-width: 270px;
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderListPage {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  private readonly search = viewChild.required(FilterField);
  readonly q = input<string>();
  readonly state = input<string>();

  protected readonly which = computed<State>(() => STATES.find((name) => name === this.state()) ?? 'open');
  protected readonly rows = signal<readonly OrderRow[]>([]);
  protected readonly next = signal<number | null>(null);
  protected readonly loading = signal(true);
  protected readonly fault = signal('');
  protected readonly today = computed(() => this.session.today());
  protected readonly scale = computed(() =>
    rulerScale(
      this.today(),
      this.rows().flatMap((row) => (row.progress === 'shipped' ? [] : [row.requestedDay, ...(row.promisedDay ? [row.promisedDay] : [])])),
      284,
    ),
  );

  constructor() {
    combineLatest([toObservable(this.q), toObservable(this.which)])
      .pipe(
        debounceTime(80),
        tap(() => this.loading.set(true)),
        switchMap(([search, state]) =>
          this.live.kept(
            () => this.load(search, state),
            (topic) => topic.startsWith('order:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ rows, next }) => {
        this.rows.set(rows);
        this.next.set(next);
        this.loading.set(false);
      });
    afterNextRender(() => this.search().focus());
  }

  protected filter(text: string): void {
    void this.router.navigate([], { queryParams: { q: text || null }, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected narrow(state: State): void {
    void this.router.navigate([], { queryParams: { state: state === 'open' ? null : state }, queryParamsHandling: 'merge' });
  }

  protected more(): void {
    const before = this.next();
    if (before === null) return;
    this.load(this.q(), this.which(), before).subscribe(({ rows, next }) => {
      this.rows.update((known) => [...known, ...rows]);
      this.next.set(next);
    });
  }

  protected open(row: OrderRow): void {
    void this.router.navigate(['/orders', row.id]);
  }

  protected handle(event: KeyboardEvent, row: OrderRow, at: number): void {
    const rows = [...(event.currentTarget as HTMLElement).parentElement!.children] as HTMLElement[];
    if (event.key === 'Enter') this.open(row);
    else if (event.key === 'ArrowDown') rows[at + 1]?.focus();
    else if (event.key === 'ArrowUp') (rows[at - 1] ?? this.search()).focus();
    else return;
    event.preventDefault();
  }

  protected coverOf(row: OrderRow): CoverState {
    if (row.progress === 'held') return 'uncovered';
    if (row.state !== 'released' || row.progress === 'shipped' || row.progress === 'cancelled') return 'done';
    if (row.atRisk) return 'late';
    if (row.waiting > 0) return 'uncovered';
    return row.promisedDay !== null && row.promisedDay > row.requestedDay ? 'late' : 'covered';
  }

  private load(search: string | undefined, state: State, before?: number) {
    return this.api.call(orderRoutes.listOrders, { query: { ...(search ? { search } : {}), state, ...(before ? { before } : {}) } }).pipe(
      catchError((error: Error) => {
        this.fault.set(error.message);
        this.loading.set(false);
        return EMPTY;
      }),
    );
  }
}
