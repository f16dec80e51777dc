import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { ledgerRoutes, type LedgerMonth, type Reconciliation } from '@nockwright/contract/ledger';
import { catchError, EMPTY, forkJoin, Subject } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, amountInWords, DayPipe, Keys, ListCell, ListPage, Sheet, type ListColumn } from '../paper';
import { movesMoney } from './entry-words';

type Check = Reconciliation['checks'][number];
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];
export const monthInWords = (month: string): string => `${MONTHS[Number(month.slice(5, 7)) - 1]} ${month.slice(0, 4)}`;
const stateOf = ({ different }: Check) => (different === 0 ? 'agrees' : different === 1 ? '1 differs' : `${different} differ`);

const COLUMNS: readonly ListColumn<Check>[] = [
  { id: 'name', name: 'Compared', text: (row) => row.name },
  { id: 'ledger', name: 'Ledger', figure: true, text: (row) => amountInWords(row.ledger) },
  { id: 'books', name: 'Books', figure: true, text: (row) => amountInWords(row.books) },
  { id: 'state', name: 'State', text: stateOf },
];

/** The ledger beside the books it is posted from: nothing may differ. A month that is over is closed here. */
@Component({
  selector: 'nock-reconciliation-page',
  imports: [AmountPipe, DayPipe, ListCell, ListPage, MatButton, RouterLink, Sheet],
  templateUrl: './reconciliation-page.html',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReconciliationPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly again = new Subject<void>();
  protected readonly columns = COLUMNS;
  protected readonly keyOf = (row: Check) => row.name;
  protected readonly monthInWords = monthInWords;
  protected readonly stateOf = stateOf;
  protected readonly checks = signal<readonly Check[]>([]);
  protected readonly months = signal<readonly LedgerMonth[]>([]);
  protected readonly at = signal<string | null>(null);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly shown = computed(() => this.checks().find((check) => check.name === this.at()) ?? null);
  protected readonly wrong = computed(() => this.checks().filter((check) => check.different > 0));
  protected readonly closable = computed(() => this.months().find((month) => month.closable) ?? null);

  constructor() {
    inject(Live)
      .kept(
        () =>
          forkJoin([this.api.call(ledgerRoutes.reconcile), this.api.call(ledgerRoutes.listMonths)]).pipe(
            catchError((error: Error) => (this.fault.set(error.message), EMPTY)),
          ),
        movesMoney,
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe(([{ checks }, months]) => {
        this.checks.set(checks);
        this.months.set(months);
      });
    inject(Keys).use([
      { key: 'C', does: 'close the oldest month that is open', run: () => this.close() },
      { key: 'Escape', does: 'to the accounts', run: () => void this.router.navigateByUrl('/ledger') },
    ]);
  }

  protected close(): boolean {
    const month = this.closable();
    if (!month || this.busy() || this.wrong().length > 0) return false;
    this.busy.set(true);
    this.fault.set('');
    this.api.call(ledgerRoutes.closeMonth, { body: { month: month.month } }).subscribe({
      next: (months) => {
        this.busy.set(false);
        this.months.set(months);
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
        this.again.next();
      },
    });
    return true;
  }
}
