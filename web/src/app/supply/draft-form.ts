import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { PurchaseView } from '@nockwright/contract/supply';
import { AmountPipe, GlossForm, isQuantity, QuantityField, TextField } from '../paper';
import { filledLines, ItemLines, type ItemLine } from './item-lines';
import { PurchaseStore } from './purchase-store';

interface DraftLine {
  readonly id: number;
  readonly item: string;
  readonly description: string;
  readonly bound: boolean;
  readonly quantity: string;
  readonly cost: string;
}

/** A draft changed by hand: quantities and costs, lines struck and added, and a note to the supplier. */
@Component({
  selector: 'nock-draft-form',
  imports: [MatButton, AmountPipe, GlossForm, ItemLines, QuantityField, TextField],
  template: `
    <nock-gloss-form heading="Change the draft" act="Save draft" [ready]="!store.busy()" (done)="keep()" (left)="closed.emit()">
      <div class="line small quiet" aria-hidden="true"><span>Item</span><span class="right">Quantity</span><span class="right">Cost each</span></div>
      @for (line of lines(); track line.id) {
        <div class="line">
          <span
            ><span class="code">{{ line.item }}</span
            ><span class="small quiet"> {{ line.description }}</span></span
          >
          @if (line.bound) {
            <span class="figure" title="bought for an order: its route has the quantity">{{ line.quantity | amount }}</span>
          } @else {
            <nock-quantity-field [label]="'Quantity of ' + line.item" [quantity]="line.quantity" (typed)="type(line.id, { quantity: $event })" />
          }
          <nock-quantity-field [label]="'Cost of ' + line.item" [quantity]="line.cost" (typed)="type(line.id, { cost: $event })" />
          @if (!line.bound) {
            <button mat-button type="button" (click)="strike(line.id)" [attr.aria-label]="'Strike ' + line.item">Remove</button>
          } @else {
            <span class="small quiet">for an order</span>
          }
        </div>
      }
      @if (lifted()) {
        <p class="small quiet">What their minimum and lot want beyond it is added by itself.</p>
      }
      @if (purchase().kind === 'stock') {
        <nock-item-lines [(lines)]="added" [first]="lines().length + 1" />
      }
      <nock-text-field fieldId="draft-note" [most]="500" [(text)]="note">Note to the supplier</nock-text-field>
    </nock-gloss-form>
  `,
  styles: `
    :host {
      display: block;
      max-width: 720px;
    }
    .right {
      text-align: right;
    }
    .line {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 110px 110px 110px;
      gap: 12px;
      align-items: center;
      min-height: 38px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DraftForm implements OnInit {
  protected readonly store = inject(PurchaseStore);
  readonly purchase = input.required<PurchaseView>();
  readonly closed = output<void>();
  protected readonly lines = signal<readonly DraftLine[]>([]);
  protected readonly added = signal<readonly ItemLine[]>([{ item: '', quantity: '' }]);
  protected readonly note = signal('');
  protected readonly lifted = signal(false);

  /** As the draft stood when the form was opened: what somebody else does to it meanwhile is refused, not overwritten. */
  ngOnInit(): void {
    const { lines, note } = this.purchase();
    this.lines.set(
      lines.filter((line) => !line.lifts).map(({ id, item, description, bound, quantity, cost }) => ({ id, item, description, bound, quantity, cost: cost! })),
    );
    this.lifted.set(lines.some((line) => line.lifts));
    this.note.set(note);
  }

  protected type(id: number, typed: Partial<DraftLine>): void {
    this.lines.update((lines) => lines.map((line) => (line.id === id ? { ...line, ...typed } : line)));
  }

  protected strike(id: number): void {
    this.lines.update((lines) => lines.filter((line) => line.id !== id));
  }

  protected keep(): void {
    const wrong = this.lines().find((line) => !isQuantity(line.quantity) || Number(line.quantity) === 0 || !isQuantity(line.cost));
    if (wrong) return this.store.fault.set(`${wrong.item}: expected a quantity and a cost.`);
    const known = new Map(this.purchase().lines.map((line) => [line.id, line]));
    const lines = this.lines().map(({ id, item, quantity, cost }) => ({ id, item, quantity, ...(known.get(id)?.cost === cost ? {} : { cost }) }));
    this.store.changeDraft({ note: this.note().trim(), lines: [...lines, ...filledLines(this.added())] }, () => this.closed.emit());
  }
}
