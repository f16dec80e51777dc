import { Clipboard } from '@angular/cdk/clipboard';
import { LiveAnnouncer } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, type ElementRef, inject, input, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Keys } from './keys';

/** One plain sentence to say to the customer, with a button that copies it. */
@Component({
  selector: 'nock-spoken',
  imports: [MatButton],
  template: `
    <h3>Say</h3>
    <blockquote>“{{ text() }}”</blockquote>
    <button mat-button type="button" (click)="copy()">Copy <kbd>C</kbd></button>
    @if (lines().length > 1) {
      <details #all>
        <summary>Line by line <kbd>S</kbd></summary>
        @for (line of lines(); track line.name) {
          <p>
            <b>{{ line.name }}</b>: {{ line.spoken }}
          </p>
        }
      </details>
    }
  `,
  styles: `
    blockquote {
      margin: 0;
      padding: 2px 0 2px 12px;
      border-left: 3px solid var(--act);
      font-size: 15.5px;
      line-height: 1.45;
    }
    button {
      margin-top: 4px;
    }
    summary {
      cursor: pointer;
    }
    details p {
      margin: 4px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Spoken {
  private readonly clipboard = inject(Clipboard);
  private readonly announcer = inject(LiveAnnouncer);
  readonly text = input.required<string>();
  /** What is said of each line, where the sentence sums them up. */
  readonly lines = input<readonly { readonly name: string; readonly spoken: string }[]>([]);
  private readonly all = viewChild<ElementRef<HTMLDetailsElement>>('all');

  constructor() {
    inject(Keys).use([{ key: 'S', does: 'what to say of each line', run: () => this.turn() }]);
  }

  private turn(): boolean {
    const all = this.all()?.nativeElement;
    if (all) all.open = !all.open;
    return all !== undefined;
  }

  copy(): void {
    this.clipboard.copy(this.text());
    void this.announcer.announce('Copied');
  }
}
