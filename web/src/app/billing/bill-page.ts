import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { invoiceRoutes, type BillableRow, type InvoicePreview } from '@nockwright/contract/billing';
import { catchError, debounceTime, EMPTY, map, of, switchMap, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { InvoiceSum } from './invoice-sum';
import { AmountPipe, amountInWords, CustomerName, DayPipe, Keys, ListCell, ListPage, Sheet, type ListColumn } from '../paper';

const TYPING_MS = 80;
const RULES = { shipment: 'at shipping', daily: 'daily', weekly: 'weekly', monthly: 'monthly', value: 'at a value' } as const;

/** A shipment that waits to be billed. */
interface Row {
  readonly group: BillableRow;
  readonly shipment: BillableRow['shipments'][number];
}

const COLUMNS: readonly ListColumn<Row>[] = [
  { id: 'shipment', name: 'Shipment', text: (row) => row.shipment.number, sort: (row) => row.shipment.number, link: (row) => ['/orders', row.shipment.order] },
  { id: 'customer', name: 'Customer', text: (row) => row.group.customer, sort: (row) => row.group.customer },
  { id: 'po', name: 'Customer PO', text: (row) => row.shipment.poNumber, sort: (row) => row.shipment.poNumber, from: 700 },
  { id: 'day', name: 'Shipped', text: (row) => row.shipment.day, sort: (row) => row.shipment.day },
  { id: 'rule', name: 'Billed', text: (row) => RULES[row.group.rule], sort: (row) => row.group.rule, from: 620 },
  { id: 'net', name: 'Without tax', figure: true, text: (row) => amountInWords(row.shipment.net), sort: (row) => Number(row.shipment.net) },
];

/**
 * What has left and is on no invoice. Shipments of one customer are put on one invoice, which is seen before it is issued; a run
 * bills everybody who is due by their rule, one after the other, and can be stopped.
 */
@Component({
  selector: 'nock-bill-page',
  imports: [AmountPipe, CustomerName, DayPipe, ListCell, InvoiceSum, ListPage, MatButton, Sheet],
  templateUrl: './bill-page.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BillPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: Row) => row.shipment.id;
  readonly q = input<string>();
  protected readonly groups = signal<readonly BillableRow[]>([]);
  protected readonly rows = computed(() => this.groups().flatMap((group) => group.shipments.map((shipment): Row => ({ group, shipment }))));
  protected readonly chosen = signal<ReadonlySet<string | number>>(new Set());
  protected readonly at = signal<number | null>(null);
  protected readonly preview = signal<InvoicePreview | null>(null);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  /** What a run has done so far; null: none was started. */
  protected readonly run = signal<{ readonly issued: readonly string[]; readonly left: number; readonly running: boolean } | null>(null);
  protected readonly mayBill = computed(() => this.session.may(invoiceRoutes.issueInvoice));
  protected readonly due = computed(() => this.groups().filter((group) => group.due).length);
  /** What an invoice would be made over: the chosen shipments, else all of the customer in focus. */
  protected readonly wish = computed((): readonly number[] => {
    const rows = this.rows();
    const chosen = rows.filter((row) => this.chosen().has(row.shipment.id));
    if (chosen.length > 0) return chosen.map((row) => row.shipment.id);
    const focused = rows.find((row) => row.shipment.id === this.at());
    return focused ? focused.group.shipments.map((shipment) => shipment.id) : [];
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.q)
      .pipe(
        debounceTime(TYPING_MS),
        switchMap((q) =>
          live.kept(
            () =>
              this.api.call(invoiceRoutes.listBillable, { query: q ? { q } : {} }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('invoice:') || topic.startsWith('shipment:') || topic.startsWith('order:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((groups) => this.groups.set(groups));
    toObservable(this.wish)
      .pipe(
        debounceTime(TYPING_MS),
        switchMap((shipments) => this.look(shipments)),
        takeUntilDestroyed(),
      )
      .subscribe((preview) => this.preview.set(preview));
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'issue the invoice that is shown', run: () => this.issue() },
      { key: 'B', does: 'bill everybody who is due, or stop the run', run: () => this.toggleRun() },
      { key: 'Escape', does: 'choose none, then to the invoices', run: () => this.leave() },
    ]);
  }

  private look(shipments: readonly number[]): Observable<InvoicePreview | null> {
    if (shipments.length === 0) return of(null);
    return this.api.call(invoiceRoutes.previewInvoice, { query: { shipments: shipments.join(',') } }).pipe(
      map((preview) => (this.fault.set(''), preview)),
      catchError((error: Error) => (this.fault.set(error.message), of(null))),
    );
  }

  protected issue(): boolean {
    const [shipments, preview] = [this.wish(), this.preview()];
    if (!this.mayBill() || shipments.length === 0 || !preview || this.busy()) return false;
    this.busy.set(true);
    this.api.call(invoiceRoutes.issueInvoice, { body: { shipments, total: preview.total } }).subscribe({
      next: ({ id }) => void this.router.navigate(['/invoices', id]),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
    return true;
  }

  protected toggleRun(): boolean {
    if (!this.mayBill()) return false;
    if (this.run()?.running) {
      this.run.update((run) => run && { ...run, running: false });
      return true;
    }
    if (this.due() === 0) return false;
    this.run.set({ issued: [], left: this.due(), running: true });
    this.next();
    return true;
  }

  /** One customer after the other: what is done stays done wherever the run is stopped. */
  private next(): void {
    this.api.call(invoiceRoutes.billNext, { body: {} }).subscribe({
      next: ({ invoice, left }) => {
        this.run.update((run) => run && { ...run, left, issued: invoice ? [...run.issued, `${invoice.number}, ${invoice.customer}`] : run.issued });
        if (invoice && left > 0 && this.run()?.running) this.next();
        else this.run.update((run) => run && { ...run, running: false });
      },
      error: (error: Error) => {
        this.fault.set(error.message);
        this.run.update((run) => run && { ...run, running: false });
      },
    });
  }

  private leave(): boolean {
    if (this.chosen().size > 0) this.chosen.set(new Set());
    else void this.router.navigateByUrl('/invoices');
    return true;
  }
}
