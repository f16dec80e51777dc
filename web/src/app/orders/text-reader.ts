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
import { OrderStore } from './order-store';
import { TableColumns } from './table-columns';

type Proposal = TextRead['lines'][number];

/** A proposed line as the coordinator has left it. */
interface Row {
  readonly proposal: Proposal;
  /** The reading taken; null: none yet. */
  readonly picked: number | null;
}

const TYPING_MS = 300;

/**
 * A mail or a pasted list, read as lines of the order: each says what it was understood as and from which words; what is
 * uncertain offers its likely readings; what was not understood stays in sight. Nothing is added before it is agreed to.
 */
@Component({
  selector: 'nock-text-reader',
  imports: [MatCheckbox, MatFormField, MatInput, AmountPipe, DayPipe, TableColumns, UnitPipe],
  template: `
    <section aria-label="A mail or a list as lines of the order">
      <mat-form-field class="source">
        <textarea
          matInput
          #source
          rows="4"
          aria-label="The mail or list"
          placeholder="Paste a mail, or rows from a spreadsheet"
          spellcheck="false"
          [value]="text()"
          (input)="edit(source.value)"
          (keydown.escape)="closed.emit()"
        ></textarea>
      </mat-form-field>
      @if (table(); as table) {
        <nock-table-columns [table]="table" (changed)="take($event)" />
      }
      @if (read(); as found) {
        @if (found.poNumber; as po) {
          <mat-checkbox [checked]="takePo()" (change)="takePo.set($event.checked)"
            >their order number <b class="code">{{ po.value }}</b> <span class="quiet">from “{{ po.words }}”</span></mat-checkbox
          >
        }
        @if (found.wish; as wish) {
          <div class="wish">
            @for (day of wish.days; track day) {
              <mat-checkbox [checked]="wishDay() === day" (change)="wishDay.set($event.checked ? day : null)"
                >{{ wish.kind === 'ship_by' ? 'ship by' : 'deliver by' }} <b>{{ day | day }}</b></mat-checkbox
              >
            }
            @if (wishDay() === undefined) {
              <mat-checkbox [checked]="false" (change)="wishDay.set(null)">{{ wish.days.length > 1 ? 'neither' : 'as the order requests' }}</mat-checkbox>
            }
            <span class="quiet">from “{{ wish.words }}”{{ wish.why ? ': ' + wish.why : '' }}</span>
          </div>
        }
        <table class="ruled" aria-label="Proposed lines">
          <thead>
            <tr>
              <th></th>
              <th>Words</th>
              <th>Understood as</th>
              <th class="figure">Quantity</th>
              <th>Wanted</th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track $index; let at = $index) {
              <tr
                #line
                [attr.tabindex]="at === here() ? 0 : -1"
                [class.marked]="at === here()"
                [attr.aria-selected]="at === here()"
                (focus)="here.set(at)"
                (click)="here.set(at)"
                (keydown)="handle($event, at)"
              >
                <td class="mark" [class.open]="!settled(row)" [class.late]="settled(row) && row.proposal.certainty !== 'sure'">{{ wordOf(row) }}</td>
                <td class="words">
                  @if (retyping() === at) {
                    <mat-form-field
                      ><input
                        matInput
                        #again
                        class="code"
                        aria-label="The line again: item, quantity, unit, day"
                        autocomplete="off"
                        [value]="row.proposal.words"
                        (keydown)="retypeKey($event, at, again.value)"
                        (blur)="readAgain(at, again.value)"
                    /></mat-form-field>
                  } @else {
                    “{{ row.proposal.words }}”
                  }
                  @if (row.proposal.why) {
                    <div class="small quiet">{{ row.proposal.why }}</div>
                  }
                </td>
                <td>
                  @for (reading of row.proposal.readings; track $index; let choice = $index) {
                    <button
                      type="button"
                      class="reading"
                      tabindex="-1"
                      [class.picked]="row.picked === choice"
                      [attr.aria-pressed]="row.picked === choice"
                      (click)="pick(at, choice)"
                    >
                      @if (row.proposal.readings.length > 1 || row.picked === null) {
                        <kbd>{{ choice + 1 }}</kbd>
                      }
                      <span class="code">{{ reading.item }}</span> {{ differing(row, reading) || reading.description }}
                      @if (reading.usual) {
                        <span class="quiet small">they buy it</span>
                      }
                    </button>
                  } @empty {
                    <span class="open">not found</span>
                  }
                </td>
                <td class="figure">
                  @if (chosen(row).quantity; as quantity) {
                    {{ quantity | amount }} <span class="small">{{ chosen(row).unit | unit: quantity }}</span>
                  } @else {
                    <span class="open">how many?</span>
                  }
                </td>
                <td>
                  @if (chosen(row).day; as day) {
                    {{ day | day }}
                  }
                </td>
              </tr>
            } @empty {
              <tr>
                <td colspan="5" class="quiet none">{{ text().trim() ? 'No line was found in it.' : '' }}</td>
              </tr>
            }
          </tbody>
        </table>
        @if (tasks().length > 0) {
          <p class="rest"><b>To deal with:</b> <span class="quiet">no line is made of it; it stays with the order until somebody closes it</span></p>
          <ul class="tasks">
            @for (part of tasks(); track $index) {
              <li>
                <span class="quiet">row {{ part.row }}</span> “{{ part.words }}”
              </li>
            }
          </ul>
        }
        @if (unknown().length > 0) {
          <p class="rest"><b>Not understood:</b></p>
          <ul>
            @for (part of unknown(); track $index) {
              <li>
                <span class="quiet">row {{ part.row }}</span> “{{ part.words }}”
              </li>
            }
          </ul>
        }
      }
    </section>
  `,
  styles: `
    section {
      padding: 8px 0 4px;
    }
    .source {
      width: 100%;
    }
    mat-checkbox {
      display: inline-block;
      margin: 4px 18px 4px -8px;
    }
    .mark {
      width: 62px;
      white-space: nowrap;
    }
    .open {
      color: var(--open);
      font-weight: 600;
    }
    .late {
      color: var(--late);
      font-weight: 600;
    }
    .words {
      max-width: 330px;
    }
    .words mat-form-field {
      width: 100%;
    }
    .reading {
      all: unset;
      box-sizing: border-box;
      display: block;
      width: 100%;
      padding: 2px 6px;
      cursor: pointer;
      color: var(--ink-quiet);
      border-left: 3px solid transparent;
    }
    .reading.picked {
      color: var(--ink);
      border-left-color: var(--act);
    }
    mat-checkbox .quiet,
    .reading > * {
      margin-right: 6px;
    }
    mat-checkbox .quiet {
      margin-left: 6px;
    }
    .rest {
      margin: 8px 0 0;
    }
    .rest .quiet {
      margin-left: 6px;
    }
    ul {
      margin: 2px 0 0;
      padding-left: 18px;
    }
    tbody tr {
      vertical-align: top;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TextReader {
  protected readonly store = inject(OrderStore);
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
        switchMap((text) => this.store.readText(text).pipe(catchError((error: Error) => this.fail(error)))),
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
          this.store
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
    this.store
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
    this.store.addLines(
      {
        lines: rows.map(({ proposal, picked }) => {
          const { item, unit, quantity, day } = proposal.readings[picked!]!;
          return { item, unit, quantity: quantity!, ...(day === null ? {} : { requestedDay: day }) };
        }),
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

/** What is sure or likely is taken; of several nothing is. */
function asRow(proposal: Proposal): Row {
  return { proposal, picked: proposal.certainty === 'sure' || proposal.certainty === 'likely' ? 0 : null };
}
