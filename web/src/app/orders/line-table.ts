import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChildren,
} from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { AmountPipe, PricePipe, StateMark, UnitPipe } from '../paper';
import { RulerHead, RulerRow, rulerScale } from '../ruler';
import { LineTrial } from './line-trial';
import { OrderStore } from './order-store';
import { changedWords } from './quote/changed-words';
import { CollisionNote } from './typed/collision-note';
import { Unsaved } from './typed/unsaved';

/** What the other columns need; the ruler has what is left, within its bounds. */
const OTHER_COLUMNS = 693;
const NARROW = 860;
const LEAST_RULER = 150;
const MOST_RULER = 440;
const USUAL_WIDTH = 951;

/** The lines of an order as ruled lines, all on one date ruler. Arrow keys go from line to line. */
@Component({
  selector: 'nock-line-table',
  imports: [CdkDrag, CdkDropList, MatFormField, MatInput, AmountPipe, PricePipe, UnitPipe, StateMark, CollisionNote, RulerHead, RulerRow],
  providers: [LineTrial],
  template: `
    <table class="ruled" aria-label="Lines of the order">
      <thead>
        <tr>
          <th></th>
          <th>Item</th>
          <th class="figure">Quantity</th>
          <th class="figure">Price</th>
          <th class="figure">Amount</th>
          <th class="figure margin">Margin</th>
          <th class="ruler" [style.width.px]="rulerWidth() + 12">
            <nock-ruler-head [scale]="scale()" [today]="today()" [asked]="asked()" /><span class="visually-hidden">Days</span>
          </th>
          <th>Leaves</th>
        </tr>
      </thead>
      <tbody cdkDropList cdkDropListLockAxis="y" (cdkDropListDropped)="dropped($event)">
        @for (line of all(); track line.id) {
          <tr
            #row
            cdkDrag
            [cdkDragDisabled]="!movable(line) || trial.editing() !== null"
            [attr.tabindex]="line.id === selected() || (selected() === null && $first) ? 0 : -1"
            [class.marked]="line.id === selected()"
            [class.preview]="line.id === 0"
            [class.done]="line.state === 'done'"
            [class.alternative]="line.alternative"
            [attr.aria-selected]="line.id === selected()"
            (focus)="picked.emit(line.id)"
            (click)="picked.emit(line.id)"
            (keydown)="handle($event, line)"
          >
            <td class="quiet">
              {{ line.lineNo }}
              @if (line.alternative) {
                <div class="small or">{{ line.alternativeTo ? 'or' : 'and' }}</div>
              }
            </td>
            <td class="item">
              <span class="code">{{ line.item }}</span>
              <div class="small">{{ line.description }}</div>
              @if (line.shipTo) {
                <div class="small">to {{ line.shipTo.street }}, {{ line.shipTo.town }}</div>
              }
              @if (line.note) {
                <div class="small text">{{ line.note }}</div>
              }
            </td>
            <td class="figure">
              @if (trial.editing() === line.id) {
                @let text = trial.opened();
                <mat-form-field class="edit">
                  <input
                    matInput
                    #edit
                    [value]="text"
                    [attr.aria-label]="'Quantity, unit and day of line ' + line.lineNo"
                    autocomplete="off"
                    (input)="typeEdit(line, edit.value)"
                    (keydown)="editKey($event, line, edit.value)"
                    (blur)="leaveEdit(line, edit.value)"
                  />
                </mat-form-field>
              } @else {
                {{ line.quantity | amount }}
                <div class="small unit">{{ line.unit | unit: line.quantity }}{{ progress(line) }}</div>
              }
            </td>
            <td class="figure">
              {{ line.price | price }}
              @if (line.offered; as offered) {
                <div class="small changed">now {{ offered.parts[0]!.price | price }}{{ offered.parts.length > 1 ? ' a part' : '' }}</div>
              } @else {
                <div class="small unit">{{ line.splits.length > 0 ? line.priceSource + ', a part' : line.priceSource }}</div>
              }
              @if (asksLess(line)) {
                <div class="small changed">lower <kbd>P</kbd></div>
              }
            </td>
            <td class="figure amount">{{ line.amount | amount }}</td>
            <td class="figure margin" [class.below]="isBelow(line)">
              {{ line.marginPercent ?? '–' }}<span class="quiet"> %</span>
              @if (isBelow(line)) {
                <div class="small">floor {{ order().floor }}</div>
              }
            </td>
            <td class="ruler">
              <nock-ruler-row
                [scale]="scale()"
                [requested]="line.requested"
                [schedule]="line.schedule"
                [uncovered]="line.uncovered"
                [ticks]="line.ticks"
                [released]="order().state === 'released'"
              />
            </td>
            <td class="leaves">
              <nock-state [state]="line.state" [words]="words(line)[0]" />
              <div class="small">{{ words(line)[1] }}</div>
              @for (word of sinceQuoted(line); track word) {
                <div class="small changed">{{ word }}</div>
              }
            </td>
          </tr>
          @if (collides(line)) {
            <tr class="collides">
              <td></td>
              <td colspan="7"><nock-collision-note [line]="line.id" /></td>
            </tr>
          }
        } @empty {
          <tr class="none">
            <td colspan="8" class="quiet">No lines yet. Type the first one below.</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    table {
      table-layout: fixed;
    }
    th:nth-child(1) {
      width: 26px;
    }
    th:nth-child(3) {
      width: 88px;
    }
    th:nth-child(4) {
      width: 96px;
    }
    th:nth-child(5) {
      width: 84px;
    }
    th:nth-child(6) {
      width: 68px;
    }
    th.ruler {
      padding: 0 6px;
      border-bottom: 1px solid var(--rule);
      vertical-align: bottom;
    }
    td.ruler {
      padding: 0 6px;
    }
    th:nth-child(8) {
      width: 138px;
    }
    th {
      vertical-align: bottom;
    }
    td {
      height: 47px;
      padding-top: 2px !important;
      padding-bottom: 2px !important;
    }
    td:first-child,
    th:first-child {
      padding-left: 8px;
    }
    .item,
    .leaves {
      overflow: hidden;
    }
    .figure {
      white-space: nowrap;
      padding-left: 2px !important;
    }
    .item .small {
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .unit {
      font-family: 'Atkinson Hyperlegible Next Variable', sans-serif;
      color: var(--ink-quiet);
      white-space: nowrap;
    }
    .small {
      line-height: 16px;
    }
    .or {
      font-style: italic;
    }
    /* Offered beside the others, in no total: its amount stands in brackets. */
    .alternative .amount::before {
      content: '(';
    }
    .alternative .amount::after {
      content: ')';
    }
    .alternative .amount,
    .alternative .item .code {
      color: var(--ink-quiet);
    }
    .below {
      color: var(--late);
      font-weight: 600;
    }
    .text {
      font-style: italic;
    }
    .changed {
      color: var(--late);
      font-weight: 600;
    }
    .preview .code::after {
      content: ' not added yet';
      font:
        12px 'Atkinson Hyperlegible Next Variable',
        sans-serif;
      color: var(--ink-quiet);
    }
    .done {
      color: var(--ink-quiet);
    }
    :host {
      display: block;
    }
    :host(.narrow) .margin,
    :host(.goods-only) .margin {
      display: none;
    }
    .edit {
      width: 132px;
      margin-left: -52px;
    }
    .none td {
      height: 60px;
    }
  `,
  host: { '[class.narrow]': 'narrow()', '[class.goods-only]': '!inOffice()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineTable {
  private readonly session = inject(Session);
  protected readonly inOffice = this.session.inOffice;
  private readonly store = inject(OrderStore);
  private readonly unsaved = inject(Unsaved);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly rows = viewChildren<ElementRef<HTMLTableRowElement>>('row');
  private readonly edits = viewChildren<ElementRef<HTMLInputElement>>('edit');

  readonly order = input.required<OrderView>();
  readonly preview = input<LineView | null>(null);
  readonly selected = input<number | null>(null);
  readonly picked = output<number>();
  /** Down from the last line. */
  readonly left = output<void>();
  readonly removed = output<LineView>();
  /** The line being changed as it would be; null when none is. */
  readonly tried = output<LineView | null>();

  private readonly width = signal(USUAL_WIDTH);
  protected readonly narrow = computed(() => this.width() < NARROW);
  protected readonly rulerWidth = computed(() => Math.round(Math.min(MOST_RULER, Math.max(LEAST_RULER, this.width() - OTHER_COLUMNS))));
  protected readonly trial = inject(LineTrial);
  protected readonly today = computed(() => this.session.today());
  protected readonly all = computed(() => {
    const [preview, changed] = [this.preview(), this.trial.changed()];
    const lines = this.order().lines.map((line) => (line.id === changed?.id ? changed : line));
    return preview ? [...lines, preview] : lines;
  });
  protected readonly scale = computed(() => {
    const days = this.all().flatMap((line) => [line.requested, ...line.schedule.flatMap((entry) => [entry.arrives ?? entry.day, entry.safeDay ?? entry.day])]);
    const due = this.all().flatMap((line) => line.ticks.map((tick) => tick.day));
    return rulerScale(this.today(), [...days, ...due.filter((day) => days.some((other) => day <= other))], this.rulerWidth());
  });
  /** The day most lines ask for stands above the ruler. */
  protected readonly asked = computed(() => this.all()[0]?.requested ?? null);

  constructor() {
    effect(() => this.tried.emit(this.trial.changed()));
    const host = (inject(ElementRef) as ElementRef<HTMLElement>).nativeElement;
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const observer = new ResizeObserver(([entry]) => this.width.set(entry!.contentRect.width));
      observer.observe(host);
      destroyed.onDestroy(() => observer.disconnect());
    });
  }

  /** To the last line of the order; one that is only looked at is about to go. */
  focusLast(): void {
    this.rows()[this.order().lines.length - 1]?.nativeElement.focus();
  }

  /** The state in a word, and its days. */
  protected words(line: LineView): [string, string] {
    const at = line.stateWords.indexOf(', ');
    return at < 0 ? [line.stateWords, ''] : [line.stateWords.slice(0, at), line.stateWords.slice(at + 2)];
  }

  /** What has changed of a line since it was quoted. */
  protected sinceQuoted(line: LineView): readonly string[] {
    return changedWords(line, this.today());
  }

  /** Something asks less for the same goods: the customer's list, or another unit. */
  protected asksLess(line: LineView): boolean {
    return line.priceTrail.some((step) => step.lower);
  }

  /** It leaves less than the floor margin. */
  protected isBelow(line: LineView): boolean {
    const { floor } = this.order();
    return floor !== null && line.marginPercent !== null && Number(line.marginPercent) < Number(floor);
  }

  protected progress(line: LineView): string {
    if (Number(line.shipped) > 0) return `, ${line.shipped} shipped`;
    if (Number(line.cancelled) > 0) return `, ${line.cancelled} cancelled`;
    return Number(line.picking) > 0 ? `, ${line.picking} picking` : '';
  }

  protected handle(event: KeyboardEvent, line: LineView): void {
    if (event.target !== event.currentTarget || event.ctrlKey) return;
    if (event.altKey) return this.moveByKey(event, line);
    const rows = this.rows();
    const at = rows.findIndex((row) => row.nativeElement === event.target);
    if (event.key === 'ArrowDown' && at === rows.length - 1) this.left.emit();
    else if (event.key === 'ArrowDown') rows[at + 1]?.nativeElement.focus();
    else if (event.key === 'ArrowUp') rows[at - 1]?.nativeElement.focus();
    else if (event.key === 'Enter' && this.order().state === 'draft') this.edit(line);
    else if (event.key === 'Delete' && this.order().state === 'draft' && line.id > 0) this.removed.emit(line);
    else return;
    event.preventDefault();
  }

  /** Alt with an arrow carries the line up or down; it keeps the focus. */
  private moveByKey(event: KeyboardEvent, line: LineView) {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
    if (!this.movable(line) || by === 0) return;
    event.preventDefault();
    // From where the line is by then: a second key pressed before the first has been answered counts, too.
    this.store.moveLine(
      line,
      (current) => current + by,
      () => {
        this.changes.detectChanges();
        const at = this.order().lines.findIndex((row) => row.id === line.id);
        this.rows()[at]?.nativeElement.focus();
      },
    );
  }

  protected collides(line: LineView): boolean {
    return this.store.collisions().some((one) => one.line === line.id);
  }

  protected movable(line: LineView): boolean {
    return this.order().state === 'draft' && line.id > 0 && this.session.maySell();
  }

  protected dropped({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    const line = this.order().lines[previousIndex];
    const to = Math.min(currentIndex, this.order().lines.length - 1) + 1;
    if (line && to !== line.lineNo) this.store.moveLine(line, () => to);
  }

  protected editKey(event: KeyboardEvent, line: LineView, text: string): void {
    if (event.key === 'Enter') {
      this.take(line, text);
    } else if (event.key === 'Escape') {
      this.trial.editing.set(null);
      this.unsaved.set(`line.${line.id}.quantity`, '', null);
    } else return;
    event.preventDefault();
    event.stopPropagation();
    if (this.trial.editing() !== null) return;
    this.rows()
      .find((row) => row.nativeElement.getAttribute('aria-selected') === 'true')
      ?.nativeElement.focus();
  }

  protected typeEdit(line: LineView, text: string): void {
    this.trial.typed.set(text);
    this.unsaved.set(`line.${line.id}.quantity`, `Quantity of line ${line.lineNo}`, text);
  }

  /** Leaving the field takes what is typed, as Enter does; only Escape drops it. What is no quantity stays to be mended. */
  protected leaveEdit(line: LineView, text: string): void {
    if (this.trial.editing() === line.id) this.take(line, text);
  }

  private take(line: LineView, text: string): void {
    this.trial.take(line, text, () => {
      this.changes.detectChanges();
      // Who is still at the line goes on in the field; who has gone on elsewhere is left there.
      if (document.activeElement?.getAttribute('aria-selected') === 'true' && this.selected() === line.id) this.edits()[0]?.nativeElement.focus();
    });
  }

  private edit(line: LineView) {
    if (this.trial.editing() !== line.id) this.trial.start(line);
    // At once: what is typed next is meant for the field.
    this.changes.detectChanges();
    this.edits()[0]?.nativeElement.select();
  }
}
