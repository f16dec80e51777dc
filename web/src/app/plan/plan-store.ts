import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { promiseRoutes, type Decision, type OffersView, type ResequenceRun, type RippleView } from '@nockwright/contract/promise';
import { BehaviorSubject, catchError, combineLatest, EMPTY, finalize, of, Subject, switchMap, takeWhile, timer, type Observable } from 'rxjs';
import { Api, type ProblemError } from '../api';
import { Live } from '../live';

const POLL_MS = 500;
/** Offers that are drawn at first. */
const PAGE = 60;

/** What could be planned better: goods that are free for those who wait, and the whole book promised anew. */
@Injectable()
export class PlanStore {
  private readonly api = inject(Api);
  private readonly again = new Subject<void>();
  private readonly accept = new BehaviorSubject<readonly number[]>([]);
  private readonly most = new BehaviorSubject(PAGE);
  private readonly watched = new Subject<void>();

  readonly fault = signal('');
  readonly busy = signal(false);
  readonly offers = signal<OffersView | null>(null);
  readonly run = signal<ResequenceRun | null>(null);

  constructor() {
    const live = inject(Live);
    live
      .kept(
        () =>
          combineLatest([this.accept, this.most]).pipe(
            switchMap(([lines, most]) =>
              this.api.call(promiseRoutes.listOffers, { query: { accept: lines.join(','), most } }).pipe(catchError((error: Error) => this.fail(error))),
            ),
          ),
        (topic) => topic.startsWith('item:'),
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe((offers) => this.offers.set(offers));
    // While a run is under way its progress is asked for.
    live
      .kept(
        () => of(undefined),
        (topic) => topic.startsWith('run:'),
        this.watched,
      )
      .pipe(
        switchMap(() =>
          timer(0, POLL_MS).pipe(
            switchMap(() => this.api.call(promiseRoutes.readResequence).pipe(catchError((error: Error) => this.fail(error)))),
            takeWhile((run) => run?.state === 'running', true),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((run) => this.run.set(run));
  }

  /** Shows some offers as done. */
  choose(lines: readonly number[]): void {
    this.accept.next(lines);
  }

  showMore(): void {
    this.most.next(this.most.value + PAGE);
  }

  acceptOffers(decision: Decision, done: () => void): void {
    this.do(this.api.call(promiseRoutes.acceptOffers, { body: { decision } }), () => {
      this.accept.next([]);
      done();
    });
  }

  start(): void {
    this.do(this.api.call(promiseRoutes.startResequence, { body: {} }), () => this.watched.next());
  }

  stop(run: number): void {
    this.do(this.api.call(promiseRoutes.stopResequence, { params: { run }, body: {} }), () => this.watched.next());
  }

  previewChoice(run: number, lines: readonly number[]): Observable<RippleView> {
    return this.api.call(promiseRoutes.previewChoice, { params: { run }, query: { lines: lines.join(',') } });
  }

  acceptRun(run: number, choice: { readonly lines: readonly number[]; readonly decision: Decision } | 'all', done: () => void): void {
    const body = choice === 'all' ? { all: true, lines: [] } : { all: false, ...choice };
    this.do(this.api.call(promiseRoutes.acceptResequence, { params: { run }, body }), () => {
      this.watched.next();
      done();
    });
  }

  private do(command: Observable<unknown>, done: () => void) {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    command.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: done,
      error: (error: ProblemError) => {
        this.fault.set(error.message);
        if (error.status !== 409) return;
        this.again.next();
        this.watched.next();
      },
    });
  }

  private fail(error: Error) {
    this.fault.set(error.message);
    return EMPTY;
  }
}
