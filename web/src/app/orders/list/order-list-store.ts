import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { orderRoutes, type OrderRow } from '@nockwright/contract/orders';
import type { QueryOf } from '@nockwright/contract/shape';
import { catchError, EMPTY, of, Subject, switchMap, tap, type Observable } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';

export type ListFilter = Omit<QueryOf<typeof orderRoutes.listOrders>, 'after' | 'orders'>;

/** Risks are asked for so many orders at once. */
const RISKS_AT_ONCE = 100;

/** The rows of the list that are loaded: pages follow as they are scrolled to, and what changes is brought up to date where it stands. */
@Injectable()
export class OrderListStore {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly asked = new Subject<ListFilter>();
  private filter: ListFilter = {};
  private fetching = false;

  readonly rows = signal<readonly OrderRow[]>([]);
  readonly next = signal<string | null>(null);
  readonly loading = signal(true);
  readonly fault = signal('');
  /** Of the rows, the orders whose supply comes too late: the day it comes, null for never. */
  readonly risks = signal<ReadonlyMap<number, string | null>>(new Map());
  /** Orders that came in meanwhile and have no place among the rows that are sorted otherwise. */
  readonly come = signal(0);
  readonly byId = computed(() => new Map(this.rows().map((row) => [row.id, row])));

  constructor() {
    this.asked
      .pipe(
        tap(() => this.loading.set(true)),
        switchMap((filter) => this.page(filter)),
        takeUntilDestroyed(),
      )
      .subscribe(({ rows, next }) => {
        this.rows.set(rows);
        this.next.set(next);
        this.loading.set(false);
        this.fault.set('');
        this.come.set(0);
        this.risks.set(new Map());
        this.askRisks(rows);
      });
    inject(Live)
      .topics()
      .pipe(takeUntilDestroyed())
      .subscribe((topics) => this.follow(topics));
  }

  /** Another list: what was loaded gives way when the first page of it is there. */
  show(filter: ListFilter): void {
    this.filter = filter;
    this.asked.next(filter);
  }

  again(): void {
    this.asked.next(this.filter);
  }

  /** The page behind the last row. */
  more(): void {
    const after = this.next();
    if (after === null || this.fetching) return;
    this.fetching = true;
    const { filter } = this;
    this.page(filter, { after }).subscribe({
      next: ({ rows, next }) => {
        // Another list may have been asked for meanwhile.
        if (filter !== this.filter || this.next() !== after) return;
        const known = this.byId();
        this.rows.update((all) => [...all, ...rows.filter((row) => !known.has(row.id))]);
        this.next.set(next);
        this.askRisks(rows);
      },
      complete: () => (this.fetching = false),
    });
  }

  /** Rows as they are now: those that left the list go, those that changed are replaced, new ones come first where the list is newest first. */
  private follow(topics: readonly string[]) {
    if (topics.includes('*')) return this.again();
    const ids = topics.flatMap((topic) => (topic.startsWith('order:') ? [Number(topic.slice('order:'.length))] : []));
    if (ids.length === 0) return;
    const { filter } = this;
    this.page(filter, { orders: ids.join(',') }).subscribe(({ rows }) => {
      if (filter !== this.filter) return;
      const fresh = new Map(rows.map((row) => [row.id, row]));
      const known = this.byId();
      const newest = (filter.sort ?? 'newest') === 'newest' && !filter.reverse;
      const first = this.rows()[0]?.id ?? 0;
      const come = rows.filter((row) => !known.has(row.id) && (!newest || row.id > first));
      this.rows.update((all) => [
        ...(newest ? come : []),
        ...all.flatMap((row) => (!ids.includes(row.id) ? [row] : fresh.has(row.id) ? [fresh.get(row.id)!] : [])),
      ]);
      if (!newest) this.come.update((count) => count + come.length);
      this.askRisks(rows);
    });
  }

  /** Asked behind the page, so that the page need not wait for it. */
  private askRisks(rows: readonly OrderRow[]) {
    if (!this.session.may(orderRoutes.readRisks)) return;
    const ids = rows.filter((row) => row.state === 'released' && row.promisedDay !== null).map((row) => row.id);
    for (let at = 0; at < ids.length; at += RISKS_AT_ONCE) {
      const part = ids.slice(at, at + RISKS_AT_ONCE);
      this.api
        .call(orderRoutes.readRisks, { query: { orders: part.join(',') } })
        .pipe(catchError(() => of([])))
        .subscribe((found) =>
          this.risks.update((known) => {
            const risks = new Map(known);
            for (const id of part) risks.delete(id);
            for (const { order, day } of found) risks.set(order, day);
            return risks;
          }),
        );
    }
  }

  private page(filter: ListFilter, more: { after?: string; orders?: string } = {}): Observable<{ rows: readonly OrderRow[]; next: string | null }> {
    return this.api.call(orderRoutes.listOrders, { query: { ...filter, ...more } }).pipe(
      catchError((error: Error) => {
        this.fault.set(error.message);
        this.loading.set(false);
        this.fetching = false;
        return EMPTY;
      }),
    );
  }
}
