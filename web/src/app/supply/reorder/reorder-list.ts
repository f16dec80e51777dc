import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatPseudoCheckbox } from '@angular/material/core';
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
  AmountPipe,
  DayPipe,
  FilterField,
  Keys,
  ListChoice,
  PricePipe,
  QuantityField,
  rowKey,
  Sheet,
  UnitPipe,
  wordOf,
  type Choice,
} from '../../paper';
import { QUANTITY } from '../../ripple';
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
    MatPseudoCheckbox,
    AmountPipe,
    DayPipe,
    PricePipe,
    UnitPipe,
    FilterField,
    ListChoice,
    QuantityField,
    Sheet,
    SupplyNav,
    ReorderPolicyForm,
  ],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <div class="list-head">
          <h1>What to buy</h1>
          <nock-filter what="items to buy" [text]="q() ?? ''" (typed)="go({ q: $event || null })" hint="filter by item, group, supplier" />
          <nock-list-choice what="Warehouse" [choices]="places()" [chosen]="warehouse() ?? ''" (choose)="go({ warehouse: $event })" />
          <nock-list-choice what="Which items" [choices]="choices" [chosen]="chosen()" (choose)="go({ which: $event })" />
        </div>
        <nock-supply-nav />
        <table class="ruled" aria-label="What to buy">
          <thead>
            <tr>
              <th class="pick"><span class="visually-hidden">Chosen</span></th>
              <th>Item</th>
              <th class="figure">Free and due</th>
              <th class="figure">Reorder at</th>
              <th class="figure">A day</th>
              <th class="figure">Buy</th>
              <th>From</th>
              <th class="figure">Value</th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track key(row)) {
              <tr tabindex="0" [class.marked]="key(row) === at()" (focus)="at.set(key(row))" (click)="at.set(key(row))" (keydown)="handle($event, row)">
                <td class="pick" (click)="turn(row)">
                  <mat-pseudo-checkbox [state]="picked().has(key(row)) ? 'checked' : 'unchecked'" />
                </td>
                <td>
                  <a class="code" [routerLink]="['/items', row.item]" tabindex="-1">{{ row.item }}</a><span class="quiet"> {{ row.warehouse }}</span>
                  <div class="small quiet">{{ row.description }}</div>
                </td>
                <td class="figure" [class.open]="short(row)">
                  {{ row.position | amount }}
                  @if (row.waiting !== '0') {
                    <div class="small open">{{ row.waiting | amount }} wait</div>
                  }
                </td>
                <td class="figure">{{ row.point | amount }}</td>
                <td class="figure">{{ row.perDay }}</td>
                <td class="figure">
                  @if (maySell()) {
                    <nock-quantity-field
                      [label]="'Quantity of ' + row.item + ' at ' + row.warehouse"
                      [quantity]="quantityOf(row)"
                      (typed)="wish(row, { quantity: $event })"
                    />
                  } @else {
                    {{ row.quantity | amount }}
                  }
                  <span class="quiet small">{{ row.unit | unit: '2' }}</span>
                </td>
                <td>
                  @if (row.suppliers.length > 1 && maySell()) {
                    <nock-list-choice
                      [what]="'Supplier of ' + row.item + ' at ' + row.warehouse"
                      [choices]="suppliersOf(row)"
                      [chosen]="supplierOf(row)"
                      (choose)="wish(row, { supplier: $event ?? row.supplier })"
                    />
                  } @else {
                    {{ row.supplierName }}
                  }
                </td>
                <td class="figure">{{ valueOf(row) | price }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="8" class="none quiet">{{ fault() || (loaded() ? 'Nothing is at its reorder point.' : 'Reckoning …') }}</td>
              </tr>
            }
          </tbody>
        </table>
      </ng-container>
      <ng-container gloss>
        @if (row(); as row) {
          <h2>{{ row.item }} at {{ row.warehouse }}</h2>
          <p>
            {{ row.onHand | amount }} on hand and {{ row.due | amount }} due, less {{ row.owed | amount }} owed: <b>{{ row.position | amount }}</b>
          </p>
          @if (row.waiting !== '0') {
            <p class="open">{{ row.waiting | amount }} wait on orders for a purchase that nobody has made: they have no day until it is bought.</p>
          }
          <p>
            {{ row.perDay }} are asked for on a working day, give or take {{ row.deviation }}. Ordered now, more can leave in {{ row.leadDays }} working days,
            give or take {{ row.leadDeviation }}.
          </p>
          <p>
            So {{ expected(row) | amount }} go meanwhile, and {{ row.safety | amount }} are kept for the days it is more: buy at
            <b>{{ row.point | amount }}</b>.
          </p>
          <h3>Who sells it</h3>
          @for (supplier of row.suppliers; track supplier.code) {
            <p>{{ supplier.name }}: {{ supplier.quantity | amount }} at {{ supplier.cost | price }}, here {{ supplier.arrives | day }}</p>
          }
        } @else {
          <h2>When to buy</h2>
          <p class="quiet">Where what is free and due covers what is asked for until more could come, with some to spare, nothing is bought.</p>
        }
        @if (made().length > 0) {
          <h3>Put on drafts</h3>
          @for (draft of made(); track draft.id) {
            <p>
              <a class="code" [routerLink]="['/supply', draft.id]">{{ draft.number }}</a> {{ draft.supplier }}, {{ draft.lines }}
              {{ draft.lines === 1 ? 'line' : 'lines' }}
            </p>
          }
        }
        <nock-reorder-policy-form (changed)="again.next()" />
      </ng-container>
      <ng-container acts>
        @if (maySell()) {
          <button mat-flat-button type="button" [disabled]="chosenRows().length === 0 || busy()" (click)="buy()">
            Put {{ chosenRows().length || '' }} on drafts, {{ total() | price }} EUR <kbd>Ctrl Enter</kbd>
          </button>
          <button mat-button type="button" (click)="all()">Choose all shown <kbd>A</kbd></button>
          <span class="quiet"><kbd>Space</kbd> chooses a row</span>
        }
        <span class="fault" role="alert">{{ said() }}</span>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    td {
      height: 44px;
    }
    .pick {
      width: 24px;
      padding: 0 4px;
      cursor: pointer;
    }
    .open,
    .fault {
      color: var(--open);
      font-weight: 600;
    }
    nock-quantity-field {
      width: 80px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReorderList {
  private readonly api = inject(Api);
  private readonly warehouses = inject(Places).warehouses;
  protected readonly maySell = inject(Session).maySell;
  protected readonly go = addressWords();
  readonly q = input<string>();
  readonly warehouse = input<string>();
  readonly which = input<string>();
  protected readonly choices = WHICH;
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
  protected readonly row = computed(() => this.rows().find((row) => this.key(row) === this.at()) ?? this.rows()[0] ?? null);
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  private readonly wishes = signal<ReadonlyMap<string, Wish>>(new Map());
  protected readonly chosenRows = computed(() => this.rows().filter((row) => this.picked().has(this.key(row))));
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

  protected key(row: ReorderRow): string {
    return `${row.item}/${row.warehouse}`;
  }

  protected short(row: ReorderRow): boolean {
    return Number(row.position) <= Number(row.point);
  }

  protected expected(row: ReorderRow): string {
    return String(Math.max(0, Number(row.point) - Number(row.safety)));
  }

  protected supplierOf(row: ReorderRow): string {
    return this.wishes().get(this.key(row))?.supplier ?? row.supplier;
  }

  /** As it was typed; until then what the supplier chosen sells it in. */
  protected quantityOf(row: ReorderRow): string {
    return this.wishes().get(this.key(row))?.quantity ?? row.suppliers.find((one) => one.code === this.supplierOf(row))?.quantity ?? row.quantity;
  }

  protected suppliersOf(row: ReorderRow): readonly Choice[] {
    return row.suppliers.map((one): Choice => [one.code, one.name]);
  }

  protected valueOf(row: ReorderRow): string {
    const cost = row.suppliers.find((one) => one.code === this.supplierOf(row))?.cost ?? row.cost;
    const quantity = this.quantityOf(row);
    return QUANTITY.test(quantity) ? plus('0', (Number(quantity) * Number(cost)).toFixed(2)) : '0';
  }

  /** What is typed of a row is meant to be bought. */
  protected wish(row: ReorderRow, wish: Wish): void {
    this.wishes.update((wishes) => new Map(wishes).set(this.key(row), { ...wishes.get(this.key(row)), ...wish }));
    this.picked.update((picked) => new Set([...picked, this.key(row)]));
  }

  protected turn(row: ReorderRow): void {
    if (!this.maySell()) return;
    const key = this.key(row);
    this.picked.update((picked) => (picked.has(key) ? new Set([...picked].filter((one) => one !== key)) : new Set([...picked, key])));
  }

  protected all(): boolean {
    if (!this.maySell()) return false;
    this.picked.set(new Set(this.rows().map((row) => this.key(row))));
    return true;
  }

  protected handle(event: KeyboardEvent, row: ReorderRow): void {
    if (event.target !== event.currentTarget) return;
    if (event.key === ' ') {
      event.preventDefault();
      this.turn(row);
    } else rowKey(event, () => this.turn(row));
  }

  protected buy(): boolean {
    const rows = this.chosenRows();
    if (rows.length === 0 || this.busy() || !this.maySell()) return false;
    const wrong = rows.find((row) => !QUANTITY.test(this.quantityOf(row)) || Number(this.quantityOf(row)) === 0);
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
