import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { eventWords } from '@nockwright/contract/history';
import { Session } from '../../access';
import { OrderStore } from '../order-store';
import { TypedLines } from './typed-lines';
import { Unsaved } from './unsaved';

/** An order was released or closed by somebody while things were typed here: what is not in it. */
@Component({
  selector: 'nock-left-out',
  imports: [MatButton],
  template: `
    @if (left().length > 0) {
      <section role="alert" aria-label="Typed and not in the order">
        <p>
          <b>{{ who() }} while you typed. Not in it:</b>
        </p>
        <ul>
          @for (one of left(); track $index) {
            <li>
              <span class="quiet">{{ one.label }}</span>&ngsp;<span class="code">{{ one.text }}</span>
            </li>
          }
        </ul>
        <button mat-button type="button" (click)="copy()">Copy</button>
        <button mat-button type="button" (click)="close()">Close</button>
      </section>
    }
  `,
  styles: `
    section {
      border-left: 3px solid var(--late);
      padding: 4px 0 4px 12px;
      margin: 8px 0;
    }
    p,
    ul {
      margin: 0;
    }
    li {
      display: flex;
      gap: 8px;
    }
    ul {
      list-style: none;
      padding: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LeftOut {
  private readonly clipboard = inject(Clipboard);
  private readonly session = inject(Session);
  private readonly store = inject(OrderStore);
  private readonly lines = inject(TypedLines);
  private readonly unsaved = inject(Unsaved);

  protected readonly left = computed(() => {
    const order = this.store.order();
    if (!order || order.state === 'draft') return [];
    const texts = Object.values(this.unsaved.texts()).filter(({ text }) => text.trim() !== '');
    const collided = this.store.collisions().map((one) => ({ label: one.line === null ? one.field : `line, ${one.field}`, text: String(one.mine ?? '') }));
    const typed = this.lines.rows().filter((row) => row.state === 'refused');
    return [...texts, ...collided, ...typed.map(({ text }) => ({ label: 'line', text }))];
  });
  protected readonly who = computed(() => {
    // The history comes after the order: until then its last entry is of the draft.
    const last = this.store.history().find(({ kind }) => kind === 'order.released');
    return last ? `${last.who} ${eventWords(last, this.session.today())}` : 'This was changed';
  });

  protected copy(): void {
    this.clipboard.copy(
      this.left()
        .map(({ label, text }) => `${label}: ${text}`)
        .join('\n'),
    );
  }

  protected close(): void {
    this.unsaved.forgetAll();
    this.store.collisions.set([]);
    for (const { key } of this.lines.rows()) this.lines.drop(key);
  }
}
