import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { ORDER_SORTS, type OrderRow, type OrderSort } from '@nockwright/contract/orders';
import { debounceTime, distinctUntilChanged } from 'rxjs';
import { Session } from '../../access';
import { addressWords, FilterField, Keys, ListChoice, wordOf } from '../../paper';
import { RulerHead, rulerScale } from '../../ruler';
import { ListViews } from './list-views';
import { ManyActs } from './many-acts';
import { ManyBar } from './many-bar';
import { COLUMNS, readColumns, writeColumns, type ColumnId } from './order-columns';
import { isOngoing, OrderRowCells } from './order-row';
import { OrderListStore, type ListFilter } from './order-list-store';

const STATES = [
  ['open', 'open'],
  ['draft', 'drafts'],
  ['held', 'held'],
  ['waiting', 'with something waiting'],
  ['quote', 'quotes'],
  ['done', 'done'],
  ['all', 'all'],
] as const;
/** The columns the list can be sorted by. */
const SORTED: Partial<Record<ColumnId, OrderSort>> = {
  order: 'newest',
  customer: 'customer',
  net: 'amount',
  asked: 'requested',
  days: 'promised',
  promised: 'promised',
};
/** Rows from the end at which the page behind them is fetched. */
const AHEAD = 30;
const ROW = 33;
const ROW_WITH_RULER = 45;
/** What the address keeps of the list. */
const KEPT = ['q', 'state', 'sort', 'reverse', 'cols'] as const;

