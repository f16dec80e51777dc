import { ChangeDetectionStrategy, ChangeDetectorRef, Component, computed, effect, ElementRef, inject, input, output, viewChildren } from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import type { RouteChoice } from '@nockwright/contract/shortages';
import { Session } from '../access';
import { AmountPipe, Keys, PricePipe, StateMark, UnitPipe, widthOf } from '../paper';
import { RulerHead, RulerRow, rulerScale } from '../ruler';
import { asksLess, isBelow, progress } from './line-marks';
import { LineTrial } from './line-trial';
import { LineOptions } from './options/line-options';
import { OptionRow } from './options/option-row';
import { OptionsHead } from './options/options-head';
import { OrderLines } from './order-lines';
import { OrderStore } from './order-store';
import { changedWords } from './quote/changed-words';
import { CollisionNote } from './typed/collision-note';
import { Unsaved } from './typed/unsaved';

/** What the other columns need; the ruler has what is left, within its bounds. */
const OTHER_COLUMNS = 731;
const NARROW = 860;
const PHONE = 560;
/** More lines than that stand one below the other in rows of one line. */
const ROOMY = 9;
const LEAST_RULER = 150;
const USUAL_RULER = 300;
const MOST_RULER = 760;
const USUAL_WIDTH = 951;

/** How wide the ruler is where the other columns leave so much: of what is much the descriptions get their share. */
function rulerWidthIn(room: number): number {
  const wide = room <= USUAL_RULER ? room : USUAL_RULER + (room - USUAL_RULER) * 0.6;
  return Math.round(Math.min(MOST_RULER, Math.max(LEAST_RULER, wide)));
}

/** The lines of an order as ruled lines, all on one date ruler. Arrow keys go from line to line. */
@Component({
  selector: 'nock-line-table',
  imports: [
    CdkDrag,
    CdkDropList,
    MatFormField,
    MatInput,
    AmountPipe,
    PricePipe,
    UnitPipe,
    StateMark,
    CollisionNote,
    OptionRow,
    OptionsHead,
    RulerHead,
    RulerRow,
  ],
  providers: [LineTrial],
  templateUrl: './line-table.html',
  styleUrl: './line-table.css',
  host: { '[class.narrow]': 'narrow()', '[class.phone]': 'phone()', '[class.goods-only]': '!inOffice()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineTable {
  private readonly session = inject(Session);
  protected readonly inOffice = this.session.inOffice;
  protected readonly store = inject(OrderStore);
  private readonly lines = inject(OrderLines);
  protected readonly options = inject(LineOptions);
  private readonly unsaved = inject(Unsaved);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly rows = viewChildren<ElementRef<HTMLTableRowElement>>('row');
  private readonly optionRows = viewChildren<string, ElementRef<HTMLTableRowElement>>('option', { read: ElementRef });
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

  private readonly width = widthOf(USUAL_WIDTH);
  protected readonly dense = computed(() => this.all().length > ROOMY);
  /** There is room for what, how many and when: money and ruler stand in the gloss. */
  protected readonly phone = computed(() => this.width() < PHONE);
  protected readonly narrow = computed(() => this.width() < NARROW);
  protected readonly rulerWidth = computed(() => rulerWidthIn(this.width() - OTHER_COLUMNS));
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
    return rulerScale(this.today(), [...days, ...this.options.days(), ...due.filter((day) => days.some((other) => day <= other))], this.rulerWidth());
  });
  /** The day most lines ask for stands above the ruler. */
  protected readonly asked = computed(() => this.all()[0]?.requested ?? null);

  protected readonly asksLess = asksLess;
  protected readonly isBelow = isBelow;
  protected readonly progress = progress;
  protected readonly takeOption = (route: RouteChoice) => this.options.take(route);

  constructor() {
    inject(Keys).use([{ key: 'O', does: 'to the options of the line; fold them away', run: () => this.toOptions() }]);
    effect(() => this.tried.emit(this.trial.changed()));
  }

  /** To the last line of the order; one that is only looked at is about to go. */
  focusLast(): void {
    this.rows()[this.order().lines.length - 1]?.nativeElement.focus();
  }

  /** To the options that stand under the line; from one of them, or with them folded, the other way round. */
  private toOptions(): boolean {
    const line = this.options.line();
    if (!line || !this.options.under(line.id)) return false;
    const inside = this.optionRows().some((row) => row.nativeElement === document.activeElement);
    this.options.folded.set(inside);
    this.changes.detectChanges();
    if (inside) this.focusLine(line.id);
    else this.optionRows()[this.options.at()]?.nativeElement.focus();
    return true;
  }

  protected optionKey(event: KeyboardEvent, at: number): void {
    if (event.target !== event.currentTarget || event.ctrlKey || event.altKey) return;
    const rows = this.optionRows();
    if (event.key === 'ArrowDown') rows[Math.min(at + 1, rows.length - 1)]?.nativeElement.focus();
    else if (event.key === 'ArrowUp' && at > 0) rows[at - 1]?.nativeElement.focus();
    else if (event.key === 'ArrowUp' || event.key === 'Escape') this.focusLine(this.options.line()!.id);
    else if (event.key === 'Enter') this.options.takeAt(at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private focusLine(id: number): void {
    this.rows()[this.all().findIndex((line) => line.id === id)]?.nativeElement.focus();
  }

  protected sinceQuoted(line: LineView): readonly string[] {
    return changedWords(line, this.today());
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
    this.lines.moveLine(
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
    if (line && to !== line.lineNo) this.lines.moveLine(line, () => to);
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
