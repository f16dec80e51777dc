import type { ElementRef } from '@angular/core';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  output,
  signal,
  untracked,
  viewChild,
  viewChildren,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatOption, MatSelect } from '@angular/material/select';
import { customerRoutes, type BoughtItem, type PastOrder } from '@nockwright/contract/customers';
import { itemRoutes } from '@nockwright/contract/items';
import { readQuickLine } from '@nockwright/core/orders';
import { catchError, combineLatest, debounceTime, map, of, switchMap, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { amountInWords, AmountPipe, DayPipe, Keys, PricePipe, UnitPipe } from '../paper';
import { OrderLines } from './order-lines';
import type { LineWish } from './order-lines';
import { OrderStore } from './order-store';

/** An item that could be ordered, with what is known of it. */
interface Row {
  /** Of an order that has an item twice, twice. */
  readonly key: string;
  readonly item: string;
  readonly description: string;
  readonly unit: string;
  readonly quantity: string;
  readonly hint: string;
  readonly last: BoughtItem | null;
  readonly discontinued: boolean;
}

const TYPING_MS = 90;

/**
 * Several items at once: what the customer usually buys, the lines of an earlier order, or what is found by words. A
 * quantity is typed beside those that are wanted; all are added together.
 */
@Component({
  selector: 'nock-pick-list',
  imports: [MatFormField, MatInput, MatSelect, MatOption, AmountPipe, DayPipe, PricePipe, UnitPipe],
  templateUrl: './pick-list.html',
  styleUrl: './pick-list.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PickList {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly store = inject(OrderStore);
  private readonly orderLines = inject(OrderLines);
  private readonly fields = viewChildren<ElementRef<HTMLInputElement>>('quantity');
  private readonly search = viewChild.required<ElementRef<HTMLInputElement>>('search');
  private begun = false;
  readonly closed = output<void>();

  /** Whose lines are listed; 0: what they usually buy. */
  protected readonly from = signal(0);
  protected readonly words = signal('');
  /** What was typed beside items, by their key; what is not listed any more is still wanted. */
  protected readonly wanted = signal<ReadonlyMap<string, string>>(new Map());
  private readonly known = new Map<string, Row>();
  private readonly customer = computed(() => this.store.order()!.customer.id);

  protected readonly past = toSignal(
    toObservable(this.customer).pipe(
      switchMap((customer) => this.api.call(customerRoutes.listPastOrders, { params: { customer } }).pipe(catchError(() => of([])))),
    ),
    { initialValue: [] as readonly PastOrder[] },
  );
  protected readonly rows = toSignal(
    combineLatest([toObservable(this.from), toObservable(this.words)]).pipe(
      debounceTime(TYPING_MS),
      switchMap(([from, words]) => (words.trim() ? this.find(words) : this.bought(from))),
    ),
    { initialValue: [] as readonly Row[] },
  );

  /** The lines that are wanted, as they are read; a text that is no quantity is told when they are added. */
  readonly lines = computed((): readonly { readonly row: Row; readonly text: string; readonly wish: LineWish | null }[] =>
    [...this.wanted()].flatMap(([key, text]) => {
      const row = this.known.get(key);
      if (!row || text.trim() === '') return [];
      const { quantity, unit, day } = readQuickLine(`${row.item} ${text}`, this.session.today());
      const wish = quantity === null ? null : { item: row.item, quantity, unit: unit?.code ?? row.unit, ...(day ? { requestedDay: day.day } : {}) };
      return [{ row, text, wish }];
    }),
  );

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'add the lines that have a quantity', run: () => this.add() },
      { key: 'Escape', does: 'back to the quick line', run: () => this.closed.emit() },
    ]);
    // To the first item as soon as there is one; until then what is typed looks for items.
    afterNextRender(() => this.search().nativeElement.focus());
    effect(() => {
      const first = this.fields().find((field) => !field.nativeElement.disabled);
      if (!first || this.begun) return;
      this.begun = true;
      if (untracked(this.words) === '') first.nativeElement.focus();
    });
  }

  add(): void {
    const lines = this.lines();
    const wrong = lines.find((line) => line.wish === null);
    if (wrong) return this.store.fault.set(`“${wrong.text}” is no quantity of ${wrong.row.item}: type it as 20, or 20 tray.`);
    if (lines.length === 0) return this.store.fault.set('Type a quantity beside what is wanted.');
    this.orderLines.addLines({ lines: lines.map((line) => line.wish!) }, () => this.closed.emit());
  }

  /** Lines of an earlier order are wanted as they were, until they are changed. */
  protected choose(order: number): void {
    this.from.set(order);
    this.words.set('');
    this.wanted.set(new Map());
  }

  protected want(row: Row, text: string): void {
    const wanted = new Map(this.wanted());
    if (text.trim() === '') wanted.delete(row.key);
    else wanted.set(row.key, text);
    this.wanted.set(wanted);
  }

  protected focusRow(at: number): void {
    this.fields()[at]?.nativeElement.focus();
  }

  /** ↓ and ↑ go from quantity to quantity; Enter takes as many as the last time. */
  protected handle(event: KeyboardEvent, row: Row, at: number): void {
    if (event.key === 'ArrowDown') this.focusRow(at + 1);
    else if (event.key === 'ArrowUp') this.focusRow(at - 1);
    else if (event.key === 'Enter' && !event.ctrlKey) {
      if (!this.wanted().has(row.key)) this.want(row, row.quantity);
      this.focusRow(at + 1);
    } else return;
    event.preventDefault();
  }

  private bought(from: number): Observable<readonly Row[]> {
    const params = { customer: this.customer() };
    return this.api.call(customerRoutes.readBought, { params, query: from > 0 ? { order: from } : {} }).pipe(
      catchError((error: Error) => (this.store.fault.set(error.message), of([]))),
      map((items) =>
        items.map((item, at): Row => ({
          key: from > 0 ? `${from}/${at}` : item.item,
          item: item.item,
          description: item.description,
          unit: item.unit,
          quantity: item.quantity,
          hint: item.discontinued ? 'discontinued' : from > 0 ? '' : `${item.times} ${item.times === 1 ? 'time' : 'times'}`,
          last: item,
          discontinued: item.discontinued,
        })),
      ),
      map((rows) => {
        this.remember(rows);
        if (from > 0 && this.wanted().size === 0) this.wanted.set(new Map(rows.filter((row) => !row.discontinued).map((row) => [row.key, row.quantity])));
        return rows;
      }),
    );
  }

  private find(words: string): Observable<readonly Row[]> {
    const order = this.store.order()!;
    return this.api.call(itemRoutes.findItems, { query: { search: words, customer: order.customer.id, warehouse: order.warehouse } }).pipe(
      catchError(() => of([])),
      map((items) =>
        items.map((item): Row => ({
          key: item.code,
          item: item.code,
          description: item.description,
          unit: item.unit,
          quantity: '1',
          hint: item.discontinued ? `discontinued, ${amountInWords(item.available)} left` : `${amountInWords(item.available)} to promise`,
          last: null,
          discontinued: item.discontinued && Number(item.available) <= 0,
        })),
      ),
      map((rows) => this.remember(rows)),
    );
  }

  private remember(rows: readonly Row[]): readonly Row[] {
    for (const row of rows) this.known.set(row.key, row);
    return rows;
  }
}
