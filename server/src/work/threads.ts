import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { Turns } from '../http/turns';
import { takingTurns, type Work } from './work';

/** One core is left to the thread that answers. */
const THREADS = Math.max(1, Math.min(4, availableParallelism() - 1));
const OF_ONE_USER = 2;
const WAITING_OF_ONE_USER = 20;
const IDLE_MS = 60_000;

/** Computes in threads beside the one that answers, so that no request waits for another's computation. */
export function inThreads(): Work {
  const bundled = !import.meta.url.endsWith('.ts');
  const pool = new Piscina({
    filename: new URL(bundled ? './worker.mjs' : '../worker.ts', import.meta.url).href,
    ...(bundled ? {} : { execArgv: ['--import', 'tsx'] }),
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: IDLE_MS,
  });
  const work: Work = {
    run: async (task, input) => (await pool.run({ name: task.name, input })) as never,
    close: () => pool.destroy(),
  };
  return takingTurns(work, new Turns(OF_ONE_USER, THREADS * 2, WAITING_OF_ONE_USER));
}
