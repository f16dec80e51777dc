import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { ledgerRoutes, type AccountRow } from '@nockwright/contract/ledger';
import { catchError, EMPTY } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { amountInWords, Keys, ListPage, type ListColumn } from '../paper';
import { movesMoney } from './entry-words';

const KINDS = { asset: 'asset', liability: 'liability', equity: 'equity', income: 'income', expense: 'expense' } as const;
const figure = (value: string) => (Number(value) === 0 ? '' : amountInWords(value));
/** A balance says on which side it stands. */
const balanceInWords = (row: AccountRow) =>
  Number(row.balance) === 0 ? amountInWords(row.balance) : `${amountInWords(row.balance.replace('-', ''))} ${Number(row.balance) > 0 ? 'Dr' : 'Cr'}`;

const COLUMNS: readonly ListColumn<AccountRow>[] = [
  { id: 'code', name: 'Account', text: (row) => row.code, sort: (row) => row.code, link: (row) => ['/ledger/accounts', row.code] },
  { id: 'name', name: 'Name', text: (row) => row.name, sort: (row) => row.name },
  { id: 'kind', name: 'Kind', text: (row) => KINDS[row.kind], sort: (row) => row.kind, from: 620 },
  { id: 'debit', name: 'Debits', figure: true, text: (row) => figure(row.debit), sort: (row) => Number(row.debit), from: 560 },
  { id: 'credit', name: 'Credits', figure: true, text: (row) => figure(row.credit), sort: (row) => Number(row.credit), from: 560 },
  {
    id: 'balance',
    name: 'Balance',
    title: 'Dr: debits are more; Cr: credits are more',
    figure: true,
    text: balanceInWords,
    sort: (row) => Number(row.balance),
  },
];

/** What stands on every account. */
@Component({
  selector: 'nock-ledger-page',
  imports: [ListPage, MatButton, RouterLink],
  template: `
    <nock-list
      heading="Ledger"
      what="accounts"
      label="Accounts"
      [columns]="columns"
      [rows]="rows()"
      [key]="codeOf"
      [none]="fault() || 'Nothing is posted yet.'"
      (opened)="open($event)"
    >
      <a beside mat-flat-button routerLink="/ledger/reconciliation">Reconciliation</a>
      <a beside mat-button routerLink="/ledger/entries">All entries</a>
    </nock-list>
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LedgerPage {
  private readonly router = inject(Router);
  protected readonly columns = COLUMNS;
  protected readonly codeOf = (row: AccountRow) => row.code;
  protected readonly rows = signal<readonly AccountRow[]>([]);
  protected readonly fault = signal('');

  constructor() {
    const api = inject(Api);
    inject(Live)
      .kept(() => api.call(ledgerRoutes.readAccounts, { query: {} }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))), movesMoney)
      .pipe(takeUntilDestroyed())
      .subscribe(({ accounts }) => this.rows.set(accounts));
    inject(Keys).use([{ key: 'R', does: 'to the reconciliation', run: () => void this.router.navigateByUrl('/ledger/reconciliation') }]);
  }

  protected open(row: AccountRow): void {
    void this.router.navigate(['/ledger/accounts', row.code]);
  }
}
