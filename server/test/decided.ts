import type { RippleView } from '@nockwright/contract/promise';

/** The decision of somebody who saw a ripple and takes these offers. */
export const decided = ({ later, earlier }: Pick<RippleView, 'later' | 'earlier'>, accept: number[] = []) => ({
  seen: [...later, ...earlier].map(({ line, after }) => ({ line, after })),
  accept,
});
