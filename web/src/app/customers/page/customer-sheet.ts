import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { customerRoutes, type BoughtItem, type Contact, type Customer } from '@nockwright/contract/customers';
import { orderRoutes, type OrderRow } from '@nockwright/contract/orders';
import { pricingRoutes, type ContractRow } from '@nockwright/contract/pricing';
import type { Happened } from '@nockwright/contract/shape';
import { catchError, EMPTY, forkJoin, map, of, switchMap, type Observable } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { AmountPipe, DayPipe, Keys, PricePipe, RecordForm, rowKey, Sheet, UnitPipe, type Choice } from '../../paper';
import { Places } from '../../supply';
import { RulerHead, RulerRow, rulerScale, type RulerPart } from '../../ruler';
import { addressRecord } from '../address-record';
import { contactRecord } from './contact-record';
import { CustomerHead } from './customer-head';
import { CustomerGloss } from './customer-gloss';
import { customerRecord } from './customer-record';
import { itemNumber } from './item-number';
import { shippingTerms } from './shipping-terms';

const RULER_WIDTH = 230;
/** Orders that are done with, shown below those that are open. */
const MOST_DONE = 8;

interface Page {
  readonly customer: Customer;
  readonly open: readonly OrderRow[];
  readonly done: readonly OrderRow[];
  readonly contracts: readonly ContractRow[];
  readonly bought: readonly BoughtItem[];
  readonly history: readonly Happened[];
}

interface ContactForm {
  readonly kind: 'contact';
  readonly known: Contact | null;
}
interface NumberForm {
  readonly kind: 'number';
  readonly item: string;
}
type Form = { readonly kind: 'record' | 'address' | 'freight' } | ContactForm | NumberForm;

/** A customer: who they are, what they ordered and were quoted, what they buy, under which contracts, and how to reach whom. */
@Component({
  selector: 'nock-customer-sheet',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, PricePipe, UnitPipe, RulerHead, RulerRow, Sheet, CustomerHead, CustomerGloss, RecordForm],
  templateUrl: './customer-sheet.html',
  styleUrl: './customer-sheet.css',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerSheet {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly inOffice = this.session.inOffice;
  protected readonly today = computed(() => this.session.today());
  readonly id = input.required({ transform: numberAttribute });
  private readonly places = inject(Places).warehouses;
  private readonly services = toSignal(this.api.call(orderRoutes.listCarriers).pipe(catchError(() => of([]))), { initialValue: [] });
  private readonly warehouses = computed(() => this.places().map((place): Choice => [place.code, place.name]));
  private readonly carriers = computed(() => this.services().map((service): Choice => [service.code, service.name]));
  protected readonly page = signal<Page | null>(null);
  protected readonly fault = signal('');
  protected readonly form = signal<Form | null>(null);
  protected readonly busy = signal(false);
  protected readonly orders = computed(() => {
    const page = this.page();
    return page ? [...page.open, ...page.done.slice(0, MOST_DONE)] : [];
  });
  protected readonly scale = computed(() => {
    const days = (this.page()?.open ?? []).flatMap((row) => [row.requestedDay, row.promisedDay ?? row.requestedDay]);
    return rulerScale(this.today(), days, RULER_WIDTH);
  });
  protected readonly numberOf = computed(() => new Map(this.page()?.customer.itemNumbers.map((row) => [row.item, row.code])));
  /** What they call items that they have not bought lately. */
  protected readonly otherNumbers = computed(() => {
    const page = this.page();
    return page?.customer.itemNumbers.filter((row) => !page.bought.some((other) => other.item === row.item)) ?? [];
  });

  /** Another address is all that a form of this page leads to that is no record of the customer. */
  protected readonly address = computed(() => {
    const page = this.page();
    return page && this.form()?.kind === 'address' ? addressRecord(this.api, page.customer, 'Add address') : null;
  });
  protected readonly record = computed(() => {
    const [page, form] = [this.page(), this.form()];
    switch (page ? form?.kind : undefined) {
      case 'record':
        return customerRecord(this.api, page!.customer, this.warehouses(), this.carriers());
      case 'freight':
        return shippingTerms(this.api, page!.customer);
      case 'contact':
        return contactRecord(this.api, page!.customer, (form as ContactForm).known);
      case 'number':
        return itemNumber(this.api, page!.customer, (form as NumberForm).item);
      default:
        return null;
    }
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.id)
      .pipe(
        switchMap((id) =>
          live.kept(
            () => this.read(id).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `customer:${id}` || this.orders().some((row) => topic === `order:${row.id}`),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((page) => {
        this.page.set(page);
        this.fault.set('');
      });
    effect(() => {
      this.id();
      untracked(() => this.form.set(null));
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'start an order', run: () => this.start('order') },
      { key: 'Q', does: 'start a quote', run: () => this.start('quote') },
      { key: 'E', does: 'change the record', run: () => this.show({ kind: 'record' }) },
      { key: 'F', does: 'what they pay for freight', run: () => this.show({ kind: 'freight' }) },
      { key: 'I', does: 'another contact', run: () => this.show({ kind: 'contact', known: null }) },
      { key: 'A', does: 'another address', run: () => this.show({ kind: 'address' }) },
      { key: 'Escape', does: 'to the orders', run: () => void this.router.navigateByUrl('/orders') },
    ]);
  }

  private read(id: number): Observable<Page> {
    const params = { customer: id };
    const orders = (state: 'open' | 'done' | 'quote') =>
      this.session.may(orderRoutes.listOrders)
        ? this.api.call(orderRoutes.listOrders, { query: { customer: id, state } }).pipe(map(({ rows }) => rows))
        : of([]);
    return forkJoin({
      customer: this.api.call(customerRoutes.readCustomer, { params }),
      open: forkJoin([orders('open'), orders('quote')]).pipe(
        map(([open, quotes]) => [...open, ...quotes.filter((row) => !open.some(({ id }) => id === row.id))]),
      ),
      done: orders('done'),
      contracts: this.session.may(pricingRoutes.listContracts) ? this.api.call(pricingRoutes.listContracts, { query: { customer: id } }) : of([]),
      bought: this.api.call(customerRoutes.readBought, { params }),
      history: this.session.may(customerRoutes.customerHistory) ? this.api.call(customerRoutes.customerHistory, { params }) : of([]),
    });
  }

  protected show(form: Form): boolean {
    if (!this.maySell() || this.page() === null) return false;
    this.form.set(form);
    return true;
  }

  protected kept(customer: Customer): void {
    this.page.update((page) => page && { ...page, customer });
    this.form.set(null);
  }

  protected start(kind: 'order' | 'quote'): boolean {
    const customer = this.page()?.customer;
    if (!customer || !this.maySell() || this.busy()) return false;
    this.busy.set(true);
    this.api.call(orderRoutes.createOrder, { body: { customer: customer.id, kind: customer.prospect ? 'quote' : kind } }).subscribe({
      next: (order) => void this.router.navigate(['/orders', order.id]),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
    return true;
  }

  /** The day an order is promised for, as a ruler shows it. */
  protected schedule(row: OrderRow): readonly RulerPart[] {
    if (row.promisedDay === null || row.state !== 'released') return [];
    return [{ day: row.promisedDay, quantity: '', kept: true, dropShip: false, arrives: null, broken: false }];
  }

  protected key(event: KeyboardEvent, enter: () => void): void {
    rowKey(event, enter);
  }

  protected open(row: OrderRow): void {
    void this.router.navigate(['/orders', row.id]);
  }
}
