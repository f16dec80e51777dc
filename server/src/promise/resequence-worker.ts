import { type LiveBook } from '@nockwright/core/book';
import { parentPort, workerData } from 'node:worker_threads';
import { resequence } from '@nockwright/core/promise';
import type { Now } from '../clock';
import { anyOf, connect, type Db } from '../database';
import { loadBook } from './load-book';

/** What a run is given, and what it tells while and when it is done. The book is read by the thread that computes: it is large. */
export interface RunInput {
  readonly url: string;
  readonly now: Now;
}
export type RunMessage =
  { readonly kind: 'progress'; readonly done: number; readonly total: number } | { readonly kind: 'result'; readonly result: ReturnType<typeof resequence> };

type Worth = ReadonlyMap<string, { readonly owner: number; readonly unitValue: number }>;

/** Whose each demand is, and what one of it is sold for. */
async function worthOf(db: Db, { demands }: LiveBook): Promise<Worth> {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['order_line.id', 'sales_order.customer_id', 'order_line.price', 'order_line.numerator', 'order_line.denominator'])
    .where(
      anyOf(
        'order_line.id',
        [...demands.values()].map((row) => row.lineId),
      ),
    )
    .execute();
  const byLine = new Map(rows.map((row) => [row.id, { owner: row.customer_id, unitValue: (Number(row.price) * row.denominator) / row.numerator }]));
  return new Map([...demands].map(([id, { lineId }]) => [id, byLine.get(lineId)!]));
}

async function main({ url, now }: RunInput): Promise<void> {
  const tell = (message: RunMessage) => parentPort!.postMessage(message);
  const { db, pool } = connect(url, 1);
  const { book, worth } = await db
    .transaction()
    .setIsolationLevel('repeatable read')
    .setAccessMode('read only')
    .execute(async (trx) => {
      const live = await loadBook(trx, now);
      return { book: live.book, worth: await worthOf(trx, live) };
    });
  await pool.end();
  tell({ kind: 'result', result: resequence(book, worth, (done, total) => tell({ kind: 'progress', done, total })) });
}

// A fault ends the thread; whoever started it stores that.
await main(workerData as RunInput);
