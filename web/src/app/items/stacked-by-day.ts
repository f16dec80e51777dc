import type { TimelineStep } from '@nockwright/contract/items';

/** What a step adds to the stack of its day and direction: supply upwards from 0, commitments downwards. */
export interface StackedStep {
  /** Index of the step. */
  readonly step: number;
  readonly up: boolean;
  readonly from: number;
  readonly to: number;
}

/** Steps of one day stand on each other; in the order given. */
export function stackedByDay(steps: readonly Pick<TimelineStep, 'day' | 'change'>[]): StackedStep[] {
  const stacks = new Map<string, number>();
  return steps.map(({ day, change }, step) => {
    const up = Number(change) > 0;
    const key = `${day}${up}`;
    const from = stacks.get(key) ?? 0;
    const to = from + Number(change);
    stacks.set(key, to);
    return { step, up, from, to };
  });
}
