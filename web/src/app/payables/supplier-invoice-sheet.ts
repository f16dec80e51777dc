import { ChangeDetectionStrategy, Component, computed, inject, input, numberAttribute, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { payableRoutes, type SupplierInvoiceView } from '@nockwright/contract/payables';
import type { BodyOf } from '@nockwright/contract/shape';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, DayPipe, fieldsOf, Keys, PricePipe, RecordForm, recordOf, Sheet, UnitPipe } from '../paper';
import { findingInWords } from './finding-words';

type Decided = BodyOf<typeof payableRoutes.acceptSupplierInvoice>;
const WHY = fieldsOf<Decided>([{ name: 'reason', label: 'Why', most: 300 }]);

/** A supplier's invoice beside what was ordered and what came: accepted, refused or paid. */
@Component({
  selector: 'nock-supplier-invoice-sheet',
  imports: [AmountPipe, DayPipe, MatButton, PricePipe, RecordForm, RouterLink, Sheet, UnitPipe],
  templateUrl: './supplier-invoice-sheet.html',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierInvoiceSheet {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  readonly id = input.required({ transform: numberAttribute });
  protected readonly invoice = signal<SupplierInvoiceView | null>(null);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly form = signal<'accept' | 'refuse' | null>(null);
  protected readonly words = findingInWords;
  protected readonly states = { held: 'held', accepted: 'to pay', paid: 'paid', refused: 'refused' } as const;
  protected readonly record = computed(() => {
    const [invoice, form] = [this.invoice(), this.form()];
    if (!invoice || !form) return null;
    const route = form === 'accept' ? payableRoutes.acceptSupplierInvoice : payableRoutes.refuseSupplierInvoice;
    return recordOf<Decided, SupplierInvoiceView>({
      heading: form === 'accept' ? 'Accept the difference' : 'Refuse invoice',
      act: form === 'accept' ? 'Accept invoice' : 'Refuse invoice',
      name: form,
      subject: invoice.id,
      fields: WHY,
      value: {},
      version: invoice.version,
      route,
      hint:
        form === 'accept'
          ? 'What it is dearer goes to the cost of the goods that are on hand; of those that have gone it is a difference.'
          : 'Another invoice of its number can be entered.',
      send: (body, version) => this.api.call(route, { params: { payable: invoice.id }, body: { ...body, version } }),
    });
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.id)
      .pipe(
        switchMap((invoice) =>
          live.kept(
            () =>
              this.api
                .call(payableRoutes.readSupplierInvoice, { params: { payable: invoice } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `supplier_invoice:${invoice}` || topic.startsWith('purchase:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((invoice) => this.invoice.set(invoice));
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'accept the invoice, or record that it is paid', run: () => this.mainAct() },
      { key: 'X', does: 'refuse the invoice', run: () => this.refuse() },
      { key: 'Escape', does: 'to the invoices', run: () => void this.router.navigateByUrl('/supply/invoices') },
    ]);
  }

  protected differs(line: SupplierInvoiceView['lines'][number], what: 'price' | 'quantity'): boolean {
    return (this.invoice()?.findings ?? []).some((finding) => finding.kind === what && finding.lineNo === line.lineNo);
  }

  protected mainAct(): boolean {
    const invoice = this.invoice();
    if (!invoice || this.busy() || this.form() !== null) return false;
    if (invoice.state === 'accepted') this.pay(invoice);
    else if (invoice.state === 'held' && invoice.acceptable && invoice.findings.length > 0) this.form.set('accept');
    else if (invoice.state === 'held' && invoice.acceptable) this.accept(invoice);
    else return false;
    return true;
  }

  private accept({ id, version }: SupplierInvoiceView): void {
    this.run(this.api.call(payableRoutes.acceptSupplierInvoice, { params: { payable: id }, body: { version, reason: '' } }));
  }

  private pay({ id, version }: SupplierInvoiceView): void {
    this.run(this.api.call(payableRoutes.paySupplierInvoice, { params: { payable: id }, body: { version, day: this.session.today() } }));
  }

  private run(act: ReturnType<typeof this.api.call<unknown, unknown, unknown, SupplierInvoiceView>>): void {
    this.busy.set(true);
    this.fault.set('');
    act.subscribe({
      next: (invoice) => {
        this.busy.set(false);
        this.show(invoice);
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }

  protected refuse(): boolean {
    if (this.invoice()?.state !== 'held' || this.form() !== null) return false;
    this.form.set('refuse');
    return true;
  }

  protected show(invoice: SupplierInvoiceView): void {
    this.form.set(null);
    this.invoice.set(invoice);
  }
}
