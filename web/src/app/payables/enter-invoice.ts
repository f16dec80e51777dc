import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { payableRoutes, type InvoiceableLine } from '@nockwright/contract/payables';
import { supplyRoutes } from '@nockwright/contract/supply';
import { lineAmount, plus, roundMoney, sum } from '@nockwright/core/money';
import { catchError, EMPTY, of, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import {
  addressWords,
  AmountPipe,
  DayField,
  GlossForm,
  isPrice,
  isQuantity,
  Keys,
  ListChoice,
  QuantityField,
  Sheet,
  TextField,
  UnitPipe,
  type Choice,
} from '../paper';

/** A supplier's invoice as it is typed: what came and is on no invoice stands there, at the cost that was agreed. */
@Component({
  selector: 'nock-enter-invoice',
  imports: [AmountPipe, DayField, GlossForm, ListChoice, QuantityField, Sheet, TextField, UnitPipe],
  templateUrl: './enter-invoice.html',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EnterInvoice {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly go = addressWords();
  readonly supplier = input<string>();
  protected readonly suppliers = signal<readonly Choice[]>([['', 'choose a supplier']]);
  protected readonly rows = signal<readonly InvoiceableLine[]>([]);
  protected readonly typed = signal<ReadonlyMap<number, { readonly quantity: string; readonly price: string }>>(new Map());
  protected readonly currency = this.session.currency;
  protected readonly number = signal('');
  protected readonly day = signal(this.session.today());
  protected readonly dueDay = signal(this.session.today());
  protected readonly freight = signal('0');
  protected readonly tax = signal('0');
  protected readonly total = signal('');
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private readonly lines = computed(() =>
    this.rows().flatMap((row) => {
      const { quantity, price } = this.typed().get(row.line) ?? { quantity: row.quantity, price: row.cost };
      return Number(quantity || 0) > 0 ? [{ line: row.line, quantity: quantity.trim(), price: price.trim() }] : [];
    }),
  );
  /** What its lines, freight and tax come to; null while one of them is no figure. */
  protected readonly comes = computed(() => {
    const parts = [this.freight().trim(), this.tax().trim()];
    if (parts.some((part) => !isPrice(part)) || this.lines().some((line) => !isQuantity(line.quantity) || !isPrice(line.price))) return null;
    const goods = sum(this.lines().map((line) => lineAmount(line.quantity, line.price, this.currency())));
    return roundMoney(plus(goods, sum(parts)), this.currency());
  });

  constructor() {
    const failed = (error: Error) => (this.fault.set(error.message), EMPTY);
    this.api
      .call(supplyRoutes.listSuppliers)
      .pipe(catchError(failed), takeUntilDestroyed())
      .subscribe((rows) => this.suppliers.set([['', 'choose a supplier'], ...rows.map((row): Choice => [row.code, row.name])]));
    toObservable(this.supplier)
      .pipe(
        switchMap((supplier) => (supplier ? this.api.call(payableRoutes.listInvoiceable, { params: { supplier } }).pipe(catchError(failed)) : of([]))),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => {
        this.typed.set(new Map());
        this.rows.set(rows);
      });
    inject(Keys).use([{ key: 'Escape', does: 'to the invoices', run: () => void this.router.navigateByUrl('/supply/invoices') }]);
  }

  protected quantityOf(row: InvoiceableLine): string {
    return this.typed().get(row.line)?.quantity ?? row.quantity;
  }

  protected priceOf(row: InvoiceableLine): string {
    return this.typed().get(row.line)?.price ?? row.cost;
  }

  protected type(row: InvoiceableLine, words: { readonly quantity?: string; readonly price?: string }): void {
    this.typed.update((typed) => new Map(typed).set(row.line, { quantity: this.quantityOf(row), price: this.priceOf(row), ...words }));
  }

  protected enter(): void {
    const [supplier, total, comes] = [this.supplier(), this.total().trim(), this.comes()];
    if (this.busy()) return;
    if (!supplier) return this.fault.set('Choose a supplier.');
    if (this.number().trim() === '') return this.fault.set('Number: missing.');
    if (comes === null) return this.fault.set('Figures: expected quantities and amounts with at most four decimals.');
    if (this.lines().length === 0) return this.fault.set('No line has a quantity.');
    if (total !== '' && !isPrice(total)) return this.fault.set('Total: expected an amount.');
    this.busy.set(true);
    this.fault.set('');
    const body = {
      supplier,
      number: this.number().trim(),
      day: this.day(),
      dueDay: this.dueDay(),
      freight: this.freight().trim(),
      tax: this.tax().trim(),
      total: total || comes,
      lines: this.lines(),
    };
    this.api.call(payableRoutes.enterSupplierInvoice, { body }).subscribe({
      next: ({ id }) => void this.router.navigate(['/supply/invoices', id]),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }

  protected leave(): void {
    void this.router.navigateByUrl('/supply/invoices');
  }
}
