import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { paymentRoutes, type MoneyView, type OpenInvoiceView, type PaymentView, type SettledWish } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import { termsInWords } from '@nockwright/core/billing';
import { compareDecimal, minus, roundMoney, sum } from '@nockwright/core/money';
import { catchError, EMPTY, switchMap, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, amountInWords, DayPipe, fieldsOf, isPrice, Keys, QuantityField, RecordForm, recordOf, rowKey, Sheet } from '../paper';
import { billingTerms } from './billing-terms';
import { PaymentForm, type Paid } from './payment-form';
import { refundRecord } from './refund-record';
import { UseForm } from './use-form';

type Reverse = BodyOf<typeof paymentRoutes.reversePayment>;
const WHY = fieldsOf<Reverse>([
  { name: 'reason', label: 'Why', most: 300 },
  { name: 'chargeback', label: 'Taken back by the payer’s bank', kind: 'flag' },
  { name: 'fee', label: 'What our bank charges (may be empty)', kind: 'figure', under: 'chargeback', read: (text) => ({ value: text === '' ? '0' : text }) },
]);
const METHODS = { bank: 'Bank transfer', card: 'Card', cash: 'Cash', cheque: 'Cheque' } as const;

/** Money that is to go to invoices: a payment that comes in, what of one is on account, or what is left of a credit note. */
type From =
  | { readonly kind: 'payment' }
  | { readonly kind: 'account'; readonly id: number; readonly left: string; readonly day: string }
  | { readonly kind: 'credit'; readonly id: number; readonly left: string };
type Form =
  | From
  | { readonly kind: 'billing' }
  | { readonly kind: 'reverse'; readonly payment: PaymentView }
  | { readonly kind: 'refund'; readonly credit?: MoneyView['credits'][number] };

