import { ChangeDetectionStrategy, Component, computed, inject, input, numberAttribute, signal } from '@angular/core';
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
import { addressWords, DayPipe, Keys, ListCell, ListChoice, ListPage, MAIL_STATES, Sheet, wordOf, type Choice, type ListColumn } from '../paper';

const STATES = [
  ['all', 'all'],
  ['failed', MAIL_STATES.failed],
  ['waiting', MAIL_STATES.waiting],
  ['sent', MAIL_STATES.sent],
] as const;

/** `queued, tried 2 times`. */
function stateOf({ state, attempts }: MailRow): string {
  return `${MAIL_STATES[state]}${state === 'waiting' && attempts > 0 ? `, tried ${attempts} ${attempts === 1 ? 'time' : 'times'}` : ''}`;
}

const COLUMNS: readonly ListColumn<MailRow>[] = [
  { id: 'to', name: 'To', text: (row) => row.recipients.join(', '), from: 620 },
  { id: 'subject', name: 'Subject', text: (row) => row.subject },
  { id: 'about', name: 'Order or purchase', text: (row) => row.about.label },
  { id: 'written', name: 'Written', text: (row) => row.at.slice(0, 10), from: 700 },
  { id: 'state', name: 'State', text: stateOf },
];

/** What was mailed, to whom, and what became of it. What the post office did not take stands here until somebody acts on it. */
@Component({
  selector: 'nock-mail-list',
  imports: [RouterLink, MatButton, MatFormField, MatInput, DayPipe, ListCell, ListChoice, ListPage, Sheet],
  templateUrl: './mail-list.html',
  styleUrl: './mail-list.css',
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

  protected readonly words = MAIL_STATES;
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: MailRow) => row.id;
  protected readonly stateOf = stateOf;
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
    inject(Keys).use([{ key: 'T', does: 'try the mail again', run: () => this.retry('') }]);
  }

  /** The order or purchase it is about. */
  protected pathOf({ about }: MailRow): [string, number] {
    return [about.kind === 'order' ? '/orders' : '/supply', about.id];
  }

  protected mark(row: MailRow): void {
    if (row.id !== this.marked()) this.filter({ at: row.id });
  }

  protected open(row: MailRow): void {
    void this.router.navigate(this.pathOf(row));
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
