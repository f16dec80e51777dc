import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, model, signal, viewChild, type TemplateRef } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { Mover, RippleView } from '@nockwright/contract/promise';
import { Session } from '../access';
import { Compared, Keys } from '../paper';
import { MoverRows, type MoverGroup } from './mover-rows';
import { rippleInWords } from './ripple-words';
import { SayTo } from './say-to';

/**
 * Before a change is done: whose promises it moves, as rows on the sheet with an arrow from day to day, worst first; and
 * what it frees for whom. The gloss keeps the sum, and what to say to the one that is looked at.
 */
@Component({
  selector: 'nock-ripple',
  imports: [NgTemplateOutlet, MatButton, MoverRows, SayTo],
  templateUrl: './ripple.html',
  styles: `
    .sum {
      margin: 8px 0;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Ripple {
  private readonly session = inject(Session);
  private readonly compared = inject(Compared);
  readonly ripple = input.required<RippleView>();
  /** The lines whose offers are taken. */
  readonly accepted = model<readonly number[]>([]);

  private readonly template = viewChild.required<TemplateRef<unknown>>('rows');
  private readonly table = viewChild(MoverRows);
  protected readonly elsewhere = computed(() => this.compared.hasSheet());
  protected readonly words = computed(() => rippleInWords(this.ripple(), this.session.currency()));
  protected readonly groups = computed((): readonly MoverGroup[] => {
    const { later, earlier, offers } = this.ripple();
    return [
      { heading: 'Moves later', movers: later },
      { heading: 'Moves earlier', movers: earlier },
      { heading: 'Available for backorders and late promises, in their sequence', movers: offers },
    ];
  });
  protected readonly movers = computed(() => this.groups().reduce((count, { movers }) => count + movers.length, 0));
  protected readonly choosable = computed(() => [...this.ripple().offers.map((row) => row.line), ...this.accepted()]);
  /** The one whose sentence the gloss shows: the worst, until another is looked at. */
  protected readonly current = signal<Mover | null>(null);

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+M', does: 'to the promises that move', run: () => this.table()?.focus() }]);
    effect((onCleanup) => {
      if (this.elsewhere()) onCleanup(this.compared.show(this.template()));
    });
  }

  protected toggle(line: number): void {
    this.accepted.update((lines) => (lines.includes(line) ? lines.filter((other) => other !== line) : [...lines, line]));
  }

  protected takeAll(): void {
    this.accepted.update((lines) => [...new Set([...lines, ...this.ripple().offers.map((row) => row.line)])]);
  }
}
