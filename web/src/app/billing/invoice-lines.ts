import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { InvoiceView } from '@nockwright/contract/billing';
import { InvoiceSum } from './invoice-sum';
import { AmountPipe, PricePipe, UnitPipe } from '../paper';

type Told = Pick<InvoiceView, 'lines' | 'taxes' | 'net' | 'total' | 'currency'>;

/** The lines of an invoice with what they come to: by shipment, tax by rate, the total. */
@Component({
  selector: 'nock-invoice-lines',
  imports: [RouterLink, AmountPipe, InvoiceSum, PricePipe, UnitPipe],
  template: `
    @let invoice = told();
    <table class="ruled" aria-label="Lines of the invoice">
      <thead>
        <tr>
          <th>Item</th>
          <th class="wide">Shipment</th>
          <th class="figure">Quantity</th>
          <th class="figure">Price</th>
          <th class="figure wide">Tax</th>
          <th class="figure">Amount</th>
        </tr>
      </thead>
      <tbody>
        @for (line of invoice.lines; track line.id) {
          <tr>
            <td>
              @if (line.item) {
                <a class="code" [routerLink]="['/items', line.item]">{{ line.item }}</a> <span class="small quiet">{{ line.text }}</span>
              } @else {
                {{ line.text }}
              }
            </td>
            <td class="wide">
              @if (line.order) {
                <a class="code" [routerLink]="['/orders', line.order]">{{ line.shipment || line.orderNumber }}</a>
              }
            </td>
            <td class="figure">
              @if (line.kind === 'goods') {
                {{ line.quantity | amount }} {{ line.unit | unit: line.quantity }}
              }
            </td>
            <td class="figure">{{ line.price | price }}</td>
            <td class="figure wide">{{ +line.percent }} %</td>
            <td class="figure">
              {{ line.amount | amount }}
              @if (+line.credited > 0) {
                <div class="small late">{{ line.credited | amount }} credited</div>
              }
            </td>
          </tr>
        }
      </tbody>
    </table>
    <nock-invoice-sum [told]="invoice" />
  `,
  styles: `
    .code + .small {
      margin-left: 10px;
    }
    @media (max-width: 700px) {
      .wide {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceLines {
  readonly told = input.required<Told>();
}
