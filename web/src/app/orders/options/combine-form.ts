import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
  viewChildren,
  type TemplateRef,
} from '@angular/core';
import { toObservable, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { OrderView } from '@nockwright/contract/orders';
import type { Combinations, CombinationView } from '@nockwright/contract/shortages';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Session } from '../../access';
import { AmountPipe, Compared, DayPipe, GlossForm, Keys, Spoken } from '../../paper';
import { RulerHead, RulerRow, rulerScale, type RulerPart } from '../../ruler';
import { lateWords } from '../../shortages';
import { LineRouting } from '../line-routing';
import { OrderStore } from '../order-store';
import { againstWords, nameOf, resultWords, sayCombination } from './combination-words';

const RULER = 260;

/**
 * All short lines of an order given their options in one act: each combination a row on the sheet, with its days on the
 * ruler and what the order comes to by it; the gloss says what the one that is looked at does, line by line.
 */
@Component({
  selector: 'nock-combine-form',
  imports: [AmountPipe, DayPipe, GlossForm, Spoken, RulerHead, RulerRow],
  templateUrl: './combine-form.html',
  styleUrl: './combine-form.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CombineForm {
  protected readonly store = inject(OrderStore);
  private readonly routing = inject(LineRouting);
  private readonly session = inject(Session);
  private readonly compared = inject(Compared);
  readonly order = input.required<OrderView>();
  readonly closed = output<void>();

  private readonly template = viewChild.required<TemplateRef<unknown>>('table');
  private readonly combinationRows = viewChildren<string, ElementRef<HTMLTableRowElement>>('choice', { read: ElementRef });
  private readonly found = signal<Combinations | null>(null);
  protected readonly today = computed(() => this.session.today());
  /** Those for the order as it stands: while they are fetched there are none to take. */
  protected readonly rows = computed(() => (this.found()?.version === this.order().version ? this.found()!.rows : []));
  protected readonly waiting = computed(() => this.found()?.version !== this.order().version);
  protected readonly at = linkedSignal({ source: this.rows, computation: () => 0 });
  protected readonly current = computed((): CombinationView | null => this.rows()[this.at()] ?? null);
  protected readonly result = computed(() => resultWords(this.current()!, this.today()));
  /** Against the best of the others. */
  protected readonly against = computed(() => {
    const other = this.rows().find((_, at) => at !== this.at());
    return other ? againstWords(this.current()!, other, this.order().currency) : '';
  });
  protected readonly say = computed(() => sayCombination(this.order(), this.current()!, this.today()));
  protected readonly scale = computed(() =>
    rulerScale(this.today(), [this.order().requestedDay, ...this.rows().flatMap((row) => this.partsOf(row).map(({ day }) => day))], RULER),
  );
  protected readonly name = nameOf;
  protected readonly late = lateWords;

  constructor() {
    toObservable(computed(() => ({ id: this.order().id, version: this.order().version })))
      .pipe(
        switchMap(() => this.routing.combinations().pipe(catchError((error: Error) => (this.store.fault.set(error.message), EMPTY)))),
        takeUntilDestroyed(),
      )
      .subscribe((found) => this.found.set(found));
    inject(Keys).use([
      { key: 'Ctrl+M', does: 'to the combinations', run: () => this.focus(this.at()) },
      ...Array.from({ length: 4 }, (_, at) => ({ key: String(at + 1), does: `take combination ${at + 1}`, run: () => this.take(at) })),
    ]);
    effect((onCleanup) => onCleanup(this.compared.show(this.template())));
  }

  /** How many lines leave on which day by it. */
  protected partsOf({ rows, complete, lastDay }: CombinationView): readonly RulerPart[] {
    const byDay = new Map<string, number>();
    for (const { route, asks } of rows) {
      const day = complete ? lastDay : (route?.shipDay ?? null);
      if (day !== null && route !== null && !asks) byDay.set(day, (byDay.get(day) ?? 0) + 1);
    }
    return [...byDay].sort().map(([day, lines]) => ({ day, quantity: String(lines), kept: true, dropShip: false, arrives: null, broken: false }));
  }

  protected take(at: number): boolean {
    const row = this.rows()[at];
    if (!row || this.store.busy() || row.rows.every(({ route, asks }) => route === null || asks)) return false;
    this.routing.routeOrder(this.found()!.version, row, () => this.closed.emit());
    return true;
  }

  protected key(event: KeyboardEvent, at: number): void {
    if (event.target !== event.currentTarget || event.ctrlKey) return;
    if (event.key === 'ArrowDown') this.focus(at + 1);
    else if (event.key === 'ArrowUp') this.focus(at - 1);
    else if (event.key === 'Enter') this.take(at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private focus(at: number): boolean {
    this.combinationRows()[at]?.nativeElement.focus();
    return true;
  }
}
