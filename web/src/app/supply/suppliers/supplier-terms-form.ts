import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { supplyRoutes, type SupplierPage } from '@nockwright/contract/supply';
import { readDay, shortDay } from '@nockwright/core/calendar';
import { Session } from '../../access';
import { Api } from '../../api';
import { GlossForm, TextField } from '../../paper';
import { QUANTITY } from '../../ripple';
import { daysInWords, readWeekdays } from './weekdays';

/** What a supplier wants and when they work, changed. */
@Component({
  selector: 'nock-supplier-terms-form',
  imports: [MatCheckbox, GlossForm, TextField],
  template: `
    <nock-gloss-form [heading]="'Terms of ' + supplier().name" act="Keep them so" [ready]="!busy()" (done)="keep()" (left)="closed.emit()">
      <nock-text-field fieldId="supplier-email" [(text)]="email">Orders go to</nock-text-field>
      <nock-text-field fieldId="lead-days" [figure]="true" [(text)]="leadDays">Working days until it leaves them</nock-text-field>
      <nock-text-field fieldId="transit-days" [figure]="true" [(text)]="transitDays">Days on the road to us</nock-text-field>
      <nock-text-field fieldId="workdays" [(text)]="workdays">They work</nock-text-field>
      <nock-text-field fieldId="order-days" [(text)]="orderDays">They take orders</nock-text-field>
      <nock-text-field fieldId="cutoff" [(text)]="cutoff">Until what time (HH:MM; empty: all day)</nock-text-field>
      <nock-text-field fieldId="closed-days" [(text)]="closedDays">Closed on (days with commas)</nock-text-field>
      <nock-text-field fieldId="minimum-value" [figure]="true" [(text)]="minimumValue">An order comes to at least</nock-text-field>
      <nock-text-field fieldId="freight" [figure]="true" [(text)]="freight">Freight of an order</nock-text-field>
      <nock-text-field fieldId="freight-free" [figure]="true" [(text)]="freightFree">Free from (empty: never)</nock-text-field>
      <mat-checkbox [checked]="dropShips()" (change)="dropShips.set($event.checked)">Ships to our customers</mat-checkbox>
      @if (dropShips()) {
        <nock-text-field fieldId="drop-fee" [figure]="true" [(text)]="dropFee">What a shipment to a customer costs</nock-text-field>
      }
      <mat-checkbox [checked]="exchanges()" (change)="exchanges.set($event.checked)">Takes orders as UBL files</mat-checkbox>
      @if (exchanges()) {
        <nock-text-field fieldId="price-tolerance" [figure]="true" [(text)]="priceTolerance">A cost they answer holds if within (per cent)</nock-text-field>
        <nock-text-field fieldId="day-tolerance" [figure]="true" [(text)]="dayTolerance">A day they answer holds if within (days)</nock-text-field>
      }
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  styles: `
    mat-checkbox {
      display: block;
      margin-top: 8px;
    }
    .open {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierTermsForm implements OnInit {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  readonly supplier = input.required<SupplierPage>();
  readonly changed = output<SupplierPage>();
  readonly closed = output<void>();

  protected readonly email = signal('');
  protected readonly leadDays = signal('');
  protected readonly transitDays = signal('');
  protected readonly workdays = signal('');
  protected readonly orderDays = signal('');
  protected readonly cutoff = signal('');
  protected readonly closedDays = signal('');
  protected readonly minimumValue = signal('');
  protected readonly freight = signal('');
  protected readonly freightFree = signal('');
  protected readonly dropShips = signal(false);
  protected readonly dropFee = signal('');
  protected readonly exchanges = signal(false);
  protected readonly priceTolerance = signal('');
  protected readonly dayTolerance = signal('');
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private version = 0;

  ngOnInit(): void {
    const from = this.supplier();
    this.version = from.version;
    this.email.set(from.email);
    this.leadDays.set(String(from.leadDays));
    this.transitDays.set(String(from.transitDays));
    this.workdays.set(daysInWords(from.workdays));
    this.orderDays.set(daysInWords(from.orderDays));
    this.cutoff.set((from.cutoff ?? '').slice(0, 5));
    this.closedDays.set(from.closed.map((day) => shortDay(day, this.session.today())).join(', '));
    this.minimumValue.set(from.minimumValue);
    this.freight.set(from.freight);
    this.freightFree.set(from.freightFreeFrom ?? '');
    this.dropShips.set(from.dropShips);
    this.dropFee.set(from.dropShipFee);
    this.exchanges.set(from.exchanges);
    this.priceTolerance.set(from.priceTolerance);
    this.dayTolerance.set(String(from.dayTolerance));
  }

  protected keep(): void {
    if (this.busy()) return;
    const words = { leadDays: this.leadDays().trim(), transitDays: this.transitDays().trim() };
    for (const [name, text] of Object.entries(words))
      if (!/^\d{1,3}$/.test(text))
        return this.fault.set(`${name === 'leadDays' ? 'Working days until it leaves them' : 'Days on the road'}: expected a whole number.`);
    if (!/^\d{1,3}$/.test(this.dayTolerance().trim())) return this.fault.set('A day they answer: expected a whole number of days.');
    const [workdays, orderDays] = [readWeekdays(this.workdays()), readWeekdays(this.orderDays())];
    if (!workdays) return this.fault.set('They work: expected weekdays, as Mon to Fri.');
    if (!orderDays) return this.fault.set('They take orders: expected weekdays, as Tue, Thu.');
    const amounts = [this.minimumValue(), this.freight(), ...(this.freightFree().trim() ? [this.freightFree()] : []), this.dropFee(), this.priceTolerance()];
    if (amounts.some((amount) => !QUANTITY.test(amount.trim()))) return this.fault.set('An amount is no number.');
    const closed: string[] = [];
    for (const word of this.closedDays()
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean)) {
      const day = readDay(word, this.session.today());
      if (day === null) return this.fault.set(`Closed on: ${word} is no day.`);
      closed.push(day);
    }
    this.busy.set(true);
    this.fault.set('');
    this.api
      .call(supplyRoutes.changeSupplier, {
        params: { supplier: this.supplier().code },
        body: {
          version: this.version,
          email: this.email().trim() || null,
          leadDays: Number(words.leadDays),
          transitDays: Number(words.transitDays),
          workdays,
          orderDays,
          cutoff: this.cutoff().trim() || null,
          closed,
          minimumValue: this.minimumValue().trim(),
          freight: this.freight().trim(),
          freightFreeFrom: this.freightFree().trim() || null,
          dropShips: this.dropShips(),
          dropShipFee: this.dropFee().trim(),
          exchanges: this.exchanges(),
          priceTolerance: this.priceTolerance().trim(),
          dayTolerance: Number(this.dayTolerance().trim()),
        },
      })
      .subscribe({
        next: (supplier) => this.changed.emit(supplier),
        error: (error: Error) => {
          this.busy.set(false);
          this.fault.set(error.message);
        },
      });
  }
}
