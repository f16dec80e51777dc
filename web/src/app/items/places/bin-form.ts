import { ChangeDetectionStrategy, Component, inject, input, output, signal, effect, untracked } from '@angular/core';
import { stockRoutes } from '@nockwright/contract/items';
import { Api } from '../../api';
import { GlossForm, TextField } from '../../paper';

/** The bins of a warehouse, and another one. */
@Component({
  selector: 'nock-bin-form',
  imports: [GlossForm, TextField],
  template: `
    <nock-gloss-form
      [heading]="'Bins of ' + (warehouse() || 'a warehouse')"
      act="Add bin"
      [ready]="!busy() && warehouse() !== ''"
      (done)="add()"
      (left)="closed.emit()"
    >
      @if (warehouse() === '') {
        <p>Choose a warehouse above, or go to a row of it.</p>
      }
      <nock-text-field fieldId="new-bin" [most]="40" [(text)]="bin">New bin</nock-text-field>
      <p class="open" role="alert">{{ fault() }}</p>
      <p class="code small">{{ bins().join(' ') }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BinForm {
  private readonly api = inject(Api);
  readonly warehouse = input.required<string>();
  readonly closed = output<void>();
  protected readonly bin = signal('');
  protected readonly bins = signal<readonly string[]>([]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);

  constructor() {
    effect(() => {
      const warehouse = this.warehouse();
      untracked(() => {
        if (warehouse !== '')
          this.api
            .call(stockRoutes.listBins, { params: { warehouse } })
            .subscribe({ next: (bins) => this.bins.set(bins), error: (error: Error) => this.fault.set(error.message) });
      });
    });
  }

  protected add(): void {
    const bin = this.bin().trim().toUpperCase();
    if (bin === '') return this.fault.set('What is it called?');
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    this.api.call(stockRoutes.addBin, { params: { warehouse: this.warehouse() }, body: { bin } }).subscribe({
      next: (bins) => {
        this.busy.set(false);
        this.bins.set(bins);
        this.bin.set('');
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
