import { linkedSignal, type Signal, type WritableSignal } from '@angular/core';

/** What stands in a field: what stands on the paper, until something else is typed over it; then that, also when the paper is read again. */
export function typedOver<T>(stands: () => T): WritableSignal<T> {
  return linkedSignal<T, T>({
    source: stands as Signal<T>,
    computation: (now, before) => (before !== undefined && before.value !== before.source ? before.value : now),
  });
}
