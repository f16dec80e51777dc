import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, untracked } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import { Router } from '@angular/router';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { lineAmount, sum } from '@nockwright/core/money';
import { acceptQuote, openOf } from '@nockwright/core/orders';
import { Session } from '../../access';
import { AmountPipe, DayPipe, GlossForm, PricePipe, QuantityField, TextField, UnitPipe, isPositive } from '../../paper';
import { OrderStanding } from '../order-standing';
import { OrderStore } from '../order-store';
import { changedWords } from './changed-words';

/** What is taken of a line; text as it is typed. */
interface Choice {
  readonly taken: boolean;
  readonly quantity: string;
}

/** What the customer takes of a quote: lines, parts of them, alternatives. What has changed since stands beside each. */
@Component({
  selector: 'nock-accept-form',
  imports: [GlossForm, MatCheckbox, MatFormField, QuantityField, MatSelect, MatOption, AmountPipe, DayPipe, PricePipe, TextField, UnitPipe],
  template: `
    @let view = order();
    <nock-gloss-form
      heading="They take of {{ view.number }}"
      act="Create order"
      [ready]="!(store.busy() || fault() !== '')"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      @if (expired()) {
        <p class="late">It ended {{ view.validUntil! | day }}: it binds us no more.</p>
      }
      <ul>
        @for (line of open(); track line.id) {
          @let choice = choices().get(line.id)!;
          <li [class.left]="!choice.taken && !line.alternative">
            <mat-checkbox [checked]="choice.taken" (change)="take(line, $event.checked)">
              @if (line.alternative) {
                <i class="quiet">{{ line.alternativeTo ? 'or' : 'and' }}</i>&ngsp;
              }
              <span class="code">{{ line.item }}</span>
            </mat-checkbox>
            <nock-quantity-field [label]="'How many of line ' + line.lineNo" [quantity]="choice.quantity" (typed)="count(line, $event)" />
            <span class="quiet">{{ line.unit | unit: line.quantity }} at {{ line.price | price }}</span>
            @for (words of changed(line); track words) {
              <span class="late small">{{ words }}</span>
            }
          </li>
        }
      </ul>
      @if (repriced() > 0) {
        <span class="label" id="accept-prices">Prices that have changed</span>
        <mat-form-field>
          <mat-select aria-labelledby="accept-prices" [value]="prices()" (selectionChange)="prices.set($event.value)">
            <mat-option value="quoted">stay as quoted</mat-option>
            <mat-option value="today">are settled line by line</mat-option>
          </mat-select>
        </mat-form-field>
      }
      <nock-text-field fieldId="accept-po" [most]="60" [(text)]="poNumber">Customer PO</nock-text-field>
      @if (!whole()) {
        <span class="label" id="accept-rest">What they do not take</span>
        <mat-form-field>
          <mat-select aria-labelledby="accept-rest" [value]="rest()" (selectionChange)="rest.set($event.value)">
            <mat-option value="open">stays open until {{ view.validUntil! | day }}</mat-option>
            <mat-option value="closed">is closed</mat-option>
          </mat-select>
        </mat-form-field>
      }
      <p class="sum" role="status">
        {{ words() }}
        @if (!fault()) {
          Net <b class="figure">{{ net() | amount }} {{ view.currency }}</b
          >{{ repriced() > 0 && prices() === 'today' ? ' as quoted' : '' }}.
        }
      </p>
    </nock-gloss-form>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 8px 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 1fr 70px;
      align-items: center;
      gap: 0 8px;
      padding: 4px 0;
      border-bottom: 1px solid var(--hairline);
    }
    li > span {
      grid-column: 1 / -1;
      padding-left: 32px;
    }
    .left .quiet,
    .left .code {
      text-decoration: line-through;
      color: var(--ink-quiet);
    }
    .sum {
      margin: 8px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AcceptForm {
  protected readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  readonly order = input.required<OrderView>();
  readonly closed = output<void>();

  private readonly version = computed(() => this.order().version);
  protected readonly open = computed(() => this.order().lines.filter((line) => openOf(line) !== '0'));
  /** At first all lines and no alternative. */
  protected readonly choices = linkedSignal({
    source: this.version,
    computation: (): ReadonlyMap<number, Choice> =>
      new Map(untracked(this.open).map((line) => [line.id, { taken: !line.alternative, quantity: openOf(line) }])),
  });
  protected readonly expired = computed(() => (this.order().validUntil ?? '') < this.session.today());
  protected readonly repriced = computed(() => this.open().filter((line) => line.offered && this.choices().get(line.id)!.taken).length);
  protected readonly prices = linkedSignal(() => (this.expired() ? 'today' : 'quoted') as 'quoted' | 'today');
  protected readonly rest = linkedSignal(() => (this.expired() ? 'closed' : 'open') as 'open' | 'closed');
  protected readonly poNumber = linkedSignal({ source: this.version, computation: () => untracked(this.order).poNumber });

  private readonly taken = computed(() =>
    this.open().flatMap((line) => {
      const { taken, quantity } = this.choices().get(line.id)!;
      return taken ? [{ line: line.id, quantity }] : [];
    }),
  );
  private readonly result = computed(() =>
    acceptQuote(
      this.order().lines,
      this.taken().map((row) => (isPositive(row.quantity) ? row : { line: row.line })),
    ),
  );
  protected readonly whole = computed(() => {
    const result = this.result();
    return result.ok && result.whole;
  });
  protected readonly fault = computed(() => {
    if (this.taken().length === 0) return 'Nothing is taken yet.';
    const wrong = this.taken().find((row) => !isPositive(row.quantity));
    if (wrong) return `Line ${this.lineNo(wrong.line)}: how many?`;
    const result = this.result();
    return result.ok ? '' : result.faults.map((fault) => fault.message).join('; ');
  });
  protected readonly words = computed(
    () => this.fault() || (this.whole() ? 'The quote is accepted whole.' : `${this.taken().length} of ${this.open().length} lines.`),
  );

  /** Of what is taken, at the prices quoted. */
  protected readonly net = computed(() => {
    const lineOf = new Map(this.order().lines.map((line) => [line.id, line]));
    const { currency } = this.order();
    return sum(this.taken().map(({ line, quantity }) => (isPositive(quantity) ? lineAmount(quantity, lineOf.get(line)!.price, currency) : '0')));
  });

  protected changed(line: LineView): readonly string[] {
    return changedWords(line, this.session.today());
  }

  /** Taking an alternative leaves the line it stands instead of; and the other way round. */
  protected take(line: LineView, taken: boolean): void {
    const next = new Map(this.choices());
    const set = (id: number, value: boolean) => next.has(id) && next.set(id, { ...next.get(id)!, taken: value });
    set(line.id, taken);
    for (const other of this.open())
      if (
        taken &&
        other.id !== line.id &&
        (other.id === line.alternativeTo || other.alternativeTo === line.id || (line.alternativeTo !== null && other.alternativeTo === line.alternativeTo))
      )
        set(other.id, false);
    this.choices.set(next);
  }

  protected count(line: LineView, quantity: string): void {
    this.choices.update((choices) => new Map(choices).set(line.id, { taken: true, quantity }));
  }

  protected confirm(): void {
    if (this.fault() !== '' || this.store.busy()) return;
    const lines = this.taken();
    this.standing.acceptQuote(
      { lines, prices: this.prices(), rest: this.rest(), poNumber: this.poNumber().trim() },
      (order) => void this.router.navigate(['/orders', order.id]),
    );
  }

  private lineNo(id: number): number | undefined {
    return this.order().lines.find((line) => line.id === id)?.lineNo;
  }
}
