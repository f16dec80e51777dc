import { effect, type Signal } from '@angular/core';

/** Gives the focus to a field once, as soon as it is there: what it stands in may have to be fetched first. Within a constructor. */
export function focusOnce(field: Signal<{ focus(): void } | undefined>): void {
  let begun = false;
  effect(() => {
    const there = field();
    if (!there || begun) return;
    begun = true;
    setTimeout(() => there.focus());
  });
}
