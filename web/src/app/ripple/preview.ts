import { type Signal, type WritableSignal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, of, switchMap, type Observable } from 'rxjs';

const TYPING_MS = 80;

/**
 * What a form would do, asked anew with every change of what it asks for (`wish`; null: nothing yet). Null while it is not
 * known; where it cannot be done, `fault` says why. To be called while a component is made; ends with it.
 */
export function previewOf<W, V>(wish: Signal<W | null>, ask: (wish: W) => Observable<V>, fault: Pick<WritableSignal<string>, 'set'>): Signal<V | null> {
  return toSignal(
    toObservable(wish).pipe(
      debounceTime(TYPING_MS),
      switchMap((wish) => {
        fault.set('');
        return wish === null ? of(null) : ask(wish).pipe(catchError((error: Error) => (fault.set(error.message), of(null))));
      }),
    ),
    { initialValue: null },
  );
}

/** What is typed as a quantity: at most four decimals. */
export const QUANTITY = /^\d{1,9}(\.\d{1,4})?$/;
