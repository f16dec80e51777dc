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
import { OrderStore, type LineWish } from './order-store';
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
  template: `
    <div class="entry">
      <mat-form-field>
        <input
          matInput
          #field
          class="code"
          aria-label="New line: item, quantity, unit, day"
          nockFinds="quick-items"
          [count]="choices().length"
          [at]="at()"
          placeholder="item quantity unit day, as in   jar hex 20 tray fri"
          [value]="text()"
          (input)="type(field.value)"
          (keydown)="handle($event)"
          (paste)="paste($event)"
        />
      </mat-form-field>
      <p aria-live="polite">
        @if (text().trim()) {
          <span class="quiet">understood as</span>
          @if (read().stands) {
            <i>{{ above() ? 'instead of line ' + above()!.lineNo : 'an extra' }}</i>
          }
          @if (item(); as item) {
            <b class="code">{{ item.code }}</b> {{ item.description }}
          } @else if (searching()) {
            <span class="quiet">…</span>
          } @else {
            <b class="wrong">no item “{{ read().item }}”</b>
          }
          @if (read().quantity; as quantity) {
            <u>{{ quantity }} {{ unitCode() | unit: quantity }}</u>
          } @else {
            <span class="wrong">how many{{ read().quantities.length > 1 ? ': ' + read().quantities.join(' or ') : '' }}?</span>
          }
          @if (read().day; as day) {
            <u>{{ day.day | day }}</u>
          }
          @if (unitFault(); as fault) {
            <span class="wrong">{{ fault }}</span>
          }
        } @else {
          <span class="quiet">Enter adds a line, ↑ goes to the lines; paste a mail or a list here, or <kbd>Ctrl B</kbd>; <kbd>Ctrl I</kbd> what they buy</span>
        }
      </p>
    </div>
    @if (choices().length > 1 && !chosen()) {
      <nock-found-list listId="quick-items" label="Items" columns="130px 1fr auto" [rows]="choices()" [at]="at()" (picked)="choose($event)">
        <ng-template let-choice>
          <span class="code">{{ choice.code }}</span>
          <span>{{ choice.description }}</span>
          <span class="quiet">{{
            choice.discontinued ? 'discontinued, ' + (choice.available | amount) + ' left' : (choice.available | amount) + ' to promise'
          }}</span>
        </ng-template>
      </nock-found-list>
    }
  `,
  styles: `
    .entry {
      display: grid;
      grid-template-columns: 350px 1fr;
      gap: 16px;
      align-items: center;
      padding: 8px 0 8px 24px;
      border-bottom: 1px solid var(--rule);
    }
    p {
      margin: 0;
      display: flex;
      gap: 8px;
      flex-wrap: wrap;
      align-items: baseline;
    }
    u {
      text-decoration-color: var(--act);
      text-underline-offset: 3px;
    }
    .wrong {
      color: var(--open);
    }
    nock-found-list {
      display: block;
      padding-left: 24px;
      max-width: 660px;
    }
  `,
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

  private readonly looked = foundAsTyped<ItemFound>(this.itemWords, (words) => this.search(words).pipe(tap(() => this.at.set(0))));
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
    if (event.key === 'ArrowDown' && count > 1) this.choose((this.at() + 1) % count);
    else if (event.key === 'ArrowUp' && this.text().trim() === '') this.left.emit();
    else if (event.key === 'ArrowUp' && count > 1) this.choose((this.at() + count - 1) % count);
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
