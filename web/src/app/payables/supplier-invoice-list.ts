import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { payableRoutes, type SupplierInvoiceRow } from '@nockwright/contract/payables';
import { switchMap } from 'rxjs';
import { Api } from '../api';
import { keptList } from '../live';
import { addressWords, AmountPipe, amountInWords, chosenText, DayPipe, Keys, ListCell, ListChoice, ListPage, wordOf, type ListColumn } from '../paper';
import { SupplyNav } from '../supply';

const STATES = [
  ['held', 'held'],
  ['accepted', 'to pay'],
  ['paid', 'paid'],
  ['refused', 'refused'],
  ['all', 'all'],
] as const;
const MOST_BYTES = 2_000_000;

const stateOf = ({ state, differs }: SupplierInvoiceRow) =>
  state === 'held' ? (differs === 0 ? 'matches now' : differs === 1 ? '1 difference' : `${differs} differences`) : state === 'accepted' ? 'to pay' : state;

const COLUMNS: readonly ListColumn<SupplierInvoiceRow>[] = [
  { id: 'number', name: 'Invoice', text: (row) => row.number, sort: (row) => row.number, link: (row) => ['/supply/invoices', row.id] },
  { id: 'supplier', name: 'Supplier', text: (row) => row.name, sort: (row) => row.name },
  { id: 'day', name: 'Day', text: (row) => row.day, sort: (row) => row.day, from: 560 },
  { id: 'due', name: 'Due', text: (row) => row.dueDay, sort: (row) => row.dueDay, from: 460 },
  { id: 'total', name: 'Total', figure: true, text: (row) => amountInWords(row.total), sort: (row) => Number(row.total) },
  { id: 'state', name: 'State', text: stateOf, sort: stateOf },
];

/** Suppliers' invoices: those whose prices, quantities or freight do not match wait for a person. */
@Component({
  selector: 'nock-supplier-invoice-list',
  imports: [AmountPipe, DayPipe, ListCell, ListChoice, ListPage, MatButton, RouterLink, SupplyNav],
  template: `
    <nock-list
      heading="Supplier invoices"
      what="supplier invoices"
      label="Supplier invoices"
      hint="filter by number or supplier"
      [q]="q()"
      [columns]="columns"
      [rows]="rows()"
      [key]="idOf"
      [whole]="!more()"
      [none]="fault() || (which() === 'held' ? 'No invoice is held.' : 'No invoice matches.')"
      (opened)="open($event)"
    >
      <nock-list-choice which what="Which invoices" [choices]="states" [chosen]="which()" (choose)="filter({ state: $event })" />
      <a beside mat-flat-button routerLink="/supply/invoices/new">Enter invoice <kbd>A</kbd></a>
      <input beside #file type="file" id="supplier-file" class="visually-hidden" accept=".xml" (change)="takeFile(file)" tabindex="-1" aria-hidden="true" />
      <button beside mat-button type="button" (click)="file.click()">Take in UBL</button>
      <nock-supply-nav below />
      <p below>
        To pay: <b>{{ owed() | amount }} {{ currency() }}</b>
      </p>
      <p below class="open" role="alert">{{ wrong() }}</p>
      <ng-template nockCell="day" [nockCellOf]="rows()" let-row>{{ row.day | day }}</ng-template>
      <ng-template nockCell="due" [nockCellOf]="rows()" let-row>{{ row.dueDay | day }}</ng-template>
      <ng-template nockCell="state" [nockCellOf]="rows()" let-row>
        <span [class.open]="row.state === 'held'" [class.quiet]="row.state !== 'held'">{{ stateOf(row) }}</span>
      </ng-template>
    </nock-list>
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierInvoiceList {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly filter = addressWords();
  protected readonly states = STATES;
  protected readonly columns = COLUMNS;
  protected readonly stateOf = stateOf;
  protected readonly idOf = (row: SupplierInvoiceRow) => row.id;
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly SupplierInvoiceRow[]>([]);
  protected readonly more = signal(false);
  protected readonly owed = signal('0');
  protected readonly currency = signal('');
  protected readonly fault = signal('');
  protected readonly wrong = signal('');

  constructor() {
    keptList({
      q: this.q,
      state: this.which,
      load: ({ search, state }) => this.api.call(payableRoutes.listSupplierInvoices, { query: { state, ...(search ? { q: search } : {}) } }),
      topics: 'supplier_invoice:',
      fault: this.fault,
    }).subscribe(({ rows, more, owed, currency }) => {
      this.rows.set(rows);
      this.more.set(more);
      this.owed.set(owed);
      this.currency.set(currency);
    });
    inject(Keys).use([{ key: 'A', does: 'enter an invoice', run: () => void this.router.navigateByUrl('/supply/invoices/new') }]);
  }

  protected takeFile(field: HTMLInputElement): void {
    this.wrong.set('');
    chosenText(field, MOST_BYTES)
      .pipe(switchMap((body) => this.api.call(payableRoutes.addSupplierInvoiceFile, { body })))
      .subscribe({
        next: ({ id }) => void this.router.navigate(['/supply/invoices', id]),
        error: (error: Error) => this.wrong.set(error.message),
      });
  }

  protected open(row: SupplierInvoiceRow): void {
    void this.router.navigate(['/supply/invoices', row.id]);
  }
}
