import { inject, Injectable, signal } from '@angular/core';
import { mailRoutes } from '@nockwright/contract/mail';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { letterFor } from '@nockwright/core/orders';
import { concatMap, from, of, Subject, takeUntil, type Observable, catchError, map, throwError } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { seenOf } from '../order-store';

export type ManyAct = 'release' | 'hold' | 'mail';

/** What became of an order among many. */
interface Outcome {
  readonly id: number;
  readonly label: string;
  /** Why it was not done; empty where it was. */
  readonly why: string;
}

export interface ManyRun {
  readonly act: ManyAct;
  readonly total: number;
  readonly outcomes: readonly Outcome[];
  readonly running: boolean;
}

/**
 * Does the same with many orders, one after the other: each is done whole or not at all, and says why not. It can be
 * stopped between two of them.
 */
@Injectable()
export class ManyActs {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly stopped = new Subject<void>();
  readonly run = signal<ManyRun | null>(null);

  /** `why`: what orders that are held wait for. */
  start(act: ManyAct, ids: readonly number[], why = ''): void {
    if (this.run()?.running || ids.length === 0) return;
    this.run.set({ act, total: ids.length, outcomes: [], running: true });
    from(ids)
      .pipe(
        concatMap((id) => this.one(act, id, why)),
        takeUntil(this.stopped),
      )
      .subscribe({
        next: (outcome) => this.run.update((run) => run && { ...run, outcomes: [...run.outcomes, outcome] }),
        complete: () => this.run.update((run) => run && { ...run, running: false }),
      });
  }

  stop(): void {
    this.stopped.next();
  }

  clear(): void {
    if (!this.run()?.running) this.run.set(null);
  }

  private one(act: ManyAct, id: number, why: string): Observable<Outcome> {
    let label = `order ${id}`;
    return this.api.call(orderRoutes.readOrder, { params: { order: id } }).pipe(
      concatMap((order) => {
        label = order.number ?? `draft ${id}`;
        return this.act(act, order, why);
      }),
      map((refused): Outcome => ({ id, label, why: refused })),
      catchError((error: Error) => of({ id, label, why: error.message })),
    );
  }

  /** Emits why it was not done, or nothing. */
  private act(act: ManyAct, order: OrderView, why: string): Observable<string> {
    const params = { order: order.id };
    const { version } = order;
    if (act === 'hold') return this.api.call(orderRoutes.holdOrder, { params, body: { version, why } }).pipe(map(() => ''));
    if (act === 'release') {
      if (order.kind === 'quote') return refuse('a quote is sent from its own sheet');
      return this.api.call(orderRoutes.releaseOrder, { params, body: { version, seen: seenOf(order) } }).pipe(
        map((released) =>
          released.state === 'released'
            ? ''
            : `held: ${released.holds
                .filter((hold) => !hold.cleared)
                .map((hold) => hold.why)
                .join('; ')}`,
        ),
      );
    }
    const paper = order.papers[0];
    if (!paper) return refuse('it has no paper yet');
    if (!order.customer.email) return refuse('no mail address is known');
    const letter = letterFor({ ...order, kind: paper.kind, contact: order.customer.contact, by: this.session.user()?.name ?? '' }, this.session.today());
    return this.api
      .call(mailRoutes.mailPaper, { params, body: { paper: paper.id, recipients: [order.customer.email], files: [], ...letter } })
      .pipe(map(() => ''));
  }
}

function refuse(why: string): Observable<never> {
  return throwError(() => new Error(why));
}
