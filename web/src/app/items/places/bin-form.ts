import { ChangeDetectionStrategy, Component, inject, input, linkedSignal, output, signal, effect, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { stockRoutes } from '@nockwright/contract/items';
import type { Observable } from 'rxjs';
import { Api } from '../../api';
import { GlossForm, TextArea, TextField } from '../../paper';
import { Session } from '../../access';

/** The bins of a warehouse: another one, and the sequence in which they are walked. */
@Component({
  selector: 'nock-bin-form',
  imports: [MatButton, GlossForm, TextArea, TextField],
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
      @if (mayPlan() && bins().length > 0) {
        <nock-text-area fieldId="walk" [most]="2000000" [rows]="8" [(text)]="walk">Sequence of the walk, a bin a line</nock-text-area>
        <button
          mat-stroked-button
          type="button"
          [disabled]="
            busy() ||
            walk() ===
              bins().join(
                '
'
              )
          "
          (click)="order()"
        >
          Save the sequence
        </button>
      } @else {
        <p class="code small">{{ bins().join(' ') }}</p>
      }
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
  /** The sequence as it is being changed. */
  protected readonly walk = linkedSignal(() => this.bins().join('\n'));
  protected readonly mayPlan = inject(Session).maySell;
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
    this.run(this.api.call(stockRoutes.addBin, { params: { warehouse: this.warehouse() }, body: { bin } }), () => this.bin.set(''));
  }

  protected order(): void {
    const bins = this.walk()
      .split(/\s+/)
      .map((bin) => bin.toUpperCase())
      .filter(Boolean);
    this.run(this.api.call(stockRoutes.setWalk, { params: { warehouse: this.warehouse() }, body: { bins } }));
  }

  private run(act: Observable<string[] | readonly string[]>, done: () => void = () => undefined): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    act.subscribe({
      next: (bins) => {
        this.busy.set(false);
        this.bins.set(bins);
        done();
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
