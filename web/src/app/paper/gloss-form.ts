import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Keys } from './keys';

/** A form in the gloss: it has the focus while it is there, Ctrl+Enter does it, Escape leaves all as it was. */
@Component({
  selector: 'nock-gloss-form',
  imports: [A11yModule, MatButton],
  template: `
    <form class="gloss-form" novalidate [cdkTrapFocus]="traps()" [cdkTrapFocusAutoCapture]="true" (submit)="$event.preventDefault(); done.emit()">
      <h2>{{ heading() }}</h2>
      <ng-content />
      <div class="acts">
        <button mat-flat-button type="submit" [disabled]="!ready()">{{ act() }} <kbd>Ctrl Enter</kbd></button>
        <button mat-button type="button" (click)="left.emit()">Back <kbd>Esc</kbd></button>
      </div>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GlossForm {
  readonly heading = input.required<string>();
  /** What doing it is called: `Increase line`. */
  readonly act = input.required<string>();
  readonly ready = input(true);
  /** Whether Tab stays within it. A form whose fields go on on the sheet lets it go. */
  readonly traps = input(true);
  readonly done = output<void>();
  readonly left = output<void>();

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'do what the form says', run: () => this.done.emit() },
      { key: 'Escape', does: 'leave it as it is', run: () => this.left.emit() },
    ]);
  }
}
