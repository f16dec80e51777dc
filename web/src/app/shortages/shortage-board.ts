import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatPseudoCheckbox } from '@angular/material/core';
import { Router, RouterLink } from '@angular/router';
import type { PlannedRoute, ShortageRow } from '@nockwright/contract/shortages';
import { Session } from '../access';
import {
  AmountPipe,
  DayPipe,
  FilterField,
  Keys,
  ListChoice,
  PricePipe,
  rowKey,
  Sheet,
  StateMark,
  UnitPipe,
  wordOf,
  type CoverState,
  CustomerName,
} from '../paper';
import { RulerHead, RulerRow, rulerScale } from '../ruler';
import { GROUP_CHOICES, groupsOf, type Group } from './board-groups';
import { BoardStore, PAGE } from './board-store';
import { PlanGloss } from './plan-gloss';
import { PlannedRow } from './planned-row';
import { lateWords } from './route-words';

const RULER = 170;

/** What is owed and has no cover, or late cover: grouped, filtered as typed, chosen, and routed in one act. */
@Component({
  selector: 'nock-shortage-board',
  imports: [
    CustomerName,
    FilterField,
    ListChoice,
    MatButton,
    MatPseudoCheckbox,
    RouterLink,
    AmountPipe,
    DayPipe,
    PricePipe,
    UnitPipe,
    StateMark,
    RulerHead,
    RulerRow,
    Sheet,
    PlanGloss,
    PlannedRow,
  ],
  providers: [BoardStore],
  templateUrl: './shortage-board.html',
  styleUrl: './shortage-board.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShortageBoard {
  protected readonly store = inject(BoardStore);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly currency = this.session.currency;
  protected readonly maySell = this.session.maySell;
  readonly q = input<string>();
  readonly by = input<string>();
  /** Only these lines, chosen from the start: whom a change of supply hurts. */
  readonly lines = input<string>();

  protected readonly page = PAGE;
  protected readonly groupings = GROUP_CHOICES;
  protected readonly grouped = computed(() => wordOf(GROUP_CHOICES, this.by()));
  protected readonly most = signal(PAGE);
  protected readonly today = computed(() => this.session.today());
  protected readonly only = computed(() => (this.lines() ? new Set(this.lines()!.split(',').map(Number)) : null));
  protected readonly groups = computed((): readonly Group[] => groupsOf(this.store.short().rows, this.grouped(), this.today()));
  /** What is planned for a line stands under the first of its rows. */
  private readonly planned = computed(() => {
    const plans = new Map((this.store.plan()?.rows ?? []).map((row) => [row.line, row]));
    const under = new Map<ShortageRow, PlannedRoute>();
    for (const row of this.groups().flatMap((group) => group.rows)) {
      const plan = plans.get(row.line);
      if (plan) under.set(row, plan);
      plans.delete(row.line);
    }
    return under;
  });
  protected readonly plannedUnder = (row: ShortageRow) => this.planned().get(row);
  protected readonly scale = computed(() =>
    rulerScale(
      this.today(),
      [
        ...this.store.short().rows.flatMap((row) => [row.requested, ...(row.possibleDay ? [row.possibleDay] : [])]),
        ...(this.store.plan()?.rows ?? []).flatMap((row) => row.route?.shipDay ?? []),
      ],
      RULER,
    ),
  );

  constructor() {
    let begun: string | undefined;
    effect(() => this.store.filter.set({ q: this.q() ?? '', only: this.lines() ?? '', most: this.most() }));
    effect(() => {
      const only = this.only();
      if (only === null || !this.store.loaded() || begun === this.lines()) return;
      const known = this.store.short().lines;
      // What was looked at before may still stand here.
      if (!known.every((line) => only.has(line))) return;
      begun = this.lines();
      untracked(() => this.store.choose(known));
    });
    inject(Keys).use([
      { key: 'A', does: 'choose all that the filter finds', run: () => this.all() },
      { key: 'Ctrl+Enter', does: 'route the lines that are chosen', run: () => this.maySell() && this.store.route() },
      { key: 'Escape', does: 'choose none', run: () => this.leave() },
    ]);
  }

  protected go(queryParams: Readonly<Record<string, string | null>>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected open(row: ShortageRow): void {
    void this.router.navigate(['/orders', row.order], { queryParams: { at: row.line } });
  }

  protected key(event: KeyboardEvent, row: ShortageRow): void {
    if (event.key === ' ' && event.target === event.currentTarget) {
      event.preventDefault();
      this.store.turn([row.line]);
    } else rowKey(event, () => this.open(row));
  }

  protected groupKey(event: KeyboardEvent, group: Group): void {
    if (event.key === ' ') {
      event.preventDefault();
      this.store.turn(group.lines);
    } else rowKey(event, () => this.store.turn(group.lines));
  }

  protected isChosen(lines: readonly number[]): boolean {
    return lines.every((line) => this.store.chosen().has(line));
  }

  protected all(): void {
    this.store.choose(this.store.short().lines);
  }

  private leave(): boolean {
    if (this.store.outcome()) this.store.outcome.set(null);
    else if (this.store.chosen().size > 0) this.store.choose([]);
    else return false;
    return true;
  }

  protected stateOf(row: ShortageRow): CoverState {
    return row.kind === 'late' || (row.kind === 'waiting' && row.possibleDay !== null) ? 'late' : 'uncovered';
  }

  protected words(row: ShortageRow): string {
    if (row.kind === 'broken') return 'lost its supply';
    if (row.kind === 'waiting') return row.possibleDay ? 'can be promised' : 'backordered';
    return lateWords(row.daysLate ?? 0);
  }

  protected daysOf(row: ShortageRow) {
    return row.possibleDay
      ? [{ day: row.possibleDay, quantity: row.quantity, kept: row.kind !== 'waiting', dropShip: row.dropShip, arrives: null, broken: false }]
      : [];
  }
}
