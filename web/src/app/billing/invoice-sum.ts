import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { InvoiceView } from '@nockwright/contract/billing';
import { AmountPipe } from '../paper';

/** What an invoice comes to: without tax, the tax of each rate, the total. */
@Component({
  selector: 'nock-invoice-sum',
  imports: [AmountPipe],
  template: `
    @let invoice = told();
    <table aria-label="What it comes to">
      <tbody>
        <tr>
          <td>Without tax</td>
          <td class="figure">{{ invoice.net | amount }}</td>
        </tr>
        @for (tax of invoice.taxes; track $index) {
          <tr>
            <td>
              {{ tax.category === 'S' ? +tax.percent + ' % tax' : untaxed[tax.category] }} on {{ tax.base | amount }}{{ tax.reason ? ': ' + tax.reason : '' }}
            </td>
            <td class="figure">{{ tax.tax | amount }}</td>
          </tr>
        }
        <tr class="total">
          <td>Total in {{ invoice.currency }}</td>
          <td class="figure">{{ invoice.total | amount }}</td>
        </tr>
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: block;
    }
    table {
      margin: 8px 0 12px auto;
      border-collapse: collapse;
    }
    td {
      padding: 2px 8px;
      text-align: right;
    }
    .total td {
      font-weight: 700;
      border-top: 1px solid var(--rule);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InvoiceSum {
  readonly told = input.required<Pick<InvoiceView, 'taxes' | 'net' | 'total' | 'currency'>>();
  protected readonly untaxed = { S: '', Z: 'Zero rate', E: 'Exempt', G: 'Export' } as const;
}
