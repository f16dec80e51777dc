import { inject, type Signal, type WritableSignal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, debounceTime, EMPTY, switchMap, type Observable } from 'rxjs';
import { Live } from './live';

const TYPING_MS = 80;

/** What a list is filtered by, as its address has it. */
export interface ListQuery<S extends string> {
  readonly search?: string;
  readonly state: S;
}

/**
 * The rows of a list: fetched anew as its filter is typed, and whenever something changes that it shows. Where that fails,
 * `fault` says why and the rows stay as they were. To be called while a component is made; ends with it.
 */
export function keptList<S extends string, R>(parts: {
  readonly q: Signal<string | undefined>;
  readonly state: Signal<S>;
  readonly load: (query: ListQuery<S>) => Observable<R>;
  /** What the list shows: `purchase:`. */
  readonly topics: string;
  readonly fault: WritableSignal<string>;
  /** Something was done here: it is fetched anew. */
  readonly again?: Observable<void>;
}): Observable<R> {
  const live = inject(Live);
  const failed = (error: Error) => {
    parts.fault.set(error.message);
    return EMPTY;
  };
  return combineLatest([toObservable(parts.q), toObservable(parts.state)]).pipe(
    debounceTime(TYPING_MS),
    switchMap(([search, state]) =>
      live.kept(
        () => parts.load({ ...(search ? { search } : {}), state }).pipe(catchError(failed)),
        (topic) => topic.startsWith(parts.topics),
        parts.again,
      ),
    ),
    takeUntilDestroyed(),
  );
}
