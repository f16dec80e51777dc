import type { Turns } from '../http/turns';

/** Something to be computed that takes long enough to keep everybody else waiting: data in, data out, no connection and no clock. */
export interface Task<In, Out> {
  readonly name: string;
  readonly run: (input: In) => Out | Promise<Out>;
}

/** Where tasks are computed. */
export interface Work {
  /** `user`: whose turn it is; so many of one user, and so many in all, are computed at a time. */
  readonly run: <In, Out>(task: Task<In, Out>, input: In, user: number) => Promise<Out>;
  readonly close: () => Promise<void>;
}

/** Computes in the thread that asks: for programs that serve nobody else meanwhile. */
export const inThisThread: Work = {
  run: async (task, input) => task.run(input),
  close: async () => undefined,
};

/** The same, each in its turn. */
export function takingTurns(work: Work, turns: Turns): Work {
  return { run: (task, input, user) => turns.take(user, () => work.run(task, input, user)), close: () => work.close() };
}
