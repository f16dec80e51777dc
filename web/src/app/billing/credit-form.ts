import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { invoiceRoutes, type InvoiceView } from '@nockwright/contract/billing';
import { Api } from '../api';
import { GlossForm, isPrice, isQuantity, QuantityField, TextField, UnitPipe } from '../paper';

type Line = InvoiceView['lines'][number];

/** What of an invoice is corrected: so many of a line, or something off the price of each. */
@Component({
  selector: 'nock-credit-form',
  imports: [GlossForm, QuantityField, TextField, UnitPipe],
  template: `
    <nock-gloss-form [heading]="'Credit invoice ' + invoice().number" act="Issue credit note" [ready]="!busy()" (done)="send()" (left)="closed.emit()">
      <table class="ruled" aria-label="What is credited">
        <thead>
          <tr>
            <th>Item</th>
            <th class="figure">Quantity</th>
            <th class="figure">Less for one</th>
          </tr>
        </thead>
        <tbody>
          @for (line of invoice().lines; track line.id) {
            <tr>
              <td>
                <span class="code small">{{ line.item ?? line.text }}</span>
                <div class="small quiet">{{ line.quantity }} {{ line.unit | unit: line.quantity }} at {{ line.price }}</div>
              </td>
              <td class="figure">
                <nock-quantity-field
                  [label]="'Credited quantity: ' + nameOf(line)"
                  [quantity]="typed().get(line.id)?.quantity ?? ''"
                  (typed)="type(line, { quantity: $event })"
                />
              </td>
              <td class="figure">
                <nock-quantity-field
                  [label]="'Less for one: ' + nameOf(line)"
                  [quantity]="typed().get(line.id)?.perUnit ?? ''"
                  (typed)="type(line, { perUnit: $event })"
                />
              </td>
            </tr>
          }
        </tbody>
      </table>
      <p class="quiet small">Without an amount in the last column the whole price is credited.</p>
      <nock-text-field fieldId="credit-why" [most]="300" [(text)]="reason">Why</nock-text-field>
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  styles: `
    nock-quantity-field {
      width: 76px;
    }
    td {
      padding: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CreditForm {
  private readonly api = inject(Api);
  readonly invoice = input.required<InvoiceView>();
  readonly saved = output<InvoiceView>();
  readonly closed = output<void>();
  protected readonly typed = signal<ReadonlyMap<number, { readonly quantity?: string; readonly perUnit?: string }>>(new Map());
  protected readonly reason = signal('');
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private readonly wished = computed(() => this.invoice().lines.filter((line) => this.typed().get(line.id)?.quantity));

  protected nameOf(line: Line): string {
    return `line ${line.lineNo}, ${line.item ?? line.text}`;
  }

  protected type(line: Line, words: { readonly quantity?: string; readonly perUnit?: string }): void {
    this.typed.update((typed) => new Map(typed).set(line.id, { ...typed.get(line.id), ...words }));
  }

  protected send(): void {
    if (this.busy()) return;
    const wrong = this.wished().find((line) => {
      const { quantity = '', perUnit = '' } = this.typed().get(line.id)!;
      return !isQuantity(quantity) || (perUnit !== '' && !isPrice(perUnit));
    });
    if (wrong) return this.fault.set(`Line ${wrong.lineNo}, ${wrong.item ?? wrong.text}: expected a quantity and an amount with at most four decimals.`);
    if (this.wished().length === 0) return this.fault.set('Type how many of which line are credited.');
    if (this.reason().trim() === '') return this.fault.set('Why? The credit note and the history say it.');
    const lines = this.wished().map((line) => {
      const { quantity = '', perUnit } = this.typed().get(line.id)!;
      return { line: line.id, quantity, ...(perUnit ? { perUnit } : {}) };
    });
    this.busy.set(true);
    this.api.call(invoiceRoutes.creditInvoice, { params: { invoice: this.invoice().id }, body: { lines, reason: this.reason().trim() } }).subscribe({
      next: (note) => this.saved.emit(note),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
