import { parentPort, workerData } from 'node:worker_threads';
import { resequence, type OrderBook } from '@nockwright/core/promise';

/** What a run is given, and what it tells while and when it is done. */
export interface RunInput {
  readonly book: OrderBook;
  readonly worth: ReadonlyMap<string, { readonly owner: number; readonly unitValue: number }>;
}
export type RunMessage =
  { readonly kind: 'progress'; readonly done: number; readonly total: number } | { readonly kind: 'result'; readonly result: ReturnType<typeof resequence> };

const { book, worth } = workerData as RunInput;
const tell = (message: RunMessage) => parentPort!.postMessage(message);
tell({ kind: 'result', result: resequence(book, worth, (done, total) => tell({ kind: 'progress', done, total })) });
