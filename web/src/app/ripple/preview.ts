import { computed, DestroyRef, inject, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, map, merge, of, Subject, switchMap, type Observable } from 'rxjs';
import { linesHurt, movesNobody, type Effect } from './ripple-words';

const TYPING_MS = 80;

/** Something to be done once the effect of a wish is known. */
interface Waiting<W, E> {
  readonly wish: W | null;
  readonly shown: E | null;
  readonly act: (effect: E) => void;
}

/**
 * What a form would do, asked anew with every change of what it asks for. It goes on showing the last answer while a newer one
 * is reckoned, but only the answer to what stands in the form now is acted on, and only once it was there to be seen.
 */
export class Preview<W, E extends Effect> {
  private readonly answer = signal<{ readonly wish: W | null; readonly effect: E | null } | null>(null);
  private readonly again = new Subject<void>();
  private waiting: Waiting<W, E> | null = null;

  /** What is to be shown; null while nothing is known, or nothing asked. */
  readonly shown: Signal<E | null> = computed(() => (this.wish() === null ? null : (this.answer()?.effect ?? null)));
  /** The answer to what is asked now; null while it is not known. */
  readonly known: Signal<E | null> = computed(() => (this.answer()?.wish === this.wish() ? this.shown() : null));
  /** There is something to be reckoned. */
  readonly asks = computed(() => this.wish() !== null);
  /** What is shown is not the answer to what is asked now. */
  readonly reckoning = computed(() => this.wish() !== null && this.answer()?.wish !== this.wish());
  /** Why the form cannot be done, told by the server or the form itself; forgotten with the next wish. */
  readonly fault = signal('');

  /**
   * To be made while a component is made; ends with it.
   * @param wish what is asked for, the same as long as nothing of it changes; null: nothing yet
   * @param ask reckons it
   * @param nothingToSee an answer that may be acted on unseen: it moves nobody
   */
  constructor(
    private readonly wish: Signal<W | null>,
    ask: (wish: W) => Observable<E>,
    private readonly nothingToSee: (effect: E) => boolean = movesNobody,
  ) {
    merge(toObservable(wish), this.again.pipe(map(() => wish())))
      .pipe(
        debounceTime(TYPING_MS),
        switchMap((asked) => {
          this.fault.set(this.waiting?.wish === asked ? RECKONING : '');
          if (asked === null) return of({ wish: asked, effect: null });
          return ask(asked).pipe(
            map((effect) => ({ wish: asked, effect })),
            catchError((error: Error) => {
              this.waiting = null;
              this.fault.set(error.message);
              return of({ wish: asked, effect: null });
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        this.answer.set(answer);
        this.goOn();
      });
    inject(DestroyRef).onDestroy(() => (this.waiting = null));
  }

  /**
   * Does something with the effect of what stands in the form: at once where it is known; else as soon as it is, if it is the
   * one that was shown or there is nothing to see in it, and nothing else was typed meanwhile. What could not be reckoned is asked again.
   */
  once(act: (effect: E) => void): void {
    const [wish, known] = [this.wish(), this.known()];
    if (wish === null) return;
    if (known !== null) return act(known);
    this.waiting = { wish, shown: this.shown(), act };
    this.fault.set(RECKONING);
    if (!this.reckoning()) this.again.next();
  }

  /** The same with the lines it makes later, as the board is asked for them; where it hurts nobody nothing is done. */
  onceHurt(act: (lines: string) => void): void {
    this.once((effect) => {
      const lines = linesHurt(effect);
      if (lines === '') this.fault.set('No promise moves later now: Ctrl Enter does it.');
      else act(lines);
    });
  }

  private goOn(): void {
    const [waiting, effect] = [this.waiting, this.known()];
    this.waiting = null;
    if (!waiting || effect === null || waiting.wish !== this.wish()) return;
    const seen = JSON.stringify(waiting.shown) === JSON.stringify(effect);
    this.fault.set(seen || this.nothingToSee(effect) ? '' : 'The effect is known now: look at it, then press again.');
    if (this.fault() === '') waiting.act(effect);
  }
}

const RECKONING = 'Computing which promises move …';
