import { Worker } from 'node:worker_threads';

/** Starts the program of a run: the bundle beside the server's, or where the server runs from source, the source. */
export function startWorker(workerData: unknown): Worker {
  if (!import.meta.url.endsWith('.ts')) return new Worker(new URL('./resequence-worker.mjs', import.meta.url), { workerData });
  const source = new URL('./resequence-worker.ts', import.meta.url).href;
  return new Worker(`import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(source)}); });`, { eval: true, workerData });
}