/** What a customer owes, by age and invoice, and what they paid; where a payment is recorded and said where it goes. */
@Component({
  selector: 'nock-money-page',
  imports: [NgTemplateOutlet, RouterLink, MatButton, AmountPipe, DayPipe, PaymentForm, QuantityField, RecordForm, Sheet, UseForm],
  templateUrl: './money-page.html',
  styleUrl: './money-page.css',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoneyPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  readonly id = input.required({ transform: numberAttribute });
  protected readonly money = signal<MoneyView | null>(null);
  protected readonly fault = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  protected readonly form = signal<Form | null>(null);
  protected readonly methods = METHODS;
  protected readonly mayPay = computed(() => this.session.may(paymentRoutes.recordPayment));
  /** What is typed as going to each invoice. */
  protected readonly typed = signal<ReadonlyMap<number, { readonly amount: string; readonly discount: string }>>(new Map());
  /** Somebody has said themselves where it goes: it is not proposed any more. */
  private readonly byHand = signal(false);
  protected readonly paying = signal('');
  protected readonly settling = computed(() => ['payment', 'account', 'credit'].includes(this.form()?.kind ?? ''));
  protected readonly settled = computed((): readonly SettledWish[] =>
    [...this.typed()].flatMap(([invoice, { amount, discount }]) =>
      Number(amount || 0) > 0 || Number(discount || 0) > 0 ? [{ invoice, amount: amount || '0', discount: discount || '0' }] : [],
    ),
  );
  /** What of the money goes to no invoice. */
  protected readonly left = computed(() => {
    const whole = this.paying();
    if (!isPrice(whole) || this.settled().some((row) => !isPrice(row.amount) || !isPrice(row.discount))) return null;
    return roundMoney(minus(whole, sum(this.settled().map((row) => row.amount))), this.money()?.currency ?? 'EUR');
  });
  protected readonly overdue = computed(() => (this.money()?.invoices ?? []).some((row) => row.overdue));
  protected readonly terms = computed(() => {
    const terms = this.money()?.terms;
    return terms
      ? termsInWords({ kind: terms.termsKind, days: terms.termsDays, discountPercent: terms.discountPercent, discountDays: terms.discountDays })
      : '';
  });
  protected readonly record = computed(() => {
    const [money, form] = [this.money(), this.form()];
    if (!money) return null;
    if (form?.kind === 'billing') return billingTerms(this.api, money);
    if (form?.kind === 'refund') return refundRecord(this.api, money, form.credit);
    if (form?.kind !== 'reverse') return null;
    const { payment } = form;
    return recordOf<Reverse, MoneyView>({
      heading: `Reverse payment of ${amountInWords(payment.amount)}`,
      act: 'Reverse payment',
      name: 'reverse',
      subject: payment.id,
      fields: WHY,
      value: {},
      route: paymentRoutes.reversePayment,
      hint: 'What it settled is open again.',
      send: (body) => this.api.call(paymentRoutes.reversePayment, { params: { payment: payment.id }, body }),
    });
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.id)
      .pipe(
        switchMap((customer) =>
          live.kept(
            () => this.api.call(paymentRoutes.readMoney, { params: { customer } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `customer:${customer}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((money) => this.money.set(money));
    effect(() => {
      this.id();
      untracked(() => this.close());
    });
    inject(Keys).use([
      { key: 'P', does: 'record a payment', run: () => this.start({ kind: 'payment' }) },
      { key: 'E', does: 'change how they are billed', run: () => this.start({ kind: 'billing' }) },
      { key: 'Escape', does: 'to the customer', run: () => void this.router.navigate(['/customers', this.id()]) },
    ]);
  }

  protected start(form: Form): boolean {
    if (!this.mayPay() || !this.money() || this.form() !== null) return false;
    this.clear();
    this.form.set(form);
    if (form.kind === 'account' || form.kind === 'credit') this.propose(form.left, form.kind === 'account' ? form.day : undefined);
    return true;
  }

  protected close(): void {
    this.form.set(null);
    this.clear();
  }

  private clear(): void {
    this.typed.set(new Map());
    this.byHand.set(false);
    this.paying.set('');
    this.fault.set('');
    this.said.set('');
  }

  /** What was typed of a payment: where it would go is proposed until somebody says it themselves. */
  protected changed({ amount, day, order }: Paid): void {
    // A deposit goes to the invoices that follow.
    if (order === undefined) this.propose(amount, day);
    else this.paying.set(amount);
  }

  private propose(amount: string, day?: string): void {
    this.paying.set(amount);
    if (this.byHand() || !isPrice(amount)) return;
    this.api.call(paymentRoutes.proposePayment, { params: { customer: this.id() }, query: { amount, ...(day ? { day } : {}) } }).subscribe({
      next: ({ settled }) => {
        if (this.byHand() || this.paying() !== amount) return;
        const credit = this.form()?.kind === 'credit';
        this.typed.set(new Map(settled.map((row) => [row.invoice, { amount: row.amount, discount: credit ? '0' : row.discount }])));
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected type(invoice: OpenInvoiceView, words: { readonly amount?: string; readonly discount?: string }): void {
    this.byHand.set(true);
    this.typed.update((typed) => {
      const { amount = '', discount = '' } = typed.get(invoice.id) ?? {};
      return new Map(typed).set(invoice.id, { amount, discount, ...words });
    });
  }

  protected pay(paid: Paid): void {
    const form = this.form();
    const left = this.left();
    if (form === null || this.busy()) return;
    if (left === null) return this.fault.set('Amounts: expected figures with at most two decimals.');
    if (compareDecimal(left, '0') < 0)
      return this.fault.set(`${amountInWords(roundMoney(minus('0', left), this.money()?.currency ?? 'EUR'))} more goes to invoices than there is.`);
    const customer = this.id();
    const settled = this.settled();
    if (form.kind === 'payment')
      this.run(this.api.call(paymentRoutes.recordPayment, { params: { customer }, body: { ...paid, settled } }), 'Payment recorded.');
    else if (settled.length === 0) this.fault.set('Type what goes to which invoice.');
    else if (form.kind === 'account') this.run(this.api.call(paymentRoutes.applyPayment, { params: { payment: form.id }, body: { settled } }), 'Settled.');
    else if (form.kind === 'credit') this.run(this.api.call(paymentRoutes.applyCredit, { params: { invoice: form.id }, body: { settled } }), 'Settled.');
  }

  /** What is on account or left of a credit note goes where the sheet says. */
  protected use(): void {
    this.pay({ amount: this.paying(), day: this.session.today(), method: 'bank', reference: '' });
  }

  private run(act: Observable<MoneyView>, words: string): void {
    this.busy.set(true);
    act.subscribe({
      next: (money) => {
        this.busy.set(false);
        this.show(money);
        this.said.set(words);
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }

  protected show(money: MoneyView): void {
    this.close();
    this.money.set(money);
  }

  protected key(event: KeyboardEvent, enter: () => void): void {
    rowKey(event, enter);
  }
}
