import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { ledgerRoutes, type EntryRow } from '@nockwright/contract/ledger';
import { catchError, debounceTime, EMPTY, switchMap } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { amountInWords, DayPipe, ListCell, ListPage, type ListColumn } from '../paper';
import { ENTRY_WORDS, movesMoney, paperLink } from './entry-words';

const TYPING_MS = 80;

/** A line of an entry; the first of each says what the entry is. */
interface Row {
  readonly entry: EntryRow;
  readonly line: EntryRow['lines'][number];
  readonly first: boolean;
  readonly key: string;
}

const figure = (value: string) => (Number(value) === 0 ? '' : amountInWords(value));
const lineWords = ({ line }: Row) => [`${line.account} ${line.name}`, line.item, line.percent === null ? '' : `${line.percent} %`].filter(Boolean).join(', ');

const COLUMNS: readonly ListColumn<Row>[] = [
  { id: 'entry', name: 'Entry', figure: true, text: (row) => (row.first ? String(row.entry.id) : ''), from: 620 },
  { id: 'day', name: 'Day', text: (row) => (row.first ? row.entry.day : '') },
  { id: 'what', name: 'What', text: (row) => (row.first ? ENTRY_WORDS[row.entry.kind] : ''), from: 760 },
  { id: 'paper', name: 'Paper', text: (row) => (row.first ? row.entry.reference : '') },
  { id: 'account', name: 'Account', text: lineWords },
  { id: 'debit', name: 'Debit', figure: true, text: (row) => figure(row.line.debit) },
  { id: 'credit', name: 'Credit', figure: true, text: (row) => figure(row.line.credit) },
];

/** Entries of the ledger, newest first, each with its lines: all, those of an account, or those of a paper. */
@Component({
  selector: 'nock-entry-list',
  imports: [DayPipe, ListCell, ListPage, MatButton, RouterLink],
  template: `
    <nock-list
      [heading]="heading()"
      what="entries"
      label="Entries of the ledger"
      hint="filter by number of the paper"
      [q]="q()"
      [columns]="columns"
      [rows]="rows()"
      [key]="keyOf"
      [none]="fault() || 'No entry matches.'"
      [whole]="false"
      [more]="more() ? 'Show older entries' : ''"
      (further)="older()"
      (opened)="open($event)"
    >
      <a beside mat-button routerLink="/ledger">Accounts</a>
      <a beside mat-button href="/api/ledger/export" download>All as CSV</a>
      <ng-template nockCell="day" [nockCellOf]="rows()" let-row>
        @if (row.first) {
          {{ row.entry.day | day }}
        }
      </ng-template>
      <ng-template nockCell="paper" [nockCellOf]="rows()" let-row>
        @if (row.first) {
          @if (linkOf(row.entry); as link) {
            <a class="code" [routerLink]="link" tabindex="-1">{{ row.entry.reference || 'see it' }}</a>
          } @else {
            {{ row.entry.reference }}
          }
        }
      </ng-template>
    </nock-list>
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryList {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  readonly q = input<string>();
  readonly account = input<string>();
  protected readonly columns = COLUMNS;
  protected readonly keyOf = (row: Row) => row.key;
  protected readonly linkOf = paperLink;
  protected readonly entries = signal<readonly EntryRow[]>([]);
  protected readonly more = signal(false);
  protected readonly fault = signal('');
  protected readonly rows = computed(() =>
    this.entries().flatMap((entry) => entry.lines.map((line, at): Row => ({ entry, line, first: at === 0, key: `${entry.id}/${at}` }))),
  );
  protected readonly heading = computed(() => {
    const account = this.account();
    const name = this.entries()[0]?.lines.find((line) => line.account === account)?.name;
    return account === undefined ? 'Entries' : [account, name].filter(Boolean).join(' ');
  });
  private readonly query = computed(() => {
    const [account, q] = [this.account(), (this.q() ?? '').slice(0, 100)];
    return { ...(account ? { account } : {}), ...(q ? { q } : {}) };
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.query)
      .pipe(
        debounceTime(TYPING_MS),
        switchMap((query) =>
          live.kept(
            () => this.api.call(ledgerRoutes.listEntries, { query }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            movesMoney,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ entries, more }) => {
        this.entries.set(entries);
        this.more.set(more);
      });
  }

  protected older(): void {
    const last = this.entries().at(-1);
    if (!last) return;
    this.api.call(ledgerRoutes.listEntries, { query: { ...this.query(), before: last.id } }).subscribe({
      next: ({ entries, more }) => {
        this.entries.update((all) => [...all, ...entries]);
        this.more.set(more);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected open({ entry }: Row): void {
    const link = paperLink(entry);
    if (link) void this.router.navigate([...link]);
  }
}
