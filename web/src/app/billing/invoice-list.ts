import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { invoiceRoutes, type InvoiceRow } from '@nockwright/contract/billing';
import { ledgerRoutes } from '@nockwright/contract/ledger';
import { Session } from '../access';
import { Api } from '../api';
import { keptList } from '../live';
import { addressWords, AmountPipe, amountInWords, CustomerName, DayPipe, ListCell, ListChoice, ListPage, wordOf, type ListColumn } from '../paper';

const STATES = [
  ['open', 'open'],
  ['overdue', 'overdue'],
  ['settled', 'settled'],
  ['all', 'all'],
] as const;

/** A credit note takes away: it counts below 0. */
const signed = (row: InvoiceRow, amount: string) => (row.kind === 'invoice' ? Number(amount) : -Number(amount));
const inWords = (row: InvoiceRow, amount: string) => `${row.kind === 'credit_note' && Number(amount) > 0 ? '−' : ''}${amountInWords(amount)}`;

const COLUMNS: readonly ListColumn<InvoiceRow>[] = [
  { id: 'number', name: 'Invoice', text: (row) => row.number, sort: (row) => row.number, link: (row) => ['/invoices', row.id] },
  { id: 'customer', name: 'Customer', text: (row) => row.customer, sort: (row) => row.customer },
  { id: 'day', name: 'Day', text: (row) => row.day, sort: (row) => row.day, from: 480 },
  { id: 'due', name: 'Due', text: (row) => row.dueDay, sort: (row) => row.dueDay },
  { id: 'total', name: 'Total', figure: true, text: (row) => inWords(row, row.total), sort: (row) => signed(row, row.total), from: 560 },
  { id: 'open', name: 'Open', figure: true, text: (row) => inWords(row, row.open), sort: (row) => signed(row, row.open) },
];

interface Outstanding {
  readonly now: string | null;
  readonly before: string | null;
}

/** Invoices and credit notes, newest first; what is overdue says so. */
@Component({
  selector: 'nock-invoice-list',
  imports: [AmountPipe, CustomerName, DayPipe, ListCell, ListChoice, ListPage, MatButton, RouterLink],
  template: `
    <nock-list
      heading="Invoices"
      what="invoices"
      label="Invoices"
      hint="filter by number or customer"
      [q]="q()"
      [columns]="columns"
      [rows]="rows()"
      [key]="idOf"
      [none]="fault() || 'No invoice matches.'"
      [whole]="!more()"
      [more]="more() ? 'Show older invoices' : ''"
      (further)="older()"
      (opened)="open($event)"
    >
      <nock-list-choice which what="Which invoices" [choices]="states" [chosen]="which()" (choose)="filter({ state: $event })" />
      <a beside mat-flat-button routerLink="/invoices/bill">To bill</a>
      @if (mayPost) {
        <ng-container beside>
          <a mat-button routerLink="/bank">Bank</a>
          <a mat-button routerLink="/ledger">Ledger</a>
        </ng-container>
      }
      <p below class="sums">
        @if (sums(); as sums) {
          Open <b>{{ sums.open | amount }} {{ sums.currency }}</b
          >, overdue <b [class.late]="+sums.overdue > 0">{{ sums.overdue | amount }} {{ sums.currency }}</b
          >{{ outstanding(sums.outstanding) }}
        }
      </p>
      <ng-template nockCell="customer" [nockCellOf]="rows()" let-row><nock-customer-name [id]="row.customerId" [name]="row.customer" /></ng-template>
      <ng-template nockCell="day" [nockCellOf]="rows()" let-row>{{ row.day | day }}</ng-template>
      <ng-template nockCell="due" [nockCellOf]="rows()" let-row>
        @if (row.kind === 'credit_note') {
          <span class="quiet">credit note</span>
        } @else {
          {{ row.dueDay | day }}
          @if (row.overdue) {
            <b class="late">overdue</b>
          }
        }
      </ng-template>
    </nock-list>
  `,
  styles: `
    .sums {
      margin: 0 0 8px;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceList {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly filter = addressWords();
  protected readonly states = STATES;
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: InvoiceRow) => row.id;
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly InvoiceRow[]>([]);
  protected readonly more = signal(false);
  protected readonly sums = signal<{ readonly open: string; readonly overdue: string; readonly currency: string; readonly outstanding: Outstanding } | null>(
    null,
  );
  protected readonly fault = signal('');
  protected readonly mayPost = inject(Session).may(ledgerRoutes.readAccounts);

  constructor() {
    keptList({
      q: this.q,
      state: this.which,
      load: ({ search, state }) => this.api.call(invoiceRoutes.listInvoices, { query: { state, ...(search ? { q: search } : {}) } }),
      topics: 'invoice:',
      fault: this.fault,
    }).subscribe(({ rows, more, ...sums }) => {
      this.rows.set(rows);
      this.more.set(more);
      this.sums.set(sums);
    });
  }

  /** How long customers take to pay, and whether it grows. */
  protected outstanding({ now, before }: Outstanding): string {
    if (now === null) return '';
    return `. Days sales outstanding ${now}${before === null ? '' : `, ${before} a month ago`}`;
  }

  protected older(): void {
    const last = this.rows().at(-1);
    const q = this.q();
    if (!last) return;
    this.api.call(invoiceRoutes.listInvoices, { query: { state: this.which(), before: last.id, ...(q ? { q } : {}) } }).subscribe({
      next: ({ rows, more }) => {
        this.rows.update((all) => [...all, ...rows]);
        this.more.set(more);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected open(row: InvoiceRow): void {
    void this.router.navigate(['/invoices', row.id]);
  }
}
