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
  template: `
    <nock-sheet>
      <ng-container sheet>
        <h1>Plan</h1>
        <h2>Free goods for backorders and late promises</h2>
        @if (store.offers(); as offers) {
          @if (offers.offers.length === 0 && taken().length === 0) {
            <p class="quiet">Nothing is free that anybody waits for: every promise is as early as the sequence allows.</p>
          } @else {
            <p>
              {{ offers.count + '' | amount }} {{ offers.count === 1 ? 'promise' : 'promises' }} could be made or move earlier, and no promise moves later.
              Choose those you will call.
            </p>
            <nock-mover-rows
              label="Free goods"
              [groups]="free()"
              [choosable]="maySell() ? linesOf(candidates()) : []"
              [chosen]="taken()"
              (toggled)="take($event)"
              (looked)="looked.set($event)"
            />
            @if (offers.count > offers.offers.length) {
              <button mat-button type="button" (click)="store.showMore()">Show more of the {{ offers.count + '' | amount }}</button>
            }
          }
        } @else {
          <p class="quiet" role="status">Looking for free goods …</p>
        }

        <h2 class="second">Re-promise all orders</h2>
        @let run = store.run();
        @if (!run) {
          <p class="quiet">Promises every open line again, in the sequence of orders. Nothing moves until you accept it.</p>
        } @else if (run.state === 'running') {
          <p role="status">
            Promising {{ run.total > 0 ? run.done + ' of ' + run.total + ' groups of items' : 'the book' }} … You can go on working and come back.
          </p>
          <mat-progress-bar [mode]="run.total > 0 ? 'determinate' : 'indeterminate'" [value]="run.total > 0 ? (100 * run.done) / run.total : 0" />
        } @else if (run.before && run.after) {
          <p>{{ run.state === 'accepted' ? 'Accepted. ' : '' }}{{ summary() }}</p>
          <nock-lateness-table [run]="run" />
          @if (moving() > 0) {
            <nock-mover-rows
              label="Promises that would move"
              [groups]="movers()"
              [choosable]="run.state === 'done' && maySell() ? linesOf(run.ripple.earlier) : []"
              [chosen]="chosen()"
              (toggled)="chooseLine($event)"
              (looked)="looked.set($event)"
            />
          }
        } @else {
          <p>{{ run.message || 'The last run has no result.' }}</p>
        }
      </ng-container>
      <ng-container gloss>
        @if (chosen().length > 0) {
          <h2>{{ chosen().length === 1 ? 'If only this promise moves' : 'If only these ' + chosen().length + ' promises move' }}</h2>
          @if (choice.shown(); as effect) {
            <nock-ripple [ripple]="effect" />
          } @else {
            <p class="quiet" role="status">{{ choice.fault() || 'Working it out …' }}</p>
          }
        } @else if (taken().length > 0 && store.offers()) {
          <h2>What you choose</h2>
          <nock-ripple [ripple]="shownOffers()" />
        } @else {
          @if (looked(); as mover) {
            <nock-say-to [mover]="mover" />
          }
          <h2 class="ways">Two ways to plan better</h2>
          <p>
            Free goods came back by a cancellation, a receipt over or a count. No promise moves later. Space chooses a row, Ctrl Enter promises what is chosen
            and notes the calls.
          </p>
          <p>
            Re-promise all orders follows the sequence: priority first, then when the order was entered. It can move many promises, so it is looked at first.
            Accept all, choose those that move earlier and see whose promises just that moves, or leave it.
          </p>
          <h3>Confidence</h3>
          <nock-desk-confidence />
          <nock-route-policy />
        }
      </ng-container>
      <ng-container acts>
        @if (maySell()) {
          @if (taken().length > 0) {
            <button mat-flat-button type="button" (click)="acceptOffers()" [disabled]="store.busy()">
              {{ taken().length === 1 ? 'Promise this line' : 'Promise these ' + taken().length + ' lines' }} <kbd>Ctrl Enter</kbd>
            </button>
            <button mat-button type="button" (click)="taken.set([])">Choose none <kbd>Esc</kbd></button>
          } @else if (chosen().length > 0) {
            <button mat-flat-button type="button" (click)="acceptChosen()" [disabled]="store.busy() || choice.shown() === null">
              {{ chosen().length === 1 ? 'Move this promise' : 'Move these ' + chosen().length + ' promises' }} <kbd>Ctrl Enter</kbd>
            </button>
            <button mat-button type="button" (click)="chosen.set([])">Choose none <kbd>Esc</kbd></button>
          } @else if (store.run()?.state === 'running') {
            <button mat-flat-button type="button" (click)="store.stop(store.run()!.id)" [disabled]="store.busy()">Stop <kbd>Ctrl Enter</kbd></button>
          } @else {
            <button mat-flat-button type="button" (click)="store.start()" [disabled]="store.busy()">Re-promise all orders <kbd>Ctrl Enter</kbd></button>
            @if (movable()) {
              <button mat-button type="button" (click)="acceptAll()" [disabled]="store.busy()">Accept all <kbd>A</kbd></button>
            }
          }
        }
        <p class="said" role="alert">{{ store.fault() }}</p>
      </ng-container>
    </nock-sheet>
  `,
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
