import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { OrderView } from '@nockwright/contract/orders';
import { AmountPipe, DayPipe, History, Spoken } from '../paper';
import { OrderStore } from './order-store';

/** The order as a whole: its day, what has left, what to say, what happened. */
@Component({
  selector: 'nock-order-gloss',
  imports: [AmountPipe, DayPipe, History, Spoken],
  template: `
    @let view = order();
    <h2>{{ view.number ? 'Order ' + view.number : 'This draft' }}</h2>
    @if (view.lines.length > 0) {
      <p>
        @if (view.wholeDay) {
          The last of it leaves <b>{{ view.wholeDay | day }}</b>.
        } @else if (view.progress !== 'shipped' && view.progress !== 'cancelled') {
          <b>No day for all of it:</b> some lines have no cover.
        }
        @if (view.shipComplete) {
          It must leave complete: all lines wait for the last.
        }
      </p>
    } @else {
      <p class="quiet">Type the first line. Its day, its price and why stand here as soon as item and quantity are known.</p>
    }
    @if (view.spoken) {
      <nock-spoken [text]="view.spoken" />
    }
    @if (view.shipments.length > 0) {
      <h3>Shipments</h3>
      @for (shipment of view.shipments; track shipment.id) {
        <p class="shipment">
          <span class="code">{{ shipment.number }}</span> {{ shipment.state }} from {{ shipment.from }}
          @if (shipment.day) {
            on {{ shipment.day | day }}
          }
          @if (shipment.tracking) {
            with tracking <span class="code">{{ shipment.tracking }}</span>
          }
          <span class="quiet small">
            @for (part of shipment.lines; track part.lineNo) {
              line {{ part.lineNo }}: {{ part.quantity | amount }}{{ $last ? '' : ', ' }}
            }
          </span>
        </p>
      }
    }
    <h3>What happened</h3>
    <nock-history [rows]="store.history()" />
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
  protected readonly store = inject(OrderStore);
  readonly order = input.required<OrderView>();
}
