import { Clipboard } from '@angular/cdk/clipboard';
import { LiveAnnouncer } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';

/** One plain sentence to say to the customer, with a button that copies it. */
@Component({
  selector: 'nock-spoken',
  imports: [MatButton],
  template: `
    <h3>Say</h3>
    <blockquote>“{{ text() }}”</blockquote>
    <button mat-button type="button" (click)="copy()">Copy <kbd>C</kbd></button>
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
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Spoken {
  private readonly clipboard = inject(Clipboard);
  private readonly announcer = inject(LiveAnnouncer);
  readonly text = input.required<string>();

  copy(): void {
    this.clipboard.copy(this.text());
    void this.announcer.announce('Copied');
  }
}
