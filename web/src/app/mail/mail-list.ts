import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, numberAttribute, signal, viewChildren } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import { mailRoutes, type MailRow } from '@nockwright/contract/mail';
import { catchError, merge, of, startWith, Subject, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { keptList, Live } from '../live';
import { addressWords, DayPipe, FilterField, Keys, ListChoice, Sheet, wordOf, type Choice } from '../paper';

const WORDS = { waiting: 'on its way', sent: 'sent', failed: 'not taken' } as const;
const STATES = [
  ['all', 'all'],
  ['failed', WORDS.failed],
  ['waiting', WORDS.waiting],
  ['sent', WORDS.sent],
] as const;

/** What was mailed, to whom, and what became of it. What the post office did not take stands here until somebody acts on it. */
@Component({
  selector: 'nock-mail-list',
  imports: [RouterLink, MatButton, MatFormField, MatInput, DayPipe, FilterField, ListChoice, Sheet],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <div class="list-head">
          <h1>Mail</h1>
          <nock-filter
            what="mail"
            [text]="q() ?? ''"
            (typed)="filter({ q: $event || null })"
            hint="filter by subject, customer, order, address"
            (left)="toRows()"
          />
          <nock-list-choice what="Which mail" [choices]="states()" [chosen]="which()" (choose)="filter({ state: $event })" />
        </div>
        <table class="ruled" aria-label="Mail">
          <thead>
            <tr>
              <th>To</th>
              <th>Subject</th>
              <th>About</th>
              <th>Written</th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track row.id) {
              <tr
                #line
                tabindex="0"
                [class.marked]="row.id === marked()"
                [attr.aria-selected]="row.id === marked()"
                (focus)="mark(row)"
                (click)="mark(row)"
                (keydown)="handle($event, row, $index)"
              >
                <td class="to">{{ row.recipients.join(', ') }}</td>
                <td>{{ row.subject }}</td>
                <td>
                  <a class="code" [routerLink]="pathOf(row)" tabindex="-1">{{ row.about.label }}</a>
                  <span class="quiet small">{{ row.about.name }}</span>
                </td>
                <td>
                  {{ row.at.slice(0, 10) | day }} <span class="quiet small">{{ row.by }}</span>
                </td>
                <td [class.failed]="row.state === 'failed'">
                  {{ words[row.state]
                  }}{{ row.state === 'waiting' && row.attempts > 0 ? ', tried ' + row.attempts + (row.attempts === 1 ? ' time' : ' times') : '' }}
                </td>
              </tr>
            } @empty {
              <tr>
                <td colspan="5" class="quiet none">{{ fault() || 'No mail. Papers are mailed from their order, with W.' }}</td>
              </tr>
            }
          </tbody>
        </table>
        @if (next()) {
          <button mat-button type="button" class="more" (click)="more()">Show more</button>
        }
      </ng-container>
      <ng-container gloss>
        @if (mail(); as mail) {
          <h2>{{ mail.row.subject }}</h2>
          <p class="quiet">
            To {{ mail.row.recipients.join(', ') }}. Written {{ mail.row.at.slice(0, 10) | day }} by {{ mail.row.by }}, {{ words[mail.row.state] }}.
          </p>
          @if (mail.row.fault) {
            <p class="failed">Tried {{ mail.row.attempts }} {{ mail.row.attempts === 1 ? 'time' : 'times' }}. The post office said: {{ mail.row.fault }}</p>
          }
          @if (mail.row.fates.length > 1) {
            <ul class="fates" aria-label="What became of each">
              @for (fate of mail.row.fates; track fate.address) {
                <li>{{ fate.address }}: {{ fate.taken ? 'sent' : 'failed, ' + fate.why }}</li>
              }
            </ul>
          }
          @if (mail.row.state !== 'sent' && maySell()) {
            <form (submit)="$event.preventDefault(); retry(to.value)">
              <label for="retry-to">To</label>
              <mat-form-field
                ><input matInput #to id="retry-to" [value]="mail.row.recipients.join(', ')" autocomplete="off" spellcheck="false"
              /></mat-form-field>
              <button mat-stroked-button type="submit">Try again <kbd>T</kbd></button>
            </form>
          }
          <h3>Attached</h3>
          <ul>
            @for (file of mail.attachments; track file.href) {
              <li>
                <a [href]="file.href" target="_blank" rel="noopener">{{ file.name }}</a>
              </li>
            }
          </ul>
          <h3>Text</h3>
          <pre>{{ mail.body }}</pre>
          @if (mail.message) {
            <p><a [href]="mail.message" download>The message as it went out</a></p>
          }
        } @else {
          <h2>The outbox</h2>
          <p class="quiet">Go to a mail with ↓: what it says, what is attached and what became of it stand here.</p>
        }
        @if (mayPlan()) {
          <h3>Post office</h3>
          <p>
            A stand-in, {{ office() ? 'open: it keeps what it is given' : 'closed: mail waits and is tried again' }}.
            <button mat-button type="button" (click)="turnOffice()">{{ office() ? 'Close it' : 'Open it' }}</button>
          </p>
        }
        <p class="failed" role="alert">{{ said() }}</p>
      </ng-container>
      <ng-container acts>
        <span class="quiet"><kbd>↑ ↓</kbd> from mail to mail, <kbd>Enter</kbd> opens what it is about, <kbd>T</kbd> tries again</span>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    .fates {
      list-style: none;
      margin: 0 0 8px;
      padding: 0;
    }
    .state {
      width: 150px;
    }
    .to {
      max-width: 220px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    td {
      height: 34px;
    }
    td .quiet {
      margin-left: 6px;
    }
    .failed {
      color: var(--open);
      font-weight: 600;
    }
    ul {
      list-style: none;
      padding: 0;
      margin: 0;
    }
    pre {
      white-space: pre-wrap;
      font: inherit;
      margin: 0;
    }
    form {
      display: grid;
      gap: 4px;
      margin: 8px 0;
    }
    label {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MailListPage {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly filter = addressWords();
  protected readonly mayPlan = this.session.mayPlan;
  readonly q = input<string>();
  readonly state = input<string>();
  /** The mail that is explained: kept in the address. */
  readonly at = input<number | undefined, unknown>(undefined, { transform: (value) => (value === undefined ? undefined : numberAttribute(value)) });

  protected readonly words = WORDS;
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly MailRow[]>([]);
  protected readonly next = signal<number | null>(null);
  protected readonly failed = signal(0);
  protected readonly waiting = signal(0);
  /** Each with how many there are, where somebody has to see to them. */
  protected readonly states = computed((): readonly Choice[] => {
    const count = { all: 0, sent: 0, failed: this.failed(), waiting: this.waiting() };
    return STATES.map(([state, word]) => [state, count[state] > 0 ? `${word}, ${count[state]}` : word]);
  });
  protected readonly fault = signal('');
  protected readonly said = signal('');
  protected readonly marked = computed(() => this.at() ?? null);
  private readonly again = new Subject<void>();
  private readonly lines = viewChildren<ElementRef<HTMLElement>>('line');

  protected readonly mail = toSignal(
    toObservable(this.marked).pipe(
      switchMap((id) =>
        id === null
          ? of(null)
          : this.live.kept(
              () => this.api.call(mailRoutes.readMail, { params: { mail: id } }).pipe(catchError(() => of(null))),
              (topic) => topic === `mail:${id}`,
            ),
      ),
    ),
    { initialValue: null },
  );
  protected readonly office = toSignal(
    merge(this.again).pipe(
      startWith(undefined),
      switchMap(() => this.api.call(mailRoutes.readPostOffice).pipe(catchError(() => of({ open: true })))),
      switchMap(({ open }) => of(open)),
    ),
    { initialValue: true },
  );

  constructor() {
    keptList({
      q: this.q,
      state: this.which,
      load: (query) => this.api.call(mailRoutes.listMail, { query }),
      topics: 'mail:',
      fault: this.fault,
    }).subscribe(({ rows, next, failed, waiting }) => {
      this.rows.set(rows);
      this.next.set(next);
      this.failed.set(failed);
      this.waiting.set(waiting);
    });
    inject(Keys).use([
      { key: 'T', does: 'try the mail again', run: () => this.retry('') },
      { key: 'ArrowDown', does: 'to the mails', run: () => this.toRows() },
    ]);
  }

  protected toRows(): boolean {
    const marked = this.rows().findIndex((row) => row.id === this.marked());
    const line = this.lines()[Math.max(0, marked)];
    line?.nativeElement.focus();
    return line !== undefined;
  }

  /** The order or purchase it is about. */
  protected pathOf({ about }: MailRow): [string, number] {
    return [about.kind === 'order' ? '/orders' : '/supply', about.id];
  }

  protected mark(row: MailRow): void {
    if (row.id !== this.marked()) this.filter({ at: row.id });
  }

  protected handle(event: KeyboardEvent, row: MailRow, at: number): void {
    const rows = [...(event.currentTarget as HTMLElement).parentElement!.children] as HTMLElement[];
    if (event.key === 'Enter') void this.router.navigate(this.pathOf(row));
    else if (event.key === 'ArrowDown') rows[at + 1]?.focus();
    else if (event.key === 'ArrowUp') rows[at - 1]?.focus();
    else return;
    event.preventDefault();
  }

  protected more(): void {
    const before = this.next();
    if (before === null) return;
    const search = this.q();
    this.api.call(mailRoutes.listMail, { query: { ...(search ? { search } : {}), state: this.which(), before } }).subscribe({
      next: ({ rows, next }) => {
        this.rows.update((known) => [...known, ...rows]);
        this.next.set(next);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  /** `to`: the addresses as typed; nothing for those it had. */
  protected retry(to: string): boolean {
    const mail = this.mail();
    if (!mail || mail.row.state === 'sent' || !this.maySell()) return false;
    const recipients = to.split(/[\s,;]+/).filter(Boolean);
    this.said.set('');
    this.api.call(mailRoutes.retryMail, { params: { mail: mail.row.id }, body: recipients.length > 0 ? { recipients } : {} }).subscribe({
      error: (error: Error) => this.said.set(error.message),
    });
    return true;
  }

  protected turnOffice(): void {
    this.api.call(mailRoutes.setPostOffice, { body: { open: !this.office() } }).subscribe({
      next: () => this.again.next(),
      error: (error: Error) => this.said.set(error.message),
    });
  }
}
