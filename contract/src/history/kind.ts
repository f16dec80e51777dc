import type { IsoDay } from '@nockwright/core/calendar';
import type { Shape } from '../shape';

/** A kind of event: the facts it keeps, and how it reads in a history. */
export interface EventKind<F> {
  readonly facts: Shape<F>;
  /** What was done, after the name of who did it: `released order 20417`. Days are written as seen from `today`. */
  readonly words: (facts: F, today: IsoDay) => string;
}

export const event = <F>(facts: Shape<F>, words: (facts: F, today: IsoDay) => string): EventKind<F> => ({ facts, words });
