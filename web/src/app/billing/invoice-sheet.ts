import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { invoiceRoutes, type InvoiceView } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, CustomerName, DayPipe, fieldsOf, History, Keys, RecordForm, recordOf, Sheet } from '../paper';
import { CreditForm } from './credit-form';
import { InvoiceLines } from './invoice-lines';

type WriteOff = BodyOf<typeof invoiceRoutes.writeOff>;
const WRITE_OFF = fieldsOf<WriteOff>([
  { name: 'amount', label: 'Amount', kind: 'figure' },
  { name: 'reason', label: 'Why', most: 300 },
]);
const SETTLED = { payment: 'Payment', discount: 'Discount', credit: 'Credit note', write_off: 'Written off' } as const;

/** An invoice or a credit note: what it says, what is settled of it, and what corrects it. Once issued it does not change. */
@Component({
  selector: 'nock-invoice-sheet',
  imports: [RouterLink, MatButton, AmountPipe, CustomerName, CreditForm, DayPipe, History, InvoiceLines, RecordForm, Sheet],
  templateUrl: './invoice-sheet.html',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceSheet {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  readonly id = input.required({ transform: numberAttribute });
  protected readonly invoice = signal<InvoiceView | null>(null);
  protected readonly fault = signal('');
  protected readonly form = signal<'credit' | 'write_off' | null>(null);
  protected readonly settledBy = SETTLED;
  protected readonly name = computed(() => (this.invoice()?.kind === 'credit_note' ? 'Credit note' : 'Invoice'));
  protected readonly mayBill = computed(() => this.session.may(invoiceRoutes.creditInvoice));
  protected readonly mayCredit = computed(() => this.mayBill() && this.invoice()?.kind === 'invoice' && this.invoice()!.lines.length > 0);
  protected readonly mayWriteOff = computed(() => this.mayBill() && this.invoice()?.kind === 'invoice' && Number(this.invoice()!.open) > 0);
  protected readonly writeOff = computed(() => {
    const invoice = this.invoice();
    if (!invoice || this.form() !== 'write_off') return null;
    return recordOf<WriteOff, InvoiceView>({
      heading: `Write off invoice ${invoice.number}`,
      act: 'Write off',
      name: 'write-off',
      subject: invoice.id,
      fields: WRITE_OFF,
      value: { amount: invoice.open },
      route: invoiceRoutes.writeOff,
      hint: `What is written off is not asked for any more. Open: ${invoice.open} ${invoice.currency}.`,
      send: (body) => this.api.call(invoiceRoutes.writeOff, { params: { invoice: invoice.id }, body }),
    });
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.id)
      .pipe(
        switchMap((invoice) =>
          live.kept(
            () => this.api.call(invoiceRoutes.readInvoice, { params: { invoice } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `invoice:${invoice}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((invoice) => this.invoice.set(invoice));
    effect(() => {
      this.id();
      untracked(() => this.form.set(null));
    });
    inject(Keys).use([
      { key: 'C', does: 'credit the invoice', run: () => this.mayCredit() && this.form.set('credit') },
      { key: 'W', does: 'write off what is open', run: () => this.mayWriteOff() && this.form.set('write_off') },
      { key: 'P', does: 'print it', run: () => void window.open(this.paper(), '_blank', 'noopener') },
      { key: 'Ctrl+Enter', does: 'record a payment of the customer', run: () => this.pay() },
      { key: 'Escape', does: 'to all invoices', run: () => void this.router.navigateByUrl('/invoices') },
    ]);
  }

  protected paper(): string {
    return `/api/invoices/${this.id()}/paper`;
  }

  protected pay(): boolean {
    const invoice = this.invoice();
    if (!invoice || this.form() !== null) return false;
    void this.router.navigate(['/customers', invoice.customerId, 'money']);
    return true;
  }

  protected credited(note: InvoiceView): void {
    this.form.set(null);
    void this.router.navigate(['/invoices', note.id]);
  }

  protected show(invoice: InvoiceView): void {
    this.form.set(null);
    this.invoice.set(invoice);
  }
}
