import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, ChangeDetectorRef, Component, computed, inject, input, linkedSignal, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { AmountPipe, DayPipe, Keys, PricePipe, UnitPipe } from '../paper';
import { OrderStore } from './order-store';

type Step = LineView['priceTrail'][number];

/** What says that goods cost so much. */
const BASIS: Readonly<Record<LineView['cost'][number]['basis'], string>> = {
  landed: 'landed, as its option said',
  purchase: 'on the purchase it comes from',
  standard: 'standard, as the item’s page says',
};

const PRICE = /^\d{1,9}(\.\d{1,4})?$/;

/**
 * Where a line's price comes from: every source that was asked, in order, with its price and why it won or lost. Of a
 * draft another can be chosen, a price set by hand, and one that has changed accepted or not.
 */
@Component({
  selector: 'nock-price-gloss',
  imports: [MatButton, MatFormField, MatInput, AmountPipe, DayPipe, PricePipe, UnitPipe],
  template: `
    @let view = line();
    <h3>Price of one {{ view.unit | unit: '1' }}</h3>
    @if (view.offered; as offered) {
      <div class="sides" role="group" aria-label="The price has changed">
        <p>
          agreed <b class="figure">{{ view.price | price }}</b>
          <span class="quiet small">{{ view.priceSource }}, {{ view.amount | amount }} in all</span>
        </p>
        <p class="now">
          @for (part of offered.parts; track $index) {
            <span>
              {{ offered.parts.length > 1 ? part.quantity + ' at' : 'now' }} <b class="figure">{{ part.price | price }}</b>
              <span class="quiet small">{{ part.source }}</span>
            </span>
          }
          <span class="quiet small">{{ offered.amount | amount }} in all</span>
        </p>
        @if (mayChange()) {
          <div class="acts">
            <button mat-stroked-button type="button" (click)="accept()" [disabled]="store.busy()">Take the new one <kbd>Y</kbd></button>
            <button mat-button type="button" (click)="keep()">Keep the agreed <kbd>K</kbd></button>
          </div>
        }
      </div>
    }
    @for (part of view.splits; track $index) {
      <p class="split">
        {{ part.quantity | amount }} of it at <b class="figure">{{ part.price | price }}</b>, {{ part.source }}: a line of their own
      </p>
    }
    <ol>
      @for (step of trail(); track $index) {
        <li [class.won]="step.chosen" [class.lower]="step.lower">
          <span>{{ step.source }}</span>
          <span class="figure">{{ step.price | price }}</span>
          <span class="quiet small">
            {{ step.why }}
            @if (step.contract; as contract) {
              <span class="contract">
                {{ contract.name }}, until {{ contract.lastDay | day
                }}{{ contract.left === null ? '' : ', ' + (contract.left | amount) + ' ' + (view.stockUnit | unit: contract.left) + ' left' }}
              </span>
            }
          </span>
          @if (mayChange() && mayTake(step)) {
            <button mat-button type="button" (click)="take(step)" [disabled]="store.busy()" [attr.aria-label]="'Take the price of ' + step.source">Take</button>
          }
        </li>
      }
    </ol>
    @if (view.marginPercent !== null) {
      <p class="cost">
        Margin <b class="figure">{{ view.marginPercent }} %</b>:
        @for (part of view.cost; track $index) {
          <span>
            {{ view.cost.length > 1 ? (part.quantity | amount) + ' at' : '' }} cost <b class="figure">{{ part.each | price }}</b>,
            <span class="quiet small">{{ basis[part.basis] }}{{ $last ? '' : '; ' }}</span>
          </span>
        }
      </p>
    }
    @if (mayChange()) {
      @if (view.pin) {
        <p class="pinned">
          Settled by hand. <button mat-button type="button" (click)="store.setPrice(view, { pin: null })" [disabled]="store.busy()">Look it up again</button>
        </p>
      }
      <form (submit)="$event.preventDefault(); setByHand()">
        <label for="by-hand">By hand <kbd>P</kbd></label>
        <mat-form-field
          ><input
            matInput
            #price
            id="by-hand"
            class="figure"
            inputmode="decimal"
            autocomplete="off"
            placeholder="price"
            [value]="typed()"
            (input)="typed.set(price.value.trim())"
        /></mat-form-field>
        <mat-form-field
          ><input
            matInput
            #reason
            aria-label="Why this price"
            maxlength="300"
            autocomplete="off"
            placeholder="why"
            [value]="why()"
            (input)="why.set(reason.value)"
        /></mat-form-field>
        <button mat-button type="submit" [disabled]="store.busy()">Set</button>
      </form>
    }
  `,
  styles: `
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 10px;
      padding: 3px 0;
      color: var(--ink-quiet);
      align-items: baseline;
    }
    li .small {
      grid-column: 1;
    }
    li button {
      grid-column: 2;
      margin: -4px -8px -4px 0;
    }
    .contract {
      display: block;
    }
    .won {
      color: var(--ink);
      font-weight: 600;
    }
    .lower,
    .lower .small {
      color: var(--late);
    }
    .won .small {
      font-weight: 400;
    }
    .sides {
      border-left: 3px solid var(--late);
      padding-left: 10px;
      margin: 2px 0 10px;
    }
    .sides p,
    .split {
      margin: 2px 0;
    }
    .now > span {
      display: block;
    }
    .acts {
      display: flex;
      gap: 8px;
      margin-top: 6px;
    }
    .pinned {
      margin: 6px 0 0;
    }
    form {
      display: grid;
      grid-template-columns: 1fr 100px auto;
      gap: 6px;
      align-items: center;
      margin-top: 8px;
    }
    form mat-form-field:last-of-type {
      grid-column: 1 / 3;
      grid-row: 2;
    }
    form button {
      grid-row: 2;
    }
    label {
      color: var(--ink-quiet);
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PriceGloss {
  protected readonly basis = BASIS;
  protected readonly store = inject(OrderStore);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly maySell = inject(Session).maySell;
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('price');
  private readonly reason = viewChild<ElementRef<HTMLInputElement>>('reason');
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  /** The line is being changed and stands here as it would be. */
  readonly changing = input(false);

  protected readonly mayChange = computed(() => this.maySell() && this.order().state === 'draft' && this.line().id > 0 && !this.changing());
  protected readonly trail = computed(() => this.line().offered?.trail ?? this.line().priceTrail);
  private readonly lineId = computed(() => this.line().id);
  protected readonly typed = linkedSignal({ source: this.lineId, computation: () => '' });
  protected readonly why = linkedSignal({ source: this.lineId, computation: () => '' });

  constructor() {
    inject(Keys).use([
      { key: 'P', does: 'set the price of the line by hand', run: () => this.focus() },
      { key: 'T', does: 'take the next contract that holds', run: () => this.takeNext() },
      { key: 'Y', does: 'take the price as it is looked up now', run: () => this.accept() },
      { key: 'K', does: 'keep the price agreed: say why', run: () => this.keep() },
    ]);
  }

  /** Contract lines that hold can be taken instead, and the first list where a contract was. */
  protected mayTake(step: Step): boolean {
    if (step.chosen || step.price === null) return false;
    if (step.contract) return step.contract.holds;
    const trail = this.trail();
    return trail.some((row) => row.chosen && row.contract) && step === trail.find((row) => !row.contract && row.price !== null);
  }

  protected take(step: Step): void {
    this.store.setPrice(this.line(), { pin: step.contract ? { kind: 'contract', line: step.contract.line } : { kind: 'list' } });
  }

  /** Goes round the contract lines that hold. */
  private takeNext(): boolean {
    if (!this.mayChange() || this.store.busy()) return false;
    const holding = this.trail().filter((step) => step.contract?.holds);
    // By their number, so that each press goes on from the one chosen, whatever the sequence they are asked in.
    holding.sort((a, b) => a.contract!.line - b.contract!.line);
    const at = holding.findIndex((step) => step.chosen);
    const next = holding[(at + 1) % holding.length];
    if (!next || next.chosen) return false;
    this.take(next);
    return true;
  }

  protected accept(): boolean {
    const { offered } = this.line();
    if (!offered || !this.mayChange()) return false;
    this.store.setPrice(this.line(), { accept: offered.parts.map(({ quantity, price }) => ({ quantity, price })) });
    return true;
  }

  /** The agreed price becomes one set by hand: it needs a reason. */
  protected keep(): boolean {
    if (!this.line().offered || !this.mayChange()) return false;
    this.typed.set(this.line().price);
    this.why.set('as agreed');
    this.changes.detectChanges();
    this.reason()?.nativeElement.select();
    return true;
  }

  protected setByHand(): void {
    const [price, reason] = [this.typed(), this.why().trim()];
    if (!PRICE.test(price)) return this.store.fault.set(`“${price}” is no price: type it as 0.52, with at most four decimals.`);
    if (reason === '') {
      this.store.fault.set('Why this price? It stands in the order’s history.');
      return this.reason()?.nativeElement.focus();
    }
    this.store.setPrice(this.line(), { pin: { kind: 'manual', price, reason } }, () => {
      this.typed.set('');
      this.why.set('');
    });
  }

  private focus(): boolean {
    this.field()?.nativeElement.focus();
    return this.field() !== undefined;
  }
}
