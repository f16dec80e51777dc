import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, linkedSignal, output, viewChildren } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { RouterLink } from '@angular/router';
import type { Mover } from '@nockwright/contract/promise';
import { Session } from '../access';
import { AmountPipe, DayPipe, widthOf } from '../paper';
import { MoveRow, rulerScale } from '../ruler';
import { moveInWords, toneOf } from './ripple-words';

/** Movers under one heading, in the sequence they are shown. */
export interface MoverGroup {
  readonly heading: string | null;
  readonly movers: readonly Mover[];
}

interface MoverRow {
  readonly mover: Mover;
  /** The part that moves; the mover is named beside the first of its parts. */
  readonly part: Mover['moves'][number];
  readonly first: boolean;
  /** What stands above the row. */
  readonly heading: string | null;
}

const AT_ONCE = 200;
/** What the other columns take, and the least a customer's name needs. */
const BESIDE = 790;
const [NARROWEST, WIDEST] = [150, 420];

/**
 * Promises that move, or could: a row a part, with an arrow on one ruler from its old day to its new one. Arrow keys go from row
 * to row; where a mover can be chosen, Space does.
 */
@Component({
  selector: 'nock-mover-rows',
  imports: [RouterLink, MatButton, MatCheckbox, AmountPipe, DayPipe, MoveRow],
  templateUrl: './mover-rows.html',
  styleUrl: './mover-rows.css',
  host: { '[class.choosable]': 'choosable().length > 0' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoverRows {
  private readonly session = inject(Session);
  readonly groups = input.required<readonly MoverGroup[]>();
  readonly label = input.required<string>();
  /** The lines that can be chosen, and those that are. */
  readonly choosable = input<readonly number[]>([]);
  readonly chosen = input<readonly number[]>([]);
  readonly toggled = output<number>();
  /** The mover that is looked at: the first until another is. */
  readonly looked = output<Mover | null>();

  protected readonly currency = this.session.currency;
  protected readonly more = AT_ONCE;
  private readonly all = computed(() =>
    this.groups().flatMap(({ heading, movers }) =>
      movers.flatMap((mover, nth) => mover.moves.map((part, at): MoverRow => ({ mover, part, first: at === 0, heading: nth + at === 0 ? heading : null }))),
    ),
  );
  /** Thousands of rows are drawn as they are asked for. */
  protected readonly limit = linkedSignal({ source: () => this.all().length, computation: () => AT_ONCE });
  protected readonly rows = computed(() => this.all().slice(0, this.limit()));
  protected readonly hidden = computed(() => this.all().length - this.rows().length);
  protected readonly at = linkedSignal({ source: this.groups, computation: () => 0 });
  protected readonly mayChoose = computed(() => new Set(this.choosable()));
  protected readonly isChosen = computed(() => new Set(this.chosen()));
  private readonly width = widthOf(1000);
  protected readonly scale = computed(() =>
    rulerScale(
      this.session.today(),
      this.rows().flatMap(({ part }) => [...(part.from ? [part.from] : []), ...(part.to ? [part.to] : [])]),
      Math.min(WIDEST, Math.max(NARROWEST, this.width() - BESIDE)),
    ),
  );
  protected readonly move = moveInWords;
  protected readonly tone = toneOf;
  private readonly elements = viewChildren<string, ElementRef<HTMLTableRowElement>>('row', { read: ElementRef });

  constructor() {
    effect(() => this.looked.emit(this.rows()[this.at()]?.mover ?? null));
  }

  /** Puts the focus on the row that is looked at. */
  focus(): void {
    this.focusRow(this.at());
  }

  protected look(at: number): void {
    this.at.set(at);
    this.looked.emit(this.rows()[at]!.mover);
  }

  protected key(event: KeyboardEvent, at: number): void {
    if (event.target !== event.currentTarget || event.ctrlKey) return;
    const { line } = this.rows()[at]!.mover;
    if ((event.key === ' ' || event.key === 'Enter') && this.mayChoose().has(line)) this.toggled.emit(line);
    else if (event.key === 'ArrowDown') this.focusRow(at + 1);
    else if (event.key === 'ArrowUp') this.focusRow(at - 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private focusRow(at: number): void {
    this.elements()[at]?.nativeElement.focus();
  }
}
