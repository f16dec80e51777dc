import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { supplyRoutes } from '@nockwright/contract/supply';
import { Api } from '../../api';
import { Keys } from '../../paper';
import { EMPTY_LINE, filledLines, ItemLines, type ItemLine } from '../item-lines';
import { PlaceChoice } from '../place-choice';
import { Places } from '../places';

/** Free goods to be brought from one warehouse to another: what is promised to somebody stays. */
@Component({
  selector: 'nock-new-transfer',
  imports: [MatButton, ItemLines, PlaceChoice],
  template: `
    <form class="paper-form" (submit)="$event.preventDefault(); make()">
      <h1>New transfer</h1>
      <p class="quiet">Only what is free on the shelf is brought: what is promised to a customer stays for them.</p>
      <div class="row">
        <nock-place-choice label="From" [places]="places.warehouses()" [(code)]="from" />
        <nock-place-choice label="To" [places]="places.warehouses()" [(code)]="to" />
      </div>
      <nock-item-lines [(lines)]="lines" />
      <p class="fault" role="alert">{{ fault() }}</p>
      <button mat-flat-button type="submit">Commit goods <kbd>Ctrl Enter</kbd></button>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewTransfer {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly places = inject(Places);
  protected readonly fault = signal('');
  protected readonly from = signal('');
  protected readonly to = signal('');
  protected readonly lines = signal<readonly ItemLine[]>([EMPTY_LINE]);

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'make the transfer', run: () => this.make() }]);
  }

  protected make(): void {
    const [from, to, lines] = [this.from(), this.to(), filledLines(this.lines())];
    if (!from || !to) return this.fault.set('Choose from where to where.');
    if (lines.length === 0) return this.fault.set('Type at least one line.');
    this.api.call(supplyRoutes.createTransfer, { body: { from, to, lines } }).subscribe({
      next: (transfer) => void this.router.navigate(['/supply/transfers', transfer.id]),
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
