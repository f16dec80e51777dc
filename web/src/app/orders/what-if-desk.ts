import { DestroyRef, inject, Injectable } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import type { LineWish, WhatIfResult } from '@nockwright/core/orders';
import {
  BehaviorSubject,
  catchError,
  defer,
  distinctUntilChanged,
  EMPTY,
  filter,
  map,
  merge,
  NEVER,
  Observable,
  of,
  shareReplay,
  Subject,
  switchMap,
  take,
} from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { startWhatIfWorker } from './start-what-if-worker';
import type { WhatIfAnswer, WhatIfQuestion } from './what-if-messages';

/** An item on a draft as it stood at a version. */
interface Looked {
  readonly order: number;
  readonly version: number;
  readonly item: string;
}

type DraftKey = Pick<OrderView, 'id' | 'version'>;

/**
 * Tries lines while they are typed: the server sends the slice of the book that decides about an item once, a worker
 * answers from it as often as a key is struck. When the book changes behind it the slice is fetched anew and what is
 * still asked is answered again.
 */
@Injectable()
export class WhatIfDesk {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly subject = new BehaviorSubject<Looked | null>(null);
  private readonly answers = new Subject<WhatIfAnswer>();
  private worker: Worker | null = null;
  private asked = 0;

  /** What the worker has the slice of; emits each time it gets one, and null while one is fetched. */
  private readonly ready: Observable<Looked | null> = this.subject.pipe(
    distinctUntilChanged(isSame),
    switchMap((subject) => (subject ? merge(of(null), this.slices(subject)) : of(null))),
    shareReplay(1),
  );

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker?.terminate());
    this.ready.pipe(takeUntilDestroyed()).subscribe();
  }

  /** Has the slice of an item fetched, so that it is there when the first quantity is typed. */
  prepare({ id: order, version }: DraftKey, item: string): void {
    this.subject.next({ order, version, item });
  }

  /** A line of an item as it would be, as soon as the slice is there and again whenever the book behind it changes. */
  try(draft: DraftKey, item: string, wish: LineWish): Observable<WhatIfResult> {
    return defer(() => {
      this.prepare(draft, item);
      const subject = this.subject.value;
      return this.ready.pipe(switchMap((there) => (isSame(there, subject) ? this.ask(wish) : NEVER)));
    });
  }

  private slices(subject: Looked): Observable<Looked> {
    const { order, item } = subject;
    let topics = new Set([`item:${item}`]);
    return this.live
      .kept(
        () => this.api.call(orderRoutes.readSlice, { params: { order }, query: { item } }).pipe(catchError(() => EMPTY)),
        (topic) => topics.has(topic),
      )
      .pipe(
        map((slice) => {
          topics = new Set(slice.book.items.map(({ id }) => `item:${id}`));
          this.post({ slice });
          return subject;
        }),
      );
  }

  private ask(wish: LineWish): Observable<WhatIfResult> {
    const ask = ++this.asked;
    const answer = this.answers.pipe(
      filter((reply) => reply.ask === ask),
      take(1),
      map((reply) => reply.result),
    );
    return new Observable((subscriber) => {
      const waiting = answer.subscribe(subscriber);
      this.post({ ask, wish });
      return waiting;
    });
  }

  private post(question: WhatIfQuestion) {
    if (!this.worker) {
      this.worker = startWhatIfWorker();
      this.worker.addEventListener('message', ({ data }: MessageEvent<WhatIfAnswer>) => this.answers.next(data));
    }
    this.worker.postMessage(question);
  }
}

function isSame(a: Looked | null, b: Looked | null): boolean {
  return a?.order === b?.order && a?.version === b?.version && a?.item === b?.item;
}
