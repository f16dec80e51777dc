import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { BodyOf } from '@nockwright/contract/shape';
import type { paymentRoutes } from '@nockwright/contract/billing';
import { Session } from '../access';
import { AmountPipe, DayField, GlossForm, isPrice, ListChoice, TextField, type Choice } from '../paper';

/** A payment as it is typed. */
export type Paid = Omit<BodyOf<typeof paymentRoutes.recordPayment>, 'settled'>;

const METHODS: readonly Choice[] = [
  ['bank', 'Bank transfer'],
  ['card', 'Card'],
  ['cash', 'Cash'],
  ['cheque', 'Cheque'],
];

/** A payment that came in: how much, when and how. Where it goes is said on the sheet. */
@Component({
  selector: 'nock-payment-form',
  imports: [AmountPipe, DayField, GlossForm, ListChoice, TextField],
  template: `
    <nock-gloss-form [traps]="false" heading="Record payment" act="Record payment" [ready]="!busy()" (done)="done()" (left)="closed.emit()">
      <nock-text-field fieldId="paid-amount" [figure]="true" [text]="amount()" (textChange)="amount.set($event); tell()"
        >Amount in {{ currency() }}</nock-text-field
      >
      <label for="paid-day">Day it came in</label>
      <nock-day-field fieldId="paid-day" [day]="day()" (changed)="day.set($event); tell()" />
      <nock-list-choice what="How" [choices]="methods" [chosen]="method()" (choose)="method.set(methodOf($event))" />
      <nock-text-field fieldId="paid-reference" [most]="140" [(text)]="reference">Reference (may be empty)</nock-text-field>
      <nock-text-field fieldId="paid-order" [most]="20" [(text)]="order">For order (a deposit; may be empty)</nock-text-field>
      @if (left(); as left) {
        <p>
          @if (+left > 0) {
            {{ left | amount }} {{ currency() }} stays on account.
          } @else if (+left === 0) {
            All of it goes to invoices.
          }
        </p>
      }
      <p class="open" role="alert">{{ wrong() || fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PaymentForm {
  private readonly session = inject(Session);
  readonly currency = input.required<string>();
  readonly left = input.required<string | null>();
  readonly busy = input(false);
  readonly fault = input('');
  readonly changed = output<Paid>();
  readonly paid = output<Paid>();
  readonly closed = output<void>();
  protected readonly methods = METHODS;
  protected readonly amount = signal('');
  protected readonly day = signal(this.session.today());
  protected readonly method = signal<Paid['method']>('bank');
  protected readonly reference = signal('');
  protected readonly order = signal('');
  protected readonly wrong = signal('');
  private readonly body = computed((): Paid => ({
    amount: this.amount().trim(),
    day: this.day(),
    method: this.method(),
    reference: this.reference().trim(),
    ...(this.order().trim() === '' ? {} : { order: this.order().trim() }),
  }));

  protected methodOf(word: string | null): Paid['method'] {
    return (METHODS.find(([method]) => method === word)?.[0] ?? 'bank') as Paid['method'];
  }

  protected tell(): void {
    this.wrong.set('');
    this.changed.emit(this.body());
  }

  protected done(): void {
    if (!isPrice(this.amount().trim()) || Number(this.amount()) <= 0) return this.wrong.set('Amount: expected an amount above 0.');
    this.wrong.set('');
    this.paid.emit(this.body());
  }
}
