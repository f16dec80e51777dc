import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal, type OnInit } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import { Api } from '../api';
import { GlossForm, TextField } from '../paper';

/** An item is discontinued: what follows it, and whether it can still be bought; or it is made again. */
@Component({
  selector: 'nock-ended-form',
  imports: [MatCheckbox, GlossForm, TextField],
  template: `
    <nock-gloss-form [heading]="item().code + ' is discontinued'" [act]="act()" [ready]="!busy()" (done)="keep()" (left)="closed.emit()">
      @if (item().discontinued) {
        <mat-checkbox [checked]="again()" (change)="again.set($event.checked)">Resume</mat-checkbox>
      }
      @if (!again()) {
        <nock-text-field fieldId="successor" [most]="40" [(text)]="successor">Replaced by (empty: nothing)</nock-text-field>
        <mat-checkbox [checked]="soldByNobody()" (change)="soldByNobody.set($event.checked)">No supplier sells it any more</mat-checkbox>
        <nock-text-field fieldId="ended-why" [most]="300" [(text)]="reason">Why (for the history)</nock-text-field>
        <p class="quiet small">
          What is on hand and on its way may still be sold, and promises on it stand. The successor is offered beside it. Purchases that will not come are
          cancelled on their own sheets.
        </p>
      }
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EndedForm implements OnInit {
  private readonly api = inject(Api);
  readonly item = input.required<ItemPage>();
  readonly changed = output<ItemPage>();
  readonly closed = output<void>();
  protected readonly successor = signal('');
  protected readonly soldByNobody = signal(false);
  protected readonly again = signal(false);
  protected readonly reason = signal('');
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly act = computed(() => (this.again() ? 'Resume' : 'Discontinue'));

  ngOnInit(): void {
    this.successor.set(this.item().successor ?? '');
  }

  protected keep(): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    const successor = this.successor().trim().toUpperCase() || null;
    const body = this.again()
      ? { discontinued: false }
      : { discontinued: true, successor, soldByNobody: this.soldByNobody(), ...(this.reason().trim() ? { reason: this.reason().trim() } : {}) };
    this.api.call(itemRoutes.setDiscontinued, { params: { item: this.item().code }, body }).subscribe({
      next: (item) => this.changed.emit(item),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
