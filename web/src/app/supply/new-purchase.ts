import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { supplyRoutes } from '@nockwright/contract/supply';
import { Api } from '../api';
import { Keys } from '../paper';
import { EMPTY_LINE, filledLines, ItemLines, type ItemLine } from './item-lines';
import { PlaceChoice } from './place-choice';
import { Places } from './places';

/** A purchase to stock: supplier, warehouse and lines. What it can be bought in is checked when it is made. */
@Component({
  selector: 'nock-new-purchase',
  imports: [MatButton, ItemLines, PlaceChoice],
  template: `
    <form class="paper-form" (submit)="$event.preventDefault(); make()">
      <h1>New purchase order</h1>
      <div class="row">
        <nock-place-choice label="Supplier" [places]="places.suppliers()" [(code)]="supplier" />
        <nock-place-choice label="For warehouse" [places]="places.warehouses()" [(code)]="warehouse" />
      </div>
      <nock-item-lines [(lines)]="lines" />
      <p class="fault" role="alert">{{ fault() }}</p>
      <button mat-flat-button type="submit">Create draft <kbd>Ctrl Enter</kbd></button>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPurchase {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly places = inject(Places);
  protected readonly fault = signal('');
  protected readonly supplier = signal('');
  protected readonly warehouse = signal('');
  protected readonly lines = signal<readonly ItemLine[]>([EMPTY_LINE]);

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'make the draft', run: () => this.make() }]);
  }

  protected make(): void {
    const [supplier, warehouse, lines] = [this.supplier(), this.warehouse(), filledLines(this.lines())];
    if (!supplier) return this.fault.set('Choose the supplier.');
    if (!warehouse) return this.fault.set('Choose the warehouse.');
    if (lines.length === 0) return this.fault.set('Type at least one line.');
    this.api.call(supplyRoutes.createPurchase, { body: { supplier, warehouse, lines } }).subscribe({
      next: (purchase) => void this.router.navigate(['/supply', purchase.id]),
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
