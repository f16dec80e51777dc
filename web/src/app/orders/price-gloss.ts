import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, ChangeDetectorRef, Component, computed, inject, input, linkedSignal, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { AmountPipe, DayPipe, Keys, PricePipe, UnitPipe, isPrice } from '../paper';
import { OrderLines } from './order-lines';
import { OrderStore } from './order-store';

type Step = LineView['priceTrail'][number];

/** What says that goods cost so much. */
const BASIS: Readonly<Record<LineView['cost'][number]['basis'], string>> = {
  landed: 'landed, as its option said',
  purchase: 'on the purchase it comes from',
  standard: 'standard, as the item’s page says',
};

/**
 * Where a line's price comes from: every source that was asked, in order, with its price and why it won or lost. Of a
 * draft another can be chosen, a price set by hand, and one that has changed accepted or not.
 */
@Component({
  selector: 'nock-price-gloss',
  imports: [MatButton, MatFormField, MatInput, AmountPipe, DayPipe, PricePipe, UnitPipe],
  templateUrl: './price-gloss.html',
  styleUrl: './price-gloss.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PriceGloss {
  protected readonly basis = BASIS;
  protected readonly store = inject(OrderStore);
  protected readonly lines = inject(OrderLines);
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
    this.lines.setPrice(this.line(), { pin: step.contract ? { kind: 'contract', line: step.contract.line } : { kind: 'list' } });
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
    this.lines.setPrice(this.line(), { accept: offered.parts.map(({ quantity, price }) => ({ quantity, price })) });
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
    if (!isPrice(price)) return this.store.fault.set(`“${price}” is no price: type it as 0.52, with at most four decimals.`);
    if (reason === '') {
      this.store.fault.set('Why this price? It stands in the order’s history.');
      return this.reason()?.nativeElement.focus();
    }
    this.lines.setPrice(this.line(), { pin: { kind: 'manual', price, reason } }, () => {
      this.typed.set('');
      this.why.set('');
    });
  }

  private focus(): boolean {
    this.field()?.nativeElement.focus();
    return this.field() !== undefined;
  }
}
