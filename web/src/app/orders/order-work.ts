import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { ShipTo } from '@nockwright/contract/customers';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Api } from '../api';
import { addressRecord } from '../customers';
import { RecordForm } from '../paper';
import { CancelForm } from './cancel-form';
import { MailForm } from './mail-form';
import { OrderStore } from './order-store';
import { CombineForm } from './options/combine-form';
import { AcceptForm } from './quote/accept-form';
import { LoseForm } from './quote/lose-form';
import { RaiseForm } from './raise-form';
import { TurnForm } from './turn-form';

/** A line or the order cancelled, another turn, a greater quantity, what becomes of a quote, a mail, another address. */
export type Work = 'line' | 'order' | 'turn' | 'raise' | 'accept' | 'lose' | 'mail' | 'address' | 'combine';

/** The form in the gloss for what is being done with an order. */
@Component({
  selector: 'nock-order-work',
  imports: [CombineForm, AcceptForm, CancelForm, LoseForm, MailForm, RaiseForm, RecordForm, TurnForm],
  template: `
    @switch (work()) {
      @case ('mail') {
        <nock-mail-form [order]="order()" (closed)="closed.emit()" />
      }
      @case ('combine') {
        <nock-combine-form [order]="order()" (closed)="closed.emit()" />
      }
      @case ('address') {
        <nock-record-form [record]="address()" (saved)="shipThere($event)" (closed)="closed.emit()" />
      }
      @case ('accept') {
        <nock-accept-form [order]="order()" (closed)="closed.emit()" />
      }
      @case ('lose') {
        <nock-lose-form [order]="order()" (closed)="closed.emit()" />
      }
      @case ('turn') {
        <nock-turn-form [order]="order()" [line]="line() ?? queueLine()" (closed)="closed.emit()" />
      }
      @case ('raise') {
        <nock-raise-form [order]="order()" [line]="line()!" (closed)="closed.emit()" />
      }
      @default {
        <nock-cancel-form [order]="order()" [line]="work() === 'order' ? null : line()" (closed)="closed.emit()" />
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderWork {
  private readonly api = inject(Api);
  private readonly store = inject(OrderStore);
  readonly order = input.required<OrderView>();
  readonly work = input.required<Work>();
  /** The line that is marked. */
  readonly line = input<LineView | null>(null);
  readonly closed = output<void>();

  protected readonly address = computed(() => addressRecord(this.api, this.order().customer, 'Use address'));

  /** The new address is where the order goes. */
  protected shipThere(place: ShipTo): void {
    this.store.change({ shipTo: place.id });
    this.closed.emit();
  }

  /** The line whose queue matters most: the latest, else the first that is open. */
  protected queueLine(): LineView | null {
    const open = this.order().lines.filter((line) => line.state !== 'done');
    return open.find((line) => line.state !== 'covered') ?? open[0] ?? null;
  }
}
