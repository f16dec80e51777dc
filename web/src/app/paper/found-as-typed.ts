import { computed, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { debounceTime, map, switchMap, type Observable } from 'rxjs';

const TYPING_MS = 70;

/** What is found for a text while it is typed. */
export interface FoundAsTyped<R> {
  /** What was found for just this text; nothing while it is looked up: what was found for another text is not what is meant now. */
  readonly rows: Signal<readonly R[]>;
  /** What was found last, also for a text before: to look at until there is something newer. */
  readonly last: Signal<readonly R[]>;
  readonly searching: Signal<boolean>;
  /** Calls back with what is found for the text as it stands; at once where it is there, never where the text changes before. */
  readonly whenFound: (then: (rows: readonly R[]) => void) => void;
}

/** Looks a text up as it is typed. `load` must give an answer for each text, also where it fails. To be called while a component is made. */
export function foundAsTyped<R>(text: Signal<string>, load: (text: string) => Observable<readonly R[]>): FoundAsTyped<R> {
  const found = signal<{ readonly text: string; readonly rows: readonly R[] } | null>(null);
  let waiting: { readonly text: string; readonly then: (rows: readonly R[]) => void } | null = null;
  toObservable(text)
    .pipe(
      debounceTime(TYPING_MS),
      switchMap((wanted) => load(wanted).pipe(map((rows) => ({ text: wanted, rows })))),
      takeUntilDestroyed(),
    )
    .subscribe((answer) => {
      found.set(answer);
      const due = waiting?.text === answer.text && text() === answer.text ? waiting : null;
      waiting = null;
      due?.then(answer.rows);
    });
  const searching = computed(() => found()?.text !== text());
  const rows = computed(() => (searching() ? [] : found()!.rows));
  const last = computed(() => found()?.rows ?? []);
  return { rows, last, searching, whenFound: (then) => (searching() ? (waiting = { text: text(), then }) : then(rows())) };
}
