import { inject, Injectable, signal } from '@angular/core';
import { mailRoutes } from '@nockwright/contract/mail';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { letterFor, releaseDifferences, type Difference } from '@nockwright/core/orders';
import { concatMap, from, of, Subject, takeUntil, type Observable, catchError, map, throwError } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { seenOf } from '../order-store';

export type ManyAct = 'release' | 'hold' | 'mail';

/** What became of an order among many. */
export interface Outcome {
  readonly id: number;
  readonly label: string;
  /** Why it was not done; empty where it was. */
  readonly why: string;
  /** In what its promise is not as requested: it is done only when somebody has seen that. */
  readonly differs?: readonly Difference[];
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
  /** Orders as they were shown with what differs: they are released as seen, or not at all. */
  private readonly shown = new Map<number, OrderView>();

  /** `why`: what orders that are held wait for. */
  start(act: ManyAct, ids: readonly number[], why = ''): void {
    if (this.run()?.running || ids.length === 0) return;
    this.shown.clear();
    this.run.set({ act, total: ids.length, outcomes: [], running: true });
    this.each(ids, (id) => this.one(act, id, why));
  }

  /** Releases orders whose promise is not as requested, as that was shown. */
  releaseSeen(ids: readonly number[]): void {
    if (this.run()?.running) return;
    this.run.update((run) => run && { ...run, running: true, outcomes: run.outcomes.filter(({ id }) => !ids.includes(id)) });
    this.each(ids, (id) => {
      const order = this.shown.get(id)!;
      const label = labelOf(order);
      return this.release(order).pipe(
        map((why): Outcome => ({ id, label, why })),
        catchError((error: Error) => of({ id, label, why: error.message })),
      );
    });
  }

  private each(ids: readonly number[], act: (id: number) => Observable<Outcome>) {
    from(ids)
      .pipe(concatMap(act), takeUntil(this.stopped))
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
        label = labelOf(order);
        // Of what is no draft any more nothing is asked: the act says why it cannot be done.
        const asks = act === 'release' && order.kind === 'order' && order.state === 'draft';
        const differs = asks ? releaseDifferences(order.lines) : [];
        if (differs.length === 0) return this.act(act, order, why).pipe(map((refused): Outcome => ({ id, label, why: refused })));
        this.shown.set(id, order);
        return of<Outcome>({ id, label, why: '', differs });
      }),
      catchError((error: Error) => of({ id, label, why: error.message })),
    );
  }

  /** Emits why it was not done, or nothing. */
  private act(act: ManyAct, order: OrderView, why: string): Observable<string> {
    const params = { order: order.id };
    const { version } = order;
    if (act === 'hold') return this.api.call(orderRoutes.holdOrder, { params, body: { version, why } }).pipe(map(() => ''));
    if (act === 'release') return order.kind === 'quote' ? refuse('a quote is sent from its own sheet') : this.release(order);
    const paper = order.papers[0];
    if (!paper) return refuse('it has no paper yet');
    if (!order.customer.email) return refuse('no mail address is known');
    const { session } = this;
    const letter = letterFor(
      { ...order, kind: paper.kind, contact: order.customer.contact, by: session.user()?.name ?? '', firm: session.firm() },
      session.today(),
    );
    return this.api
      .call(mailRoutes.mailPaper, { params, body: { paper: paper.id, recipients: [order.customer.email], files: [], ...letter } })
      .pipe(map(() => ''));
  }

  private release(order: OrderView): Observable<string> {
    return this.api.call(orderRoutes.releaseOrder, { params: { order: order.id }, body: { version: order.version, seen: seenOf(order) } }).pipe(
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
}

function labelOf(order: OrderView): string {
  return order.number ?? `draft ${order.id}`;
}

function refuse(why: string): Observable<never> {
  return throwError(() => new Error(why));
}
