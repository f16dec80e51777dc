/** The worker that tries lines; in a file of its own, for only a browser can start it. */
export function startWhatIfWorker(): Worker {
  return new Worker(new URL('./what-if.worker', import.meta.url), { type: 'module' });
}
