import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
  viewChild,
  viewChildren,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { TextRead } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { asOrderText, readOrderTable, type OrderTable } from '@nockwright/core/orders';
import { unitName } from '@nockwright/core/units';
import { catchError, debounceTime, EMPTY, Subject, switchMap } from 'rxjs';
import { Session } from '../access';
import { AmountPipe, DayPipe, Keys, UnitPipe } from '../paper';
import { OrderLines } from './order-lines';
import { OrderStore } from './order-store';
import { TableColumns } from './table-columns';
import { asRow, wishOf, type Proposal, type Row } from './text-row';

const TYPING_MS = 300;

/**
 * A mail or a pasted list, read as lines of the order: each says what it was understood as and from which words; what is
 * uncertain offers its likely readings; what was not understood stays in sight. Nothing is added before it is agreed to.
 */
@Component({
  selector: 'nock-text-reader',
  imports: [MatCheckbox, MatFormField, MatInput, AmountPipe, DayPipe, TableColumns, UnitPipe],
  templateUrl: './text-reader.html',
  styleUrl: './text-reader.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextReader {
  protected readonly store = inject(OrderStore);
  private readonly orderLines = inject(OrderLines);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly session = inject(Session);
  private readonly source = viewChild.required<ElementRef<HTMLTextAreaElement>>('source');
  private readonly lines = viewChildren<ElementRef<HTMLElement>>('line');
  private readonly again = viewChild<ElementRef<HTMLInputElement>>('again');
  /** What was pasted. */
  readonly start = input('');
  readonly closed = output<void>();

  protected readonly text = linkedSignal(() => this.start());
  /** Rows of a spreadsheet: their columns are guessed until somebody says otherwise. */
  protected readonly table = linkedSignal(() => readOrderTable(this.text(), this.session.today()));
  protected readonly read = signal<TextRead | null>(null);
  readonly rows = linkedSignal<readonly Row[]>(() => (this.read()?.lines ?? []).map(asRow));
  protected readonly takePo = signal(true);
  /** The day taken for the whole order; null: none; undefined: it has more readings than one, and nobody has decided. */
  protected readonly wishDay = linkedSignal<string | null | undefined>(() => {
    const wish = this.read()?.wish;
    return wish?.asks ? undefined : (wish?.days[0] ?? null);
  });
  protected readonly here = signal(0);
  protected readonly retyping = signal<number | null>(null);
  protected readonly unknown = computed(() => (this.read()?.rest ?? []).filter((part) => part.kind === 'unknown'));
  readonly tasks = computed(() => (this.read()?.rest ?? []).filter((part) => part.kind === 'task'));
  private readonly typed = new Subject<string>();

  constructor() {
    this.typed
      .pipe(
        debounceTime(TYPING_MS),
        switchMap((text) => this.orderLines.readText(text).pipe(catchError((error: Error) => this.fail(error)))),
        takeUntilDestroyed(),
      )
      .subscribe((read) => {
        this.here.set(0);
        this.read.set(read);
      });
    effect(() => {
      const start = this.start();
      untracked(() => {
        if (start.trim())
          this.orderLines
            .readText(this.meant(start))
            .pipe(catchError((error: Error) => this.fail(error)))
            .subscribe((read) => this.show(read));
        else this.source().nativeElement.focus();
      });
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'add the proposed lines', run: () => this.add() },
      { key: 'Escape', does: 'leave the mail', run: () => this.closed.emit() },
    ]);
  }

  protected edit(text: string): void {
    this.text.set(text);
    if (text.trim()) this.typed.next(this.meant(text));
    else this.read.set(null);
  }

  /** Another kind of column: the lines are read anew. */
  protected take(table: OrderTable): void {
    this.table.set(table);
    this.typed.next(this.meant(this.text()));
  }

  /** The lines of a table as they would be typed; any other text as it is. */
  private meant(text: string): string {
    const table = untracked(this.table);
    return table ? asOrderText(table) : text;
  }

  protected settled(row: Row): boolean {
    return row.picked !== null && this.chosen(row).quantity !== null;
  }

  protected wordOf(row: Row): string {
    if (row.proposal.readings.length === 0) return 'not found';
    if (!this.settled(row)) return this.chosen(row).quantity === null && row.proposal.quantity === null ? 'how many?' : 'choose';
    return row.proposal.certainty === 'choose' ? 'chosen' : row.proposal.certainty;
  }

  /** The reading taken, else the likeliest. */
  protected chosen({ proposal, picked }: Row): { readonly quantity: string | null; readonly unit: string; readonly day: string | null } {
    return proposal.readings[picked ?? 0] ?? { quantity: proposal.quantity, unit: proposal.unit ?? '', day: proposal.day };
  }

  /** In what a reading is another than those of the same item: how many of what, and when. */
  protected differing({ proposal }: Row, reading: Proposal['readings'][number]): string {
    const same = proposal.readings.filter((other) => other.item === reading.item);
    if (same.length < 2) return '';
    const { quantity, unit, day } = reading;
    return [`${quantity ?? '?'} ${unitName(unit, quantity ?? '2')}`, ...(day ? [shortDay(day, this.session.today())] : [])].join(', ');
  }

  protected pick(at: number, choice: number): void {
    this.change(at, (row) => (choice < row.proposal.readings.length ? { ...row, picked: choice } : row));
  }

  protected handle(event: KeyboardEvent, at: number): void {
    if (event.target !== event.currentTarget || event.ctrlKey) return;
    if (event.key === 'ArrowDown') this.goTo(at + 1);
    else if (event.key === 'ArrowUp' && at === 0) this.source().nativeElement.focus();
    else if (event.key === 'ArrowUp') this.goTo(at - 1);
    else if (/^[1-9]$/.test(event.key)) this.pick(at, Number(event.key) - 1);
    else if (event.key === 'Enter') this.retype(at);
    else if (event.key === 'Delete') this.drop(at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** A line that is typed again is read again, by itself; leaving the field takes what is typed, too. Only Escape drops it. */
  protected retypeKey(event: KeyboardEvent, at: number, text: string): void {
    if (event.key === 'Escape') this.retyping.set(null);
    else if (event.key === 'Enter') this.readAgain(at, text, true);
    else return;
    event.preventDefault();
    event.stopPropagation();
    this.goTo(at);
  }

  protected readAgain(at: number, text: string, asked = false): void {
    if (this.retyping() !== at) return;
    this.retyping.set(null);
    const row = this.rows()[at];
    if (!row || (!asked && text.trim() === row.proposal.words)) return;
    this.orderLines
      .readText(text)
      .pipe(catchError((error: Error) => this.fail(error)))
      .subscribe(({ lines: [line] }) => {
        if (!line) return this.store.fault.set(`“${text}” names no line: type it as jar hex 20 tray fri.`);
        this.rows.update((rows) => rows.map((other) => (other === row ? asRow(line) : other)));
      });
  }

  /** Adds what was agreed to; where something is open, goes there. */
  add(): void {
    const rows = this.rows();
    const open = rows.findIndex((row) => !this.settled(row));
    const tasks = this.tasks().map((part) => part.words);
    if (rows.length + tasks.length === 0 || this.store.busy()) return;
    if (open >= 0) {
      this.store.fault.set(`“${rows[open]!.proposal.words}” is not settled: pick a reading, type it again, or drop it.`);
      return this.goTo(open);
    }
    const { poNumber = null, wish = null } = this.read() ?? {};
    const wishDay = this.wishDay();
    if (wishDay === undefined) return this.store.fault.set(`“${wish!.words}”: ${wish!.why} Choose the day first.`);
    this.orderLines.addLines(
      {
        lines: rows.map(({ proposal, picked }) => wishOf(proposal.readings[picked!]!)),
        ...(poNumber && this.takePo() ? { poNumber: poNumber.value } : {}),
        ...(wish && wishDay ? { requestKind: wish.kind, requestedDay: wishDay } : {}),
        ...(tasks.length > 0 ? { tasks } : {}),
      },
      () => this.closed.emit(),
    );
  }

  private show(read: TextRead) {
    this.read.set(read);
    const open = this.rows().findIndex((row) => !this.settled(row));
    // Perhaps within an effect: the rows are drawn when that is over.
    setTimeout(() => this.goTo(Math.max(0, open)));
  }

  private goTo(at: number) {
    const to = Math.min(Math.max(0, at), this.rows().length - 1);
    this.here.set(to);
    this.changes.detectChanges();
    this.lines()[to]?.nativeElement.focus();
  }

  private retype(at: number) {
    this.retyping.set(at);
    // At once: what is typed next is meant for the field.
    this.changes.detectChanges();
    this.again()?.nativeElement.select();
  }

  private drop(at: number) {
    this.rows.update((rows) => rows.filter((_, index) => index !== at));
    if (this.rows().length > 0) this.goTo(Math.min(at, this.rows().length - 1));
    else this.source().nativeElement.focus();
  }

  private change(at: number, change: (row: Row) => Row) {
    this.rows.update((rows) => rows.map((row, index) => (index === at ? change(row) : row)));
  }

  private fail(error: Error) {
    this.store.fault.set(error.message);
    return EMPTY;
  }
}
