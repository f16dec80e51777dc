import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { supplyRoutes, type ReorderRow } from '@nockwright/contract/supply';
import { plus, sum } from '@nockwright/core/money';
import { combineLatest, debounceTime, Subject, switchMap, catchError, EMPTY, startWith } from 'rxjs';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import {
  addressWords,
  amountInWords,
  AmountPipe,
  type Choice,
  DayPipe,
  isQuantity,
  Keys,
  ListCell,
  ListChoice,
  type ListColumn,
  ListPage,
  PricePipe,
  QuantityField,
  Sheet,
  UnitPipe,
  wordOf,
} from '../../paper';
import { Places } from '../places';
import { SupplyNav } from '../supply-nav';
import { ReorderPolicyForm } from './reorder-policy-form';

const WHICH = [
  ['due', 'to be bought'],
  ['all', 'all that is asked for'],
] as const;
const EVERYWHERE = '';

interface Wish {
  readonly quantity?: string;
  readonly supplier?: string;
}

/** What to buy next: items at or under their reorder point, chosen and put on draft purchase orders in one act. */
@Component({
  selector: 'nock-reorder-list',
  imports: [
    RouterLink,
    MatButton,
    AmountPipe,
    DayPipe,
    PricePipe,
    UnitPipe,
    ListCell,
    ListChoice,
    ListPage,
    QuantityField,
    Sheet,
    SupplyNav,
    ReorderPolicyForm,
  ],
  templateUrl: './reorder-list.html',
  styleUrl: './reorder-list.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReorderList {
  private readonly api = inject(Api);
  private readonly warehouses = inject(Places).warehouses;
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly currency = this.session.currency;
  protected readonly go = addressWords();
  readonly q = input<string>();
  readonly warehouse = input<string>();
  readonly which = input<string>();
  protected readonly choices = WHICH;
  protected readonly keyOf = (row: ReorderRow) => `${row.item}/${row.warehouse}`;
  protected readonly columns: readonly ListColumn<ReorderRow>[] = [
    { id: 'item', name: 'Item', text: (row) => `${row.item} ${row.warehouse}`, sort: (row) => row.item },
    { id: 'position', name: 'Net position', figure: true, text: (row) => amountInWords(row.position), sort: (row) => Number(row.position), from: 700 },
    { id: 'point', name: 'Reorder at', figure: true, text: (row) => amountInWords(row.point), sort: (row) => Number(row.point), from: 640 },
    { id: 'use', name: 'Daily use', figure: true, text: (row) => String(row.perDay), sort: (row) => row.perDay, from: 780 },
    { id: 'buy', name: 'Buy', figure: true, text: (row) => this.quantityOf(row) },
    {
      id: 'from',
      name: 'From',
      from: 430,
      text: (row) => row.suppliers.find((one) => one.code === this.supplierOf(row))?.name ?? row.supplierName,
      sort: (row) => row.supplierName,
    },
    { id: 'value', name: 'Value', figure: true, text: (row) => this.valueOf(row), sort: (row) => Number(this.valueOf(row)), from: 600 },
  ];
  protected readonly chosen = computed(() => wordOf(WHICH, this.which()));
  protected readonly places = computed((): readonly Choice[] => [
    [EVERYWHERE, 'all warehouses'],
    ...this.warehouses().map((place): Choice => [place.code, place.name]),
  ]);
  protected readonly rows = signal<readonly ReorderRow[]>([]);
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  protected readonly at = signal<string | null>(null);
  protected readonly row = computed(() => this.rows().find((row) => this.keyOf(row) === this.at()) ?? this.rows()[0] ?? null);
  protected readonly picked = signal<ReadonlySet<string | number>>(new Set());
  private readonly wishes = signal<ReadonlyMap<string, Wish>>(new Map());
  protected readonly chosenRows = computed(() => this.rows().filter((row) => this.picked().has(this.keyOf(row))));
  protected readonly total = computed(() => sum(this.chosenRows().map((row) => this.valueOf(row))));
  protected readonly made = signal<readonly { readonly id: number; readonly number: string; readonly supplier: string; readonly lines: number }[]>([]);
  protected readonly again = new Subject<void>();

  constructor() {
    const live = inject(Live);
    combineLatest([toObservable(this.q), toObservable(this.warehouse), toObservable(this.chosen), this.again.pipe(startWith(undefined))])
      .pipe(
        debounceTime(80),
        switchMap(([search, warehouse, which]) =>
          live.kept(
            () =>
              this.api
                .call(supplyRoutes.listReorder, { query: { which, ...(search ? { search } : {}), ...(warehouse ? { warehouse } : {}) } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('item:') || topic.startsWith('purchase:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => {
        this.rows.set(rows);
        this.loaded.set(true);
      });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'put what is chosen on drafts', run: () => this.buy() },
      { key: 'A', does: 'choose all that is shown', run: () => this.all() },
    ]);
  }

  protected short(row: ReorderRow): boolean {
    return Number(row.position) <= Number(row.point);
  }

  protected expected(row: ReorderRow): string {
    return String(Math.max(0, Number(row.point) - Number(row.safety)));
  }

  protected supplierOf(row: ReorderRow): string {
    return this.wishes().get(this.keyOf(row))?.supplier ?? row.supplier;
  }

  /** As it was typed; until then what the supplier chosen sells it in. */
  protected quantityOf(row: ReorderRow): string {
    return this.wishes().get(this.keyOf(row))?.quantity ?? row.suppliers.find((one) => one.code === this.supplierOf(row))?.quantity ?? row.quantity;
  }

  protected suppliersOf(row: ReorderRow): readonly Choice[] {
    return row.suppliers.map((one): Choice => [one.code, one.name]);
  }

  protected valueOf(row: ReorderRow): string {
    const cost = row.suppliers.find((one) => one.code === this.supplierOf(row))?.cost ?? row.cost;
    const quantity = this.quantityOf(row);
    return isQuantity(quantity) ? plus('0', (Number(quantity) * Number(cost)).toFixed(2)) : '0';
  }

  /** What is typed of a row is meant to be bought. */
  protected wish(row: ReorderRow, wish: Wish): void {
    this.wishes.update((wishes) => new Map(wishes).set(this.keyOf(row), { ...wishes.get(this.keyOf(row)), ...wish }));
    this.picked.update((picked) => new Set([...picked, this.keyOf(row)]));
  }

  protected turn(row: ReorderRow): void {
    if (!this.maySell()) return;
    const key = this.keyOf(row);
    this.picked.update((picked) => (picked.has(key) ? new Set([...picked].filter((one) => one !== key)) : new Set([...picked, key])));
  }

  protected all(): boolean {
    if (!this.maySell()) return false;
    this.picked.set(new Set(this.rows().map((row) => this.keyOf(row))));
    return true;
  }

  protected buy(): boolean {
    const rows = this.chosenRows();
    if (rows.length === 0 || this.busy() || !this.maySell()) return false;
    const wrong = rows.find((row) => !isQuantity(this.quantityOf(row)) || Number(this.quantityOf(row)) === 0);
    if (wrong) {
      this.said.set(`${wrong.item}: expected a quantity.`);
      return true;
    }
    this.busy.set(true);
    this.said.set('');
    const lines = rows.map((row) => ({ item: row.item, warehouse: row.warehouse, supplier: this.supplierOf(row), quantity: this.quantityOf(row) }));
    this.api.call(supplyRoutes.buyToStock, { body: { lines } }).subscribe({
      next: ({ purchases }) => {
        this.busy.set(false);
        this.made.set(purchases);
        this.picked.set(new Set());
        this.wishes.set(new Map());
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.said.set(error.message);
      },
    });
    return true;
  }
}
