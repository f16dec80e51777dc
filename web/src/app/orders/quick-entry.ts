import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, output, signal, untracked, viewChild } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { itemRoutes, type ItemFound } from '@nockwright/contract/items';
import { asLineView, type LineView } from '@nockwright/contract/orders';
import { catchError, combineLatest, of, switchMap, tap, timer, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api, type ProblemError } from '../api';
import { AmountPipe, DayPipe, FindsDirective, foundAsTyped, FoundList, UnitPipe } from '../paper';
import type { LineWish } from './order-lines';
import { OrderStore } from './order-store';
import { lineAbove, readTyped, unitFault, wishOf } from './typed/typed-line';
import { TypedLines } from './typed/typed-lines';
import { Unsaved } from './typed/unsaved';
import { WhatIfDesk } from './what-if-desk';

const AGAIN_MS = 1_500;

/**
 * The quick line: item, quantity, unit and day typed as text. What it is understood as stands beside it, the items it
 * could mean below it, and the promise it would get on the sheet, all while it is typed. Enter hands the text over as it
 * stands; what is typed next is the next line's, whatever becomes of this one. What is not handed over yet survives a closed
 * tab.
 */
@Component({
  selector: 'nock-quick-entry',
  imports: [MatFormField, MatInput, AmountPipe, DayPipe, FindsDirective, FoundList, UnitPipe],
  templateUrl: './quick-entry.html',
  styleUrl: './quick-entry.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QuickEntry {
  private readonly api = inject(Api);
  private readonly whatIf = inject(WhatIfDesk);
  private readonly session = inject(Session);
  private readonly store = inject(OrderStore);
  private readonly unsaved = inject(Unsaved);
  private readonly lines = inject(TypedLines);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  /** The line as it would be promised and priced; null while there is none to look at. */
  readonly previewed = output<LineView | null>();
  /** A text of several rows was pasted: it is no line. */
  readonly pasted = output<string>();
  /** Up from an empty field. */
  readonly left = output<void>();

  protected readonly text = signal('');
  protected readonly at = signal(0);
  protected readonly chosen = signal<string | null>(null);
  protected readonly read = computed(() => readTyped(this.text(), this.store.order()?.kind ?? 'order', this.session.today()));
  protected readonly above = computed(() => lineAbove(this.read().stands, this.store.order()));
  private readonly itemWords = computed(() => this.read().item);

  private readonly looked = foundAsTyped<ItemFound>(this.itemWords, (words) => this.search(words).pipe(tap(([first]) => this.at.set(first?.byGroup ? -1 : 0))));
  protected readonly choices = this.looked.rows;
  protected readonly searching = this.looked.searching;
  protected readonly item = computed(() => this.choices()[this.at()] ?? null);
  protected readonly unitCode = computed(() => this.read().unit?.code ?? this.item()?.unit ?? '');
  protected readonly unitFault = computed(() => (this.item() ? unitFault(this.read(), this.item()!) : ''));
  private readonly wish = computed((): LineWish | null => {
    const asked = this.item() ? wishOf(this.read(), this.item(), this.store.order()) : null;
    return asked?.ok ? asked.wish : null;
  });
  private readonly orderId = computed(() => this.store.order()?.id ?? null);

  constructor() {
    effect(() => {
      const id = this.orderId();
      untracked(() => this.takeUp(id));
    });
    // The slice of the book is fetched when the item is known: it is there when the quantity is typed.
    effect(() => {
      const [order, item] = [this.store.order(), this.item()];
      if (order?.state === 'draft' && item && (!item.discontinued || Number(item.available) > 0)) this.whatIf.prepare(order, item.code);
    });
    combineLatest([toObservable(this.wish), toObservable(this.store.order)])
      .pipe(
        switchMap(([wish, order]) => (wish && order ? this.whatIf.try(order, wish.item, wish) : of(null))),
        takeUntilDestroyed(),
      )
      .subscribe((tried) => {
        this.previewed.emit(tried?.ok ? asLineView(tried.line) : null);
        if (tried && !tried.ok) this.store.fault.set(`${tried.fault.message}.`);
      });
  }

  focus(): void {
    this.field().nativeElement.focus();
  }

  /** What is typed and not handed over. */
  unfinished(): string {
    return this.text().trim();
  }

  protected type(text: string): void {
    this.text.set(text);
    this.chosen.set(null);
    this.store.fault.set('');
    this.keep();
  }

  protected paste(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!text.trim().includes('\n')) return;
    event.preventDefault();
    this.pasted.emit(text);
  }

  protected choose(index: number): void {
    this.at.set(index);
    this.chosen.set(this.choices()[index]?.code ?? null);
  }

  protected handle(event: KeyboardEvent): void {
    const count = this.choices().length;
    if (event.key === 'ArrowDown' && count > (this.at() < 0 ? 0 : 1)) this.choose((this.at() + 1) % count);
    else if (event.key === 'ArrowUp' && this.text().trim() === '') this.left.emit();
    else if (event.key === 'ArrowUp' && count > 1) this.choose((Math.max(0, this.at()) + count - 1) % count);
    else if (event.key === 'Escape' && this.text() !== '') this.clear();
    else if (event.key === 'Enter' && !event.ctrlKey) this.add();
    else return;
    event.preventDefault();
  }

  private search(words: string): Observable<readonly ItemFound[]> {
    if (words.trim() === '') return of([]);
    return this.api.call(itemRoutes.findItems, { query: { search: words, ...this.whereAndWho() } }).pipe(
      // A desk that is away has not said that there is no such item: it is asked until it can say.
      catchError((error: ProblemError) => (error.status === 503 ? timer(AGAIN_MS).pipe(switchMap(() => this.search(words))) : of([]))),
    );
  }

  private add() {
    if (!this.text().trim()) return;
    this.lines.add(this.text(), this.item());
    this.clear();
  }

  private clear() {
    this.text.set('');
    this.field().nativeElement.value = '';
    this.previewed.emit(null);
    this.chosen.set(null);
    this.keep();
  }

  /** The text that was left unfinished on this order, in the place of none. */
  private takeUp(order: number | null) {
    if (order === null) return;
    this.unsaved.open(order);
    if (this.text() === '') this.text.set(this.unsaved.textOf('quick') ?? '');
  }

  private keep() {
    this.unsaved.set('quick', 'line', this.text() || null);
  }

  private whereAndWho() {
    const order = this.store.order();
    return order ? { customer: order.customer.id, warehouse: order.warehouse } : {};
  }
}
