import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { AmountPipe, GlossForm } from '../paper';

/** What is on account, or left of a credit note, goes to the invoices that the sheet says. */
@Component({
  selector: 'nock-use-form',
  imports: [AmountPipe, GlossForm],
  template: `
    <nock-gloss-form [traps]="false" [heading]="heading()" act="Settle invoices" [ready]="!busy()" (done)="done.emit()" (left)="closed.emit()">
      <p>What goes to which invoice stands on the sheet, and can be changed there.</p>
      @if (left(); as left) {
        <p>{{ left | amount }} {{ currency() }} would be left.</p>
      }
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UseForm {
  readonly heading = input.required<string>();
  readonly currency = input.required<string>();
  readonly left = input.required<string | null>();
  readonly busy = input(false);
  readonly fault = input('');
  readonly done = output<void>();
  readonly closed = output<void>();
}
