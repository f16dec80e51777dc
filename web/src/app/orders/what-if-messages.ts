import type { BookSlice, LineWish, WhatIfResult } from '@nockwright/core/orders';

/** What the page says to the worker: a slice to work on from now on, or a line to try on it. */
export type WhatIfQuestion = { readonly slice: BookSlice } | { readonly ask: number; readonly wish: LineWish };

export interface WhatIfAnswer {
  readonly ask: number;
  readonly result: WhatIfResult;
}
