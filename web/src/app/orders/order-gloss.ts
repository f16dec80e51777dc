import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { TRACKED } from '../shipping';
import { CustomerNotes } from '../customers';
import { AmountPipe, DayPipe, History, LineForm, Spoken } from '../paper';
import { CreditStanding } from './credit-standing';
import { CustomerWishes } from './customer-wishes';
import { HoldForm } from './hold-form';
import { OrderHolds } from './order-holds';
import { OrderPapers } from './order-papers';
import { OrderTasks } from './order-tasks';
import { CustomerTerms } from './customer-terms';
import { OrderStore } from './order-store';
import { LOST_WORDS } from './quote/lose-form';

/** The order as a whole: its day, what has left, what to say, what happened. */
@Component({
  selector: 'nock-order-gloss',
  imports: [
    RouterLink,
    MatButton,
    CustomerNotes,
    OrderPapers,
    CustomerWishes,
    AmountPipe,
    DayPipe,
    History,
    LineForm,
    HoldForm,
    OrderHolds,
    OrderTasks,
    Spoken,
    CreditStanding,
  ],
  template: `
    @let view = order();
    <h2>{{ view.kind === 'quote' ? 'The quote' : view.number ? 'Order ' + view.number : 'This draft' }}</h2>
    @if (view.lost; as lost) {
      <p>
        <b>Lost: {{ lostWords[lost.reason] }}.</b> {{ lost.note }}
      </p>
    }
    @if (view.quote; as quote) {
      <p>
        Of quote <a [routerLink]="['/orders', quote.id]">{{ quote.number }}</a>, valid until {{ quote.validUntil | day }}.
      </p>
    }
    @for (made of view.orders; track made.id) {
      <p>
        Became <a [routerLink]="['/orders', made.id]">{{ made.number ? 'order ' + made.number : 'draft ' + made.id }}</a>, {{ made.progress }}.
      </p>
    }
    <nock-order-tasks [tasks]="view.tasks" />
    <nock-order-holds [order]="view" />
    @if (view.customer.prospect) {
      <p>
        <b>A prospect:</b> they are quoted, not sold to yet.
        @if (maySell()) {
          <button mat-button type="button" (click)="terms.makeCustomer()">Make prospect a customer</button>
        }
      </p>
    } @else if (view.state === 'draft' && view.kind === 'order') {
      @if (view.customer.credit; as credit) {
        <nock-credit-standing [credit]="credit" />
      }
    }
    @if (view.lines.length > 0) {
      <p>
        @if (view.wholeDay) {
          The last of it leaves <b>{{ view.wholeDay | day }}</b>.
        } @else if (isOpen()) {
          <b>No day for all of it:</b> some lines are backordered.
        }
        @if (view.shipComplete) {
          It must leave complete: all lines wait for the last.
        }
      </p>
    } @else {
      <p class="quiet">Type the first line. Its day, its price and why stand here as soon as item and quantity are known.</p>
    }
    <nock-customer-notes [customer]="view.customer.id" [reminders]="view.customer.reminders" [mayAdd]="false" (changed)="store.reload()" />
    @if (view.spoken) {
      <nock-spoken [text]="view.spoken" [lines]="spokenLines()" />
    }
    @if (view.calls > 0) {
      <p>
        <a routerLink="/calls" [queryParams]="{ order: view.id }">{{ view.calls }} {{ view.calls === 1 ? 'call' : 'calls' }} to make</a>: a promise has moved
        and the customer has not been told.
      </p>
    }
    @if (inOffice()) {
      <nock-customer-wishes [order]="view" />
    }
    @if (mayLimit()) {
      <nock-line-form
        fieldId="credit-limit"
        label="Their credit limit, and why"
        hint="500 references are good"
        act="Set"
        [(text)]="limit"
        (said)="setLimit($event)"
      />
    }
    @if (inOffice()) {
      <nock-order-papers [order]="view" (mailed)="mailed.emit()" />
      <nock-customer-notes [customer]="view.customer.id" [reminders]="[]" (changed)="store.reload()" />
    }
    @if (mayHold()) {
      <nock-hold-form />
    }
    @if (view.shipments.length > 0) {
      <h3>Shipments</h3>
      @for (shipment of view.shipments; track shipment.id) {
        <p class="shipment">
          @if (shipment.consignment; as consignment) {
            <a class="code" [routerLink]="['/pack', consignment]">{{ shipment.number }}</a>
          } @else {
            <span class="code">{{ shipment.number }}</span>
          }
          {{ stateOf(shipment) }} from {{ shipment.from }}
          @if (shipment.day) {
            on {{ shipment.day | day }}
          }
          @if (shipment.tracking) {
            with tracking <span class="code">{{ shipment.tracking }}</span>
          }
          @if (shipment.invoice) {
            , billed by <span class="code">{{ shipment.invoice }}</span>
          }
          <span class="quiet small">
            @for (part of shipment.lines; track part.lineNo) {
              line {{ part.lineNo }}: {{ part.quantity | amount }}{{ $last ? '' : ', ' }}
            }
          </span>
        </p>
      }
    }
    @if (inOffice()) {
      <h3>History</h3>
      <nock-history [rows]="store.history()" />
    }
  `,
  styles: `
    p {
      margin: 6px 0 0;
    }
    .shipment .small {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderGloss {
  protected stateOf({ state, tracked }: OrderView['shipments'][number]): string {
    return tracked === null ? state : TRACKED[tracked];
  }

  protected readonly store = inject(OrderStore);
  protected readonly terms = inject(CustomerTerms);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly inOffice = this.session.inOffice;
  /** Who decides how much a customer may owe. */
  protected readonly mayLimit = computed(() => ['finance', 'manager'].includes(this.session.user()?.role ?? ''));
  protected readonly limit = signal('');
  protected readonly lostWords = LOST_WORDS;
  readonly order = input.required<OrderView>();
  /** A paper is to be mailed. */
  readonly mailed = output<void>();
  /** Something of it is still to come. */
  protected readonly spokenLines = computed(() =>
    this.order().lines.flatMap((line) => (line.spoken ? [{ name: `${line.lineNo}, ${line.description}`, spoken: line.spoken }] : [])),
  );
  protected readonly isOpen = computed(
    () => !['shipped', 'billed', 'cancelled', 'accepted', 'part accepted', 'lost', 'discarded'].includes(this.order().progress),
  );
  protected readonly mayHold = computed(
    () => this.maySell() && this.order().state === 'draft' && !this.order().holds.some((hold) => hold.kind === 'customer' && !hold.cleared),
  );

  protected setLimit(text: string): void {
    const read = /^(none|\d{1,9}(?:\.\d{1,2})?)\s+(\S.*)$/.exec(text);
    if (!read) return this.store.fault.set('Type the limit and why, as 500 references are good; none for no limit.');
    this.terms.setCreditLimit(read[1] === 'none' ? null : read[1]!, read[2]!, () => this.limit.set(''));
  }
}
