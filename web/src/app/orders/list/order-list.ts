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
import { addressWords, FilterField, Keys, ListChoice, widthOf, wordOf } from '../../paper';
import { RulerHead, rulerScale } from '../../ruler';
import { ListViews } from './list-views';
import { ManyActs } from './many-acts';
import { ManyBar } from './many-bar';
import { COLUMNS, fitting, readColumns, writeColumns, type ColumnId } from './order-columns';
import { isOngoing, OrderRowCells } from './order-row';
import { OrderListStore, type ListFilter } from './order-list-store';

const STATES = [
  ['open', 'open'],
  ['draft', 'drafts'],
  ['held', 'held'],
  ['waiting', 'with a backorder'],
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
const ROW = 29;
const USUAL_WIDTH = 1240;
const SCROLL_BAR = 16;
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
  templateUrl: './order-list.html',
  styleUrl: './order-list.css',
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
  private readonly width = widthOf(USUAL_WIDTH);
  protected readonly shown = computed(() =>
    fitting(
      COLUMNS.filter((column) => this.columns().includes(column.id)),
      this.width() - SCROLL_BAR,
    ),
  );
  /** The window over a long list counts on it. */
  protected readonly rowHeight = ROW;
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
      (this.shown().find((column) => column.id === 'days')?.drawn ?? 300) - 16,
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
