import { inject } from '@angular/core';
import { Router } from '@angular/router';

/** Changes what the address says of the list on the screen, and keeps the rest; null takes a word out. */
export function addressWords(): (words: Readonly<Record<string, string | number | null>>) => void {
  const router = inject(Router);
  return (queryParams) => void router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
}
