import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { Mover } from '@nockwright/contract/promise';
import { Session } from '../access';
import { AmountPipe, Keys, Sheet } from '../paper';
import { decisionOf, MoverRows, Preview, Ripple, rippleInWords, SayTo, type MoverGroup } from '../ripple';
import { DeskConfidence } from './desk-confidence';
import { RoutePolicy } from './route-policy';
import { LatenessTable } from './lateness-table';
import { PlanStore } from './plan-store';

/**
 * Planning beyond one order: goods that are free for those who wait, to be accepted one by one; and the whole book
 * promised anew in the sequence of orders, to be accepted whole, in part or not at all.
 */
@Component({
  selector: 'nock-plan-sheet',
  imports: [AmountPipe, DeskConfidence, RoutePolicy, MatButton, MatProgressBar, Sheet, LatenessTable, MoverRows, Ripple, SayTo],
  providers: [PlanStore],
  templateUrl: './plan-sheet.html',
  styles: `
    h1 {
      margin-bottom: 12px;
    }
    .ways {
      margin-top: 16px;
    }
    .second {
      margin-top: 28px;
    }
    p {
      margin: 6px 0;
      max-width: 760px;
    }
    .said {
      margin: 0 0 0 auto;
      color: var(--open);
      font-weight: 600;
      text-align: right;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanSheet {
  protected readonly store = inject(PlanStore);
  private readonly snack = inject(MatSnackBar);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;

  /** Offers that are taken, as the server shows them done. */
  protected readonly taken = signal<readonly number[]>([]);
  protected readonly candidates = computed((): readonly Mover[] => {
    const offers = this.store.offers();
    if (!offers) return [];
    const taken = new Set(this.taken());
    return [...offers.earlier.filter((row) => taken.has(row.line)), ...offers.offers];
  });
  protected readonly free = computed((): readonly MoverGroup[] => [{ heading: null, movers: this.candidates() }]);
  protected readonly linesOf = (movers: readonly Mover[]) => movers.map((row) => row.line);
  /** The promise that is looked at. */
  protected readonly looked = signal<Mover | null>(null);
  protected readonly shownOffers = computed(() => ({ ...this.store.offers()!, offers: [] }));

  /** Lines of the run that shall claim their places; forgotten when the run is another or over. */
  protected readonly chosen = linkedSignal<string, readonly number[]>({
    source: () => `${this.store.run()?.id} ${this.store.run()?.state}`,
    computation: () => [],
  });
  /** Those that gain first: they can be chosen. */
  protected readonly movers = computed((): readonly MoverGroup[] => {
    const ripple = this.store.run()?.ripple;
    return [
      { heading: 'Moves earlier', movers: ripple?.earlier ?? [] },
      { heading: 'Moves later', movers: ripple?.later ?? [] },
    ];
  });
  protected readonly moving = computed(() => this.movers().reduce((count, { movers }) => count + movers.length, 0));
  protected readonly movable = computed(() => this.store.run()?.state === 'done' && this.moving() > 0);
  private readonly wish = computed(() => {
    const [run, lines] = [this.store.run(), this.chosen()];
    return run && lines.length > 0 ? { run: run.id, lines } : null;
  });
  protected readonly choice = new Preview(this.wish, ({ run, lines }) => this.store.previewChoice(run, lines));
  protected readonly summary = computed(() => {
    const run = this.store.run();
    if (!run) return '';
    return this.moving() === 0 ? 'Every promise stands where the sequence puts it: nothing would move.' : rippleInWords(run.ripple, this.session.currency());
  });

  constructor() {
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'promise or move what is chosen; start or stop the run', run: () => this.mainAct() },
      { key: 'A', does: 'accept the whole run', run: () => this.acceptAll() },
      { key: 'Escape', does: 'choose none', run: () => this.clear() },
    ]);
  }

  protected take(line: number): void {
    this.taken.update((lines) => toggled(lines, line));
    this.store.choose(this.taken());
  }

  protected chooseLine(line: number): void {
    if (this.store.run()?.state === 'done') this.chosen.update((lines) => toggled(lines, line));
  }

  protected acceptOffers(): void {
    const offers = this.store.offers();
    const lines = this.taken();
    if (!offers) return;
    this.store.acceptOffers(decisionOf(offers, lines), () => {
      this.taken.set([]);
      this.said(lines.length);
    });
  }

  protected acceptChosen(): void {
    const wish = this.wish();
    if (wish === null) return;
    this.choice.once((effect) =>
      this.store.acceptRun(wish.run, { lines: wish.lines, decision: decisionOf(effect, []) }, () => this.said(effect.earlier.length + effect.later.length)),
    );
  }

  protected acceptAll(): boolean {
    const run = this.store.run();
    if (!run || !this.movable() || !this.maySell()) return false;
    this.store.acceptRun(run.id, 'all', () => this.said(run.ripple.earlier.length + run.ripple.later.length));
    return true;
  }

  private mainAct(): boolean {
    if (!this.maySell()) return false;
    const run = this.store.run();
    if (this.taken().length > 0) this.acceptOffers();
    else if (this.chosen().length > 0) this.acceptChosen();
    else if (run?.state === 'running') this.store.stop(run.id);
    else this.store.start();
    return true;
  }

  private clear(): boolean {
    if (this.taken().length + this.chosen().length === 0) return false;
    this.taken.set([]);
    this.store.choose([]);
    this.chosen.set([]);
    return true;
  }

  private said(moved: number) {
    this.snack.open(`${moved} ${moved === 1 ? 'promise has' : 'promises have'} moved. The calls are noted.`, undefined, { duration: 6000 });
  }
}

function toggled(lines: readonly number[], line: number): readonly number[] {
  return lines.includes(line) ? lines.filter((other) => other !== line) : [...lines, line];
}
