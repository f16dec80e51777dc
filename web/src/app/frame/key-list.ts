import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Keys } from '../paper';

/** The keys of the screen, listed over it. */
@Component({
  selector: 'nock-key-list',
  imports: [A11yModule, MatButton],
  template: `
    <section role="dialog" aria-modal="true" aria-labelledby="keys-title" cdkTrapFocus [cdkTrapFocusAutoCapture]="true" (keydown.escape)="closed.emit()">
      <h2 id="keys-title">Keys of this screen</h2>
      <dl>
        @for (key of keys.all(); track $index) {
          <dt>
            <kbd>{{ key.key.replace('+', ' ').replace('ArrowDown', '↓').replace('ArrowUp', '↑') }}</kbd>
          </dt>
          <dd>{{ key.does }}</dd>
        }
        <dt><kbd>Tab</kbd></dt>
        <dd>next field</dd>
      </dl>
      <button mat-flat-button type="button" (click)="closed.emit()">Close <kbd>Esc</kbd></button>
    </section>
  `,
  styles: `
    :host {
      position: fixed;
      inset: 0;
      display: grid;
      place-items: center;
      background: color-mix(in srgb, var(--ink) 35%, transparent);
      z-index: 20;
    }
    section {
      background: var(--paper-raised);
      border: 1px solid var(--rule);
      padding: 20px 24px;
      min-width: 340px;
      max-height: 90vh;
      overflow: auto;
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 6px 20px;
      margin: 14px 0 18px;
    }
    dd {
      margin: 0;
    }
    dt kbd {
      color: var(--ink);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeyList {
  protected readonly keys = inject(Keys);
  readonly closed = output<void>();
}
