import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { shortageRoutes, type PlannedRoute, type RoutePlan, type Routed, type Shortages } from '@nockwright/contract/shortages';
import { catchError, debounceTime, EMPTY, finalize, map, of, Subject, switchMap } from 'rxjs';
import { Api, newKey } from '../api';
import { Live } from '../live';
import { asksCustomer, wishesOf, type PolicyName } from './route-words';

const CHOOSING_MS = 150;

/** How far an act has come. */
export interface Progress {
  readonly done: number;
  readonly total: number;
}

/** What of it is looked at: words, lines with commas between, and how many rows. */
export interface BoardFilter {
  readonly q: string;
  readonly only: string;
  readonly most: number;
}

/** Rows that are drawn at first; more are fetched on the wish of who looks. */
export const PAGE = 60;
const NOTHING: Shortages = { rows: [], count: 0, value: '0', lines: [], chosen: [] };

interface Asked {
  readonly lines: string;
  readonly policy: PolicyName | null;
  readonly accepted: string;
  readonly at: number;
}

/** What is short, what is chosen of it, the plan for what is chosen, and the act that carries it out. One for each board. */
@Injectable()
export class BoardStore {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly again = new Subject<void>();

  readonly filter = signal<BoardFilter>({ q: '', only: '', most: PAGE }, { equal: (a, b) => a.q === b.q && a.only === b.only && a.most === b.most });
  /** The first rows of what is looked at, and what all of it comes to. */
  readonly short = signal<Shortages>(NOTHING);
  readonly loaded = signal(false);
  readonly fault = signal('');
  readonly chosen = signal<ReadonlySet<number>>(new Set());
  readonly policy = signal<PolicyName | null>(null);
  /** Offers that are taken: lines that get what is given back. */
  readonly accepted = signal<readonly number[]>([]);
  readonly progress = signal<Progress | null>(null);
  readonly outcome = signal<Routed | null>(null);
  /** What the last act was to route. */
  readonly routed = signal<readonly PlannedRoute[]>([]);
  private readonly version = signal(0);

  private readonly wish = computed((): Asked | null =>
    this.chosen().size === 0 || this.progress() !== null
      ? null
      : { lines: [...this.chosen()].join(','), policy: this.policy(), accepted: this.accepted().join(','), at: this.version() },
  );
  private readonly found = toSignal(
    toObservable(this.wish).pipe(
      debounceTime(CHOOSING_MS),
      switchMap((wish) => {
        if (!wish) return of(null);
        const query = { lines: wish.lines, ...(wish.policy ? { policy: wish.policy } : {}), ...(wish.accepted ? { accept: wish.accepted } : {}) };
        return this.api.call(shortageRoutes.planRoutes, { query }).pipe(
          map((plan) => ({ wish, plan })),
          catchError((error: Error) => (this.fault.set(error.message), of(null))),
        );
      }),
    ),
    { initialValue: null as { readonly wish: Asked; readonly plan: RoutePlan } | null },
  );
  /** The plan for what is chosen now; null while it is not known. */
  readonly plan = computed((): RoutePlan | null => {
    const found = this.found();
    return found && found.wish === this.wish() ? found.plan : null;
  });
  /** What the act would carry out: no customer is passed over who must be asked. */
  readonly ready = computed((): readonly PlannedRoute[] => (this.plan()?.rows ?? []).filter(({ route }) => route !== null && !asksCustomer(route)));

  constructor() {
    toObservable(this.filter)
      .pipe(
        switchMap((filter) =>
          this.live.kept(
            () => this.fetch(filter),
            (topic) => topic.startsWith('order:') || topic.startsWith('item:'),
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ short, asked }) => {
        this.short.set(short);
        this.loaded.set(true);
        this.version.update((version) => version + 1);
        // What is short no more is chosen no more.
        const still = new Set(short.chosen);
        const gone = asked.filter((line) => !still.has(line));
        if (gone.length > 0) this.chosen.update((chosen) => new Set([...chosen].filter((line) => !gone.includes(line))));
      });
  }

  private fetch({ q, only, most }: BoardFilter) {
    const asked = [...this.chosen()];
    const query = { most, ...(q ? { q } : {}), ...(only ? { only } : {}), ...(asked.length > 0 ? { chosen: asked.join(',') } : {}) };
    return this.api.call(shortageRoutes.listShortages, { query }).pipe(
      map((short) => ({ short, asked })),
      catchError((error: Error) => (this.fault.set(error.message), EMPTY)),
    );
  }

  /** Chooses lines, or chooses them no more where all of them are. */
  turn(lines: readonly number[]): void {
    this.outcome.set(null);
    this.chosen.update((chosen) => {
      const all = lines.every((line) => chosen.has(line));
      return all ? new Set([...chosen].filter((line) => !lines.includes(line))) : new Set([...chosen, ...lines]);
    });
  }

  choose(lines: readonly number[]): void {
    this.outcome.set(null);
    this.accepted.set([]);
    this.chosen.set(new Set(lines));
  }

  /** Carries the plan out in one act; how far it has come is heard meanwhile. */
  route(): void {
    const rows = this.ready();
    if (rows.length === 0 || this.progress() !== null) return;
    const run = newKey();
    const choices = rows.map(({ line, version, route }) => ({ line, version, parts: wishesOf(route!) }));
    const accept = [...this.accepted()];
    this.fault.set('');
    this.routed.set(rows);
    this.progress.set({ done: 0, total: choices.length });
    const heard = this.live.topics().subscribe((topics) => {
      for (const topic of topics) {
        const [kind, of_, done, total] = topic.split(':');
        if (kind === 'routing' && of_ === run) this.progress.update((known) => known && { done: Math.max(known.done, Number(done)), total: Number(total) });
      }
    });
    this.api
      .call(shortageRoutes.routeMany, { body: { run, choices, accept } })
      .pipe(
        finalize(() => {
          heard.unsubscribe();
          this.progress.set(null);
        }),
      )
      .subscribe({
        next: (outcome) => {
          this.choose([]);
          this.outcome.set(outcome);
          this.again.next();
        },
        error: (error: Error) => {
          this.fault.set(error.message);
          this.again.next();
        },
      });
  }
}