/** All orders and quotes, each with its days on one ruler: filtered as typed, sorted, a hundred thousand as smooth as ten. The address keeps it all. */
@Component({
  selector: 'nock-order-list',
  imports: [
    CdkFixedSizeVirtualScroll,
    CdkVirtualForOf,
    CdkVirtualScrollViewport,
    FilterField,
    RouterLink,
    MatButton,
    ListChoice,
    ListViews,
    ManyBar,
    OrderRowCells,
    RulerHead,
  ],
  providers: [OrderListStore, ManyActs],
  template: `
    <div class="list-head">
      <h1>Orders</h1>
      <nock-filter
        what="orders"
        [text]="q() ?? ''"
        (typed)="go({ q: $event || null })"
        (left)="focusFirst()"
        hint="filter by number, customer, town, their order no."
      />
      <nock-list-choice what="Which orders" [choices]="states" [chosen]="which()" (choose)="go({ state: $event })" />
      <nock-list-views [query]="query()" [shown]="columns()" (taken)="take($event)" (changed)="go({ cols: writeColumns($event) })" />
      @if (maySell()) {
        <a mat-flat-button routerLink="/orders/new">New order <kbd>Ctrl Enter</kbd></a>
      }
    </div>
    <cdk-virtual-scroll-viewport [itemSize]="rowHeight()" minBufferPx="500" maxBufferPx="900" (scrolledIndexChange)="reach($event)">
      <table class="ruled" aria-label="Orders" [attr.aria-rowcount]="store.next() ? -1 : store.rows().length + 1">
        <colgroup>
          <col class="mark" />
          @for (column of shown(); track column.id) {
            <col [style.width.px]="column.width || null" />
          }
        </colgroup>
        <thead [style.top.px]="-offset()">
          <tr>
            <th></th>
            @for (column of shown(); track column.id) {
              <th
                [class.figure]="isFigure(column.id)"
                [class.ruler]="column.id === 'days'"
                [attr.aria-sort]="sortOf(column.id) === by() ? (falls() ? 'descending' : 'ascending') : null"
              >
                @if (column.id === 'days') {
                  <nock-ruler-head [scale]="scale()" [today]="today()" /><span class="visually-hidden">Days</span>
                } @else if (sortOf(column.id); as sorting) {
                  <button type="button" class="sort" (click)="sortBy(sorting)" [attr.aria-label]="'Sort by ' + column.name">
                    {{ column.name }}<span aria-hidden="true">{{ sorting === by() ? (falls() ? ' ↓' : ' ↑') : '' }}</span>
                  </button>
                } @else {
                  {{ column.name }}
                }
              </th>
            }
          </tr>
        </thead>
        <tbody>
          <tr
            *cdkVirtualFor="let row of store.rows(); trackBy: byId; let at = index"
            [nock-order-row]="row"
            [shown]="shown()"
            [scale]="scale()"
            [risk]="store.risks().get(row.id)"
            [chosen]="chosen().has(row.id)"
            tabindex="0"
            [style.height.px]="rowHeight()"
            [attr.aria-rowindex]="at + 2"
            (turned)="turn(row.id)"
            (click)="open(row)"
            (keydown)="handle($event, row)"
          ></tr>
        </tbody>
      </table>
      @if (store.rows().length === 0) {
        <p class="quiet none" role="status">
          {{ store.loading() ? 'Fetching the orders …' : store.fault() || 'No order matches. Clear the filter, or press N for a new order.' }}
        </p>
      }
    </cdk-virtual-scroll-viewport>
    <footer>
      <nock-many-bar [chosen]="chosenIds()" [maySell]="maySell()" (cleared)="chosen.set(none)" />
      <span class="quiet small count" role="status">
        @if (store.come() > 0) {
          {{ store.come() }} came in: <button mat-button type="button" (click)="store.again()">show</button>
        }
        {{ store.rows().length }}{{ store.next() ? ' and more' : store.rows().length === 1 ? ' order' : ' orders' }}; <kbd>Space</kbd> chooses,
        <kbd>Ctrl A</kbd> all of them
      </span>
    </footer>
  `,
  styles: `
    :host {
      display: flex !important;
      flex-direction: column;
      height: 100%;
      box-sizing: border-box;
    }
    nock-list-choice {
      width: 190px;
    }
    nock-list-views {
      margin-left: auto;
    }
    .list-head > a {
      margin-left: 0;
    }
    cdk-virtual-scroll-viewport {
      flex: 1;
      min-height: 120px;
    }
    table {
      table-layout: fixed;
      min-width: 900px;
    }
    thead {
      position: sticky;
      z-index: 1;
    }
    th {
      background: var(--paper);
      vertical-align: bottom;
    }
    col.mark {
      width: 34px;
    }
    .sort {
      all: unset;
      cursor: pointer;
      font: inherit;
      color: inherit;
    }
    .sort:focus-visible {
      outline: 2px solid var(--act);
    }
    footer {
      display: flex;
      align-items: center;
      gap: 12px;
      border-top: 1px solid var(--rule);
      min-height: 46px;
    }
    .count {
      margin-left: auto;
      white-space: nowrap;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderListPage {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly go = addressWords();
  protected readonly states = STATES;
  protected readonly store = inject(OrderListStore);
  protected readonly maySell = this.session.maySell;
  private readonly search = viewChild.required(FilterField);
  private readonly viewport = viewChild.required(CdkVirtualScrollViewport);
  readonly q = input<string>();
  readonly state = input<string>();
  readonly sort = input<string>();
  readonly reverse = input<string>();
  readonly cols = input<string>();

  protected readonly none: ReadonlySet<number> = new Set();
  protected readonly writeColumns = writeColumns;
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly by = computed(() => ORDER_SORTS.find((name) => name === this.sort()) ?? 'newest');
  protected readonly reversed = computed(() => this.reverse() === '1');
  /** The greatest stands first. */
  protected readonly falls = computed(() => (this.by() === 'newest' || this.by() === 'amount') !== this.reversed());
  protected readonly columns = computed(() => readColumns(this.cols()));
  protected readonly shown = computed(() => COLUMNS.filter((column) => this.columns().includes(column.id)));
  /** Rows are as high as the ruler needs, or lower without it; the window over a long list counts on it. */
  protected readonly rowHeight = computed(() => (this.columns().includes('days') ? ROW_WITH_RULER : ROW));
  /** As the address has it, for a view that is kept. */
  protected readonly query = computed(() => {
    const values: Record<(typeof KEPT)[number], string | undefined> = {
      q: this.q(),
      state: this.state(),
      sort: this.sort(),
      reverse: this.reverse(),
      cols: this.cols(),
    };
    return new URLSearchParams(KEPT.flatMap((name) => (values[name] ? [[name, values[name]]] : []))).toString();
  });
  private readonly filter = computed(
    (): ListFilter => ({
      ...(this.q() ? { search: this.q()! } : {}),
      state: this.which(),
      sort: this.by(),
      ...(this.reversed() ? { reverse: true } : {}),
    }),
    { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
  );
  protected readonly today = computed(() => this.session.today());
  protected readonly scale = computed(() =>
    rulerScale(
      this.today(),
      this.store.rows().flatMap((row) => (isOngoing(row) ? [row.requestedDay, ...(row.promisedDay ? [row.promisedDay] : [])] : [])),
      284,
    ),
  );
  /** The orders that are chosen, by id; another list begins with none. */
  protected readonly chosen = linkedSignal({ source: this.filter, computation: () => this.none });
  protected readonly chosenIds = computed(() => {
    const chosen = this.chosen();
    return this.store.rows().flatMap((row) => (chosen.has(row.id) ? [row.id] : []));
  });
  /** How far the rows that are drawn stand from the top: the head stays where it is. */
  protected readonly offset = signal(0);

  constructor() {
    toObservable(this.filter)
      .pipe(debounceTime(80), distinctUntilChanged(), takeUntilDestroyed())
      .subscribe((filter) => {
        this.store.show(filter);
        this.viewport().scrollToOffset(0);
      });
    // The page behind the last row that is seen, where the window is higher than a page of rows.
    effect(() => {
      this.store.rows();
      untracked(() => setTimeout(() => this.reach(this.viewport().getRenderedRange().end)));
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'a new order, from the filter too', run: () => this.startOrder() },
      { key: 'Ctrl+A', does: 'choose all that are listed', run: () => this.chooseAll() },
      { key: ' ', does: 'choose the order, or not', run: () => false },
      { key: 'ArrowDown', does: 'to the orders', run: () => this.focusFirst() },
    ]);
    afterNextRender(() => {
      this.search().focus();
      const viewport = this.viewport();
      viewport.renderedRangeStream.subscribe(() => setTimeout(() => this.offset.set(viewport.getOffsetToRenderedContentStart() ?? 0)));
    });
  }

  protected byId(_: number, row: OrderRow): number {
    return row.id;
  }

  protected isFigure(id: ColumnId): boolean {
    return id === 'lines' || id === 'net';
  }

  protected sortOf(id: ColumnId): OrderSort | undefined {
    return SORTED[id];
  }

  private startOrder(): boolean {
    if (!this.maySell() || this.chosen().size > 0) return false;
    void this.router.navigateByUrl('/orders/new');
    return true;
  }

  protected sortBy(by: OrderSort): void {
    const again = by === this.by();
    this.go({ sort: by === 'newest' ? null : by, reverse: again && !this.reversed() ? '1' : null });
  }

  /** Shows a view that was kept. */
  protected take(query: string): void {
    void this.router.navigate([], { queryParams: Object.fromEntries(new URLSearchParams(query)) });
  }

  protected reach(index: number): void {
    if (index + AHEAD >= this.store.rows().length - 1 || this.viewport().getRenderedRange().end + AHEAD >= this.store.rows().length) this.store.more();
  }

  protected open(row: OrderRow): void {
    void this.router.navigate(['/orders', row.id]);
  }

  protected focusFirst(): boolean {
    const first = this.viewport().elementRef.nativeElement.querySelector<HTMLElement>('tbody tr');
    first?.focus();
    return first !== null;
  }

  /** Arrows go from order to order, with Shift choosing them on the way; Space chooses one, Enter opens it. */
  protected handle(event: KeyboardEvent, row: OrderRow): void {
    if (event.ctrlKey) return;
    const line = event.currentTarget as HTMLElement;
    const beside = event.key === 'ArrowDown' ? line.nextElementSibling : event.key === 'ArrowUp' ? line.previousElementSibling : null;
    if (event.key === 'Enter') this.open(row);
    else if (event.key === ' ') this.turn(row.id);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      if (event.shiftKey) this.turn(row.id, true);
      if (beside instanceof HTMLElement) beside.focus();
      else if (event.key === 'ArrowUp') this.search().focus();
    } else return;
    event.preventDefault();
  }

  protected turn(id: number, chosen = !this.chosen().has(id)): void {
    const next = new Set(this.chosen());
    if (chosen) next.add(id);
    else next.delete(id);
    this.chosen.set(next);
  }

  private chooseAll(): boolean {
    if (document.activeElement instanceof HTMLInputElement && document.activeElement.value !== '') return false;
    this.chosen.set(new Set(this.store.rows().map((row) => row.id)));
    return true;
  }
}
