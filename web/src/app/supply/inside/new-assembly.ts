import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { supplyRoutes } from '@nockwright/contract/supply';
import { Api } from '../../api';
import { Keys } from '../../paper';
import { filledLines, ItemLines, type ItemLine } from '../item-lines';
import { PlaceChoice } from '../place-choice';
import { Places } from '../places';

/** An item to be put together from free components. */
@Component({
  selector: 'nock-new-assembly',
  imports: [MatButton, ItemLines, PlaceChoice],
  template: `
    <form class="paper-form" (submit)="$event.preventDefault(); make()">
      <h1>New assembly</h1>
      <p class="quiet">Components that are free are committed to it; what is promised to a customer stays for them.</p>
      <div class="row">
        <nock-place-choice label="At warehouse" [places]="places.warehouses()" [(code)]="warehouse" />
      </div>
      <nock-item-lines [(lines)]="lines" />
      <p class="fault" role="alert">{{ fault() }}</p>
      <button mat-flat-button type="submit">Commit components <kbd>Ctrl Enter</kbd></button>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewAssembly {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly places = inject(Places);
  /** An item that was looked at before. */
  readonly item = input<string>();
  protected readonly fault = signal('');
  protected readonly warehouse = signal('');
  private readonly start = computed((): readonly ItemLine[] => [{ item: this.item() ?? '', quantity: '' }]);
  protected readonly lines = linkedSignal(() => this.start());

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'make the assembly', run: () => this.make() }]);
  }

  protected make(): void {
    const [warehouse, lines] = [this.warehouse(), filledLines(this.lines())];
    const [line, ...others] = lines;
    if (!warehouse) return this.fault.set('Choose the warehouse.');
    if (!line) return this.fault.set('Type the item to assemble, and how many.');
    if (others.length > 0) return this.fault.set('One assembly is of one item: make the others after it.');
    this.api.call(supplyRoutes.createAssembly, { body: { ...line, warehouse } }).subscribe({
      next: (assembly) => void this.router.navigate(['/supply/assemblies', assembly.id]),
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
