import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  model,
  viewChild,
  viewChildren,
  type TemplateRef,
} from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { RouterLink } from '@angular/router';
import type { Mover, RippleView } from '@nockwright/contract/promise';
import { Session } from '../access';
import { AmountPipe, Compared, DayPipe, Keys } from '../paper';
import { MoveRow, rulerScale } from '../ruler';
import { moveInWords, rippleInWords, toneOf } from './ripple-words';

const RULER = 180;

interface MoverRow {
  readonly mover: Mover;
  /** The part that moves; the mover is named beside the first of its parts. */
  readonly part: Mover['moves'][number];
  readonly first: boolean;
  readonly kind: 'later' | 'earlier' | 'offer';
}

/**
 * Before a change is done: whose promises it moves, as rows on the sheet with an arrow from day to day, worst first; and
 * what it frees for whom. The gloss keeps the sum, and what to say to the one that is looked at.
 */
@Component({
  selector: 'nock-ripple',
  imports: [NgTemplateOutlet, RouterLink, MatCheckbox, AmountPipe, DayPipe, MoveRow],
  templateUrl: './ripple.html',
  styleUrl: './ripple.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Ripple {
  private readonly session = inject(Session);
  private readonly compared = inject(Compared);
  protected readonly currency = this.session.currency;
  readonly ripple = input.required<RippleView>();
  /** The lines whose offers are taken. */
  readonly accepted = model<readonly number[]>([]);

  private readonly template = viewChild.required<TemplateRef<unknown>>('rows');
  private readonly movers = viewChildren<string, ElementRef<HTMLTableRowElement>>('row', { read: ElementRef });
  protected readonly elsewhere = computed(() => this.compared.hasSheet());
  protected readonly words = computed(() => rippleInWords(this.ripple(), this.currency()));
  protected readonly taken = computed(() => new Set(this.accepted()));
  protected readonly all = computed((): readonly MoverRow[] => {
    const { later, earlier, offers } = this.ripple();
    const rows = (movers: readonly Mover[], kind: MoverRow['kind']) =>
      movers.flatMap((mover) => mover.moves.map((part, at): MoverRow => ({ mover, part, first: at === 0, kind })));
    return [...rows(later, 'later'), ...rows(earlier, 'earlier'), ...rows(offers, 'offer')];
  });
  /** The one whose sentence the gloss shows: the worst, until another is looked at. */
  protected readonly at = linkedSignal({ source: this.ripple, computation: () => 0 });
  protected readonly current = computed(() => this.all()[this.at()]?.mover ?? null);
  protected readonly scale = computed(() =>
    rulerScale(
      this.session.today(),
      this.all().flatMap(({ part }) => [...(part.from ? [part.from] : []), ...(part.to ? [part.to] : [])]),
      RULER,
    ),
  );
  protected readonly move = moveInWords;
  protected readonly tone = toneOf;

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+M', does: 'to the promises that move', run: () => this.focusRow(this.at()) }]);
    effect((onCleanup) => {
      if (this.elsewhere()) onCleanup(this.compared.show(this.template()));
    });
  }

  /** What stands above a row where another kind begins. */
  protected heading(at: number): string | null {
    const [row, before] = [this.all()[at]!, this.all()[at - 1]];
    return row.kind === before?.kind ? null : HEADINGS[row.kind];
  }

  protected key(event: KeyboardEvent, at: number): void {
    if (event.target !== event.currentTarget) return;
    const to = event.key === 'ArrowDown' ? at + 1 : event.key === 'ArrowUp' ? at - 1 : null;
    if (to === null || !this.focusRow(to)) return;
    event.preventDefault();
    event.stopPropagation();
  }

  private focusRow(at: number): boolean {
    const row = this.movers()[at];
    row?.nativeElement.focus();
    return row !== undefined;
  }

  protected take(line: number, yes: boolean): void {
    this.accepted.update((lines) => (yes ? [...lines, line] : lines.filter((other) => other !== line)));
  }

  protected takeAll(): void {
    this.accepted.update((lines) => [...new Set([...lines, ...this.ripple().offers.map((row) => row.line)])]);
  }
}

const HEADINGS = {
  later: 'Moves later',
  earlier: 'Moves earlier',
  offer: 'Available for backorders and late promises, in their sequence',
} as const;
