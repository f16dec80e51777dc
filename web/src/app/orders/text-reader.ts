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
import { asOrderText, readOrderTable, type OrderTable } from '@nockwright/core/orders';
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
          <mat-checkbox [checked]="takeWish()" (change)="takeWish.set($event.checked)"
            >{{ wish.kind === 'ship_by' ? 'to leave by' : 'to be there by' }} <b>{{ wish.value | day }}</b>
            <span class="quiet">from “{{ wish.words }}”</span></mat-checkbox
          >
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
                        (blur)="retyping.set(null)"
                    /></mat-form-field>
                  } @else {
                    “{{ row.proposal.words }}”
                  }
                  @if (row.proposal.why) {
                    <div class="small quiet">{{ row.proposal.why }}</div>
                  }
                </td>
                <td>
                  @for (reading of row.proposal.readings; track reading.item; let choice = $index) {
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
                      <span class="code">{{ reading.item }}</span> {{ reading.description }}
                      @if (reading.usual) {
                        <span class="quiet small">they buy it</span>
                      }
                    </button>
                  } @empty {
                    <span class="open">not found</span>
                  }
                </td>
                <td class="figure">
                  @if (row.proposal.quantity; as quantity) {
                    {{ quantity | amount }} <span class="small">{{ unitOf(row) | unit: quantity }}</span>
                  } @else {
                    <span class="open">how many?</span>
                  }
                </td>
                <td>{{ row.proposal.day === null ? '' : (row.proposal.day | day) }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="5" class="quiet none">{{ text().trim() ? 'No line was found in it.' : '' }}</td>
              </tr>
            }
          </tbody>
        </table>
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
  protected readonly takeWish = signal(true);
  protected readonly here = signal(0);
  protected readonly retyping = signal<number | null>(null);
  protected readonly unknown = computed(() => (this.read()?.rest ?? []).filter((part) => part.kind === 'unknown'));
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

  protected settled({ proposal, picked }: Row): boolean {
    return picked !== null && proposal.quantity !== null;
  }

  protected wordOf(row: Row): string {
    if (row.proposal.readings.length === 0) return 'not found';
    if (!this.settled(row)) return row.proposal.quantity === null ? 'how many?' : 'choose';
    return row.proposal.certainty === 'choose' ? 'chosen' : row.proposal.certainty;
  }

  protected unitOf({ proposal, picked }: Row): string {
    return proposal.readings[picked ?? 0]?.unit ?? proposal.unit ?? '';
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

  /** A line that is typed again is read again, by itself. */
  protected retypeKey(event: KeyboardEvent, at: number, text: string): void {
    if (event.key === 'Escape') this.retyping.set(null);
    else if (event.key !== 'Enter') return;
    else
      this.store
        .readText(text)
        .pipe(catchError((error: Error) => this.fail(error)))
        .subscribe(({ lines }) => {
          this.retyping.set(null);
          const [line] = lines;
          if (line) this.change(at, () => asRow(line));
          else this.store.fault.set(`“${text}” names no line: type it as jar hex 20 tray fri.`);
          this.goTo(at);
        });
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') this.goTo(at);
  }

  /** Adds what was agreed to; where something is open, goes there. */
  add(): void {
    const rows = this.rows();
    const open = rows.findIndex((row) => !this.settled(row));
    if (rows.length === 0 || this.store.busy()) return;
    if (open >= 0) {
      this.store.fault.set(`“${rows[open]!.proposal.words}” is not settled: pick a reading, type it again, or drop it.`);
      return this.goTo(open);
    }
    const { poNumber = null, wish = null } = this.read() ?? {};
    this.store.addLines(
      {
        lines: rows.map(({ proposal, picked }) => {
          const { item, unit } = proposal.readings[picked!]!;
          return { item, unit, quantity: proposal.quantity!, ...(proposal.day === null ? {} : { requestedDay: proposal.day }) };
        }),
        ...(poNumber && this.takePo() ? { poNumber: poNumber.value } : {}),
        ...(wish && this.takeWish() ? { requestKind: wish.kind, requestedDay: wish.value } : {}),
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
