import { daysInWords } from '@nockwright/core/billing';
import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal, viewChild } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router } from '@angular/router';
import { customerRoutes, type CustomerFound } from '@nockwright/contract/customers';
import { orderRoutes } from '@nockwright/contract/orders';
import { catchError, debounceTime, map, merge, of, Subject, switchMap, tap } from 'rxjs';
import { Api } from '../api';
import { CustomerNotes, NewCustomer } from '../customers';
import { AmountPipe, DayPipe, FindsDirective, foundAsTyped, FoundList, Keys, PricePipe, Sheet, UnitPipe } from '../paper';
import { Places } from '../supply';
import { CreditStanding } from './credit-standing';

/** The first question of an order: who is calling? Any fragment finds them; the gloss shows what they bought last. */
@Component({
  selector: 'nock-new-order',
  imports: [
    MatButton,
    MatFormField,
    MatInput,
    AmountPipe,
    CreditStanding,
    CustomerNotes,
    DayPipe,
    FindsDirective,
    FoundList,
    NewCustomer,
    PricePipe,
    UnitPipe,
    Sheet,
  ],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <h1>{{ quote() ? 'New quote' : 'New order' }}</h1>
        @if (making()) {
          <nock-new-customer
            [called]="text()"
            [act]="quote() ? 'Create prospect and quote' : 'Create customer and order'"
            (made)="start($event)"
            (known)="start($event)"
            (closed)="making.set(false)"
          />
        } @else {
          <label for="customer">Who is calling?</label>
          <mat-form-field>
            <input
              matInput
              #field
              id="customer"
              nockFinds="customers"
              [count]="found().length"
              [at]="at()"
              placeholder="name, number, phone, town or postcode"
              [value]="text()"
              (input)="text.set(field.value)"
              (keydown)="handle($event)"
            />
          </mat-form-field>
          <nock-found-list
            listId="customers"
            label="Customers"
            columns="64px minmax(200px, 1.4fr) 1fr 120px 1.2fr"
            [rows]="found()"
            [at]="at()"
            (over)="at.set($event)"
            (picked)="start(found()[$event]!)"
          >
            <ng-template let-customer>
              <span class="code">{{ customer.number }}</span>
              <b>{{ customer.name }}{{ customer.prospect ? ', a prospect' : '' }}</b>
              <span>{{ customer.contact }}</span>
              <span class="phone">{{ customer.phone }}</span>
              <span class="quiet">{{ customer.town }}, {{ customer.postcode }}</span>
            </ng-template>
            No customer has “{{ text() }}” in name, number, phone, town, postcode or contact. <kbd>Ctrl Enter</kbd> makes them.
          </nock-found-list>
        }
      </ng-container>
      <ng-container gloss>
        @if (details(); as customer) {
          <h2>{{ customer.name }}</h2>
          <p>{{ customer.street }}, {{ customer.postcode }} {{ customer.town }}</p>
          <p>
            {{ customer.openOrders }} open {{ customer.openOrders === 1 ? 'order' : 'orders' }}.
            {{ customer.deliveryRule === 'complete' ? 'Ships complete.' : 'Takes partial shipments.' }} From {{ placeName(customer.warehouse) }}. {{ terms() }}.
          </p>
          <nock-credit-standing [credit]="customer.credit" />
          @if (customer.prospect) {
            <p><b>A prospect:</b> they are quoted, not sold to yet.</p>
          }
          <nock-customer-notes [customer]="customer.id" [reminders]="customer.reminders" [mayAdd]="false" (changed)="again.next()" />
          @if (customer.notes) {
            <p>
              <b>{{ customer.notes }}</b>
            </p>
          }
          <h3>Bought last</h3>
          <ul class="bought">
            @for (row of customer.bought.slice(0, 9); track $index) {
              <li>
                <span class="code">{{ row.item }}</span>
                <span class="quiet">{{ row.day | day }}</span>
                <span>{{ row.quantity | amount }} {{ row.unit | unit: row.quantity }}</span>
                <span class="figure">{{ row.price | price }}</span>
              </li>
            } @empty {
              <li class="quiet">nothing yet</li>
            }
          </ul>
        }
      </ng-container>
      <ng-container acts>
        @if (!making()) {
          <span class="quiet"
            ><kbd>↑ ↓</kbd> choose, <kbd>Enter</kbd> starts the {{ quote() ? 'quote' : 'order' }}, <kbd>Shift Enter</kbd> the
            {{ quote() ? 'order' : 'quote' }}</span
          >
          <button mat-button type="button" (click)="making.set(true)">New customer <kbd>Ctrl Enter</kbd></button>
        }
        <p class="fault" role="alert">{{ fault() }}</p>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    label {
      display: block;
      margin-top: 14px;
      color: var(--ink-quiet);
    }
    mat-form-field {
      max-width: 520px;
    }
    nock-found-list {
      display: block;
      margin-top: 12px;
    }
    .phone {
      font-variant-numeric: tabular-nums;
    }
    .bought {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .bought li {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 10px;
      padding: 4px 0;
      border-bottom: 1px solid var(--hairline);
    }
    .fault {
      color: var(--open);
      margin: 0 0 0 auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewOrder {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('field');
  /** What finds the customer, where another screen knows it. */
  readonly q = input<string>();

  protected readonly text = linkedSignal(() => this.q() ?? '');
  protected readonly at = signal(0);
  protected readonly fault = signal('');
  /** A quote is started rather than an order. */
  readonly kind = input<string>();
  protected readonly quote = computed(() => this.kind() === 'quote');
  /** Whoever calls is new: they are being made. */
  protected readonly making = signal(false);
  protected readonly again = new Subject<void>();
  private starting = false;
  private readonly places = inject(Places);

  private readonly looked = foundAsTyped<CustomerFound>(this.text, (search) =>
    this.api.call(customerRoutes.findCustomers, { query: { search } }).pipe(
      catchError((error: Error) => (this.fault.set(error.message), of([]))),
      tap(() => this.at.set(0)),
    ),
  );
  protected readonly found = this.looked.last;
  private readonly marked = computed(() => this.found()[this.at()]);
  protected readonly details = toSignal(
    merge(toObservable(this.marked), this.again.pipe(map(() => this.marked()))).pipe(
      debounceTime(60),
      switchMap((customer) =>
        customer ? this.api.call(customerRoutes.readCustomer, { params: { customer: customer.id } }).pipe(catchError(() => of(null))) : of(null),
      ),
    ),
    { initialValue: null },
  );

  protected readonly terms = computed(() => {
    const customer = this.details();
    return customer ? daysInWords(customer.termsKind, customer.termsDays) : '';
  });

  constructor() {
    effect(() => this.field()?.nativeElement.focus());
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'a new customer', run: () => (this.making() ? false : this.making.set(true)) }]);
  }

  protected placeName(code: string): string {
    return this.places.warehouses().find((place) => place.code === code)?.name ?? code;
  }

  protected handle(event: KeyboardEvent): void {
    const found = this.found();
    if (event.key === 'ArrowDown') this.at.update((at) => Math.min(at + 1, found.length - 1));
    else if (event.key === 'ArrowUp') this.at.update((at) => Math.max(at - 1, 0));
    else if (event.key === 'Enter' && !event.ctrlKey) this.startFound(event.shiftKey !== this.quote());
    else return;
    event.preventDefault();
  }

  /** Of who is found for what is typed now: Enter that comes before they are found waits for them. */
  private startFound(quote: boolean) {
    this.looked.whenFound((rows) => {
      const customer = rows[this.at()];
      if (customer) this.start(customer, quote);
    });
  }

  /** A prospect can only be quoted. */
  protected start(customer: Pick<CustomerFound, 'id' | 'prospect'>, quote = this.quote()): void {
    if (this.starting) return;
    this.starting = true;
    this.api.call(orderRoutes.createOrder, { body: { customer: customer.id, kind: quote || customer.prospect ? 'quote' : 'order' } }).subscribe({
      next: (order) => void this.router.navigate(['/orders', order.id], { replaceUrl: true }),
      error: (error: Error) => {
        this.starting = false;
        this.fault.set(error.message);
      },
    });
  }
}
