import { type LiveBook } from '@nockwright/core/book';
import type { Worker } from 'node:worker_threads';
import type { LatenessView, ResequenceRun, RippleView } from '@nockwright/contract/promise';
import type { Lateness, Resequenced } from '@nockwright/core/promise';
import type { Logger } from 'pino';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';

import type { RunInput, RunMessage } from './resequence-worker';
import { describeMoved } from './ripple-plan';
import { startWorker } from './start-worker';

/** A run whose server has not been heard of for so long has died with it. */
const SILENT_SECONDS = 20;
const BEAT_MS = 1000;
const SERVER_GONE = 'The server that ran it has gone. Nothing was moved: run it again.';

export interface Stored {
  readonly result: Omit<Resequenced, 'owners'> & {
    readonly customers: readonly { readonly customer: string; readonly before: Lateness; readonly after: Lateness }[];
  };
}

/** Runs the whole book's resequencing in worker threads of this process; what it finds is kept in the database. */
export class ResequenceRuns {
  private readonly workers = new Map<number, Worker>();

  constructor(
    private readonly db: Db,
    /** The database, for the thread that computes. */
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  /** Starts a run on the book as it stands. Refused while another is under way. */
  async start(context: CommandContext): Promise<ResequenceRun> {
    const { trx, user, now } = context;
    await trx
      .updateTable('resequence_run')
      .set({ state: 'failed', ended_at: now.instant, message: SERVER_GONE })
      .where('state', '=', 'running')
      .where('beat_at', '<', new Date(Date.now() - SILENT_SECONDS * 1000))
      .execute();
    // One at a time: an index on running runs decides where two start at once.
    const run = await trx
      .insertInto('resequence_run')
      .values({ state: 'running', started_at: now.instant, started_by: user.id, beat_at: new Date() })
      .onConflict((conflict) => conflict.doNothing())
      .returning('id')
      .executeTakeFirst();
    if (!run) throw new Refusal('conflict', 'A run is under way already: wait for it, or stop it.');
    const { id } = run;
    await recordEvent(context, { kind: 'run.started', facts: {}, subjects: [{ kind: 'run', key: id }] });
    context.afterCommit(() => this.launch(id, { url: this.url, now }));
    return readRun(trx, id, now.today);
  }

  async stop(context: CommandContext, id: number): Promise<ResequenceRun> {
    const { trx, now } = context;
    const { numUpdatedRows } = await trx
      .updateTable('resequence_run')
      .set({ state: 'stopped', ended_at: now.instant, message: `Stopped by ${context.user.name}.` })
      .where('id', '=', id)
      .where('state', '=', 'running')
      .executeTakeFirst();
    if (numUpdatedRows === 0n) throw new Refusal('conflict', 'This run is not under way.');
    await recordEvent(context, { kind: 'run.stopped', facts: {}, subjects: [{ kind: 'run', key: id }] });
    // A worker of another process hears of it at its next beat.
    void this.workers.get(id)?.terminate();
    return readRun(trx, id, now.today);
  }

  /** Ends what runs in this process. */
  async close(): Promise<void> {
    await Promise.all([...this.workers.values()].map((worker) => worker.terminate()));
  }

  private launch(id: number, input: RunInput) {
    const worker = startWorker(input);
    this.workers.set(id, worker);
    let progress = { done: 0, total: 0 };
    let ending = false;
    const end = (work: () => Promise<unknown>) => {
      if (ending) return;
      ending = true;
      clearInterval(beat);
      work()
        .catch((error: unknown) => this.log.error({ error, run: id }, 'a resequencing run could not be stored'))
        .finally(() => {
          this.workers.delete(id);
          void worker.terminate();
        });
    };
    const beat = setInterval(() => {
      this.update(id, { ...progress, beat_at: new Date() }).then(
        (going) => (going ? undefined : end(async () => undefined)),
        (error: unknown) => this.log.error({ error, run: id }, 'a resequencing run could not tell its progress'),
      );
    }, BEAT_MS);
    worker.on('message', (message: RunMessage) => {
      if (message.kind === 'progress') progress = { done: message.done, total: message.total };
      else end(() => this.finish(id, message.result, progress.total));
    });
    worker.on('error', (error: Error) => end(() => this.update(id, { state: 'failed', ended_at: new Date(), message: error.message })));
    worker.on('exit', () => end(() => this.update(id, { state: 'failed', ended_at: new Date(), message: 'The run ended before it was done.' })));
  }

  private async finish(id: number, { owners, ...result }: Resequenced, total: number) {
    const names = await this.db
      .selectFrom('customer')
      .select(['id', 'name'])
      .where(
        anyOf(
          'id',
          owners.map((row) => row.owner),
        ),
      )
      .execute();
    const nameOf = new Map(names.map((row) => [row.id, row.name]));
    const customers = owners.map(({ owner, before, after }) => ({ customer: nameOf.get(owner) ?? '', before, after }));
    await this.update(id, { state: 'done', ended_at: new Date(), done: total, total, result: JSON.stringify({ ...result, customers }) });
  }

  /** False where the run is not running any more. */
  private async update(id: number, set: Readonly<Record<string, unknown>>): Promise<boolean> {
    const { numUpdatedRows } = await this.db.updateTable('resequence_run').set(set).where('id', '=', id).where('state', '=', 'running').executeTakeFirst();
    return numUpdatedRows > 0n;
  }
}

/** The last run, in words; null where there was none. */
export async function readLastRun(db: Db, now: Now): Promise<ResequenceRun | null> {
  const last = await db.selectFrom('resequence_run').select('id').orderBy('id', 'desc').limit(1).executeTakeFirst();
  return last ? readRun(db, last.id, now.today) : null;
}

/** The orders of some demands of the book, by their numbers. */
export async function ordersOf(db: Db, demandIds: readonly string[]): Promise<number[]> {
  const numbers = [...new Set(demandIds.map((id) => id.slice(0, id.lastIndexOf('/'))))];
  const rows = await db.selectFrom('sales_order').select('id').where(anyOf('number', numbers)).execute();
  return rows.map((row) => row.id);
}

export async function readRun(db: Db, id: number, today: string): Promise<ResequenceRun> {
  const run = await db
    .selectFrom('resequence_run')
    .innerJoin('app_user', 'app_user.id', 'resequence_run.started_by')
    .selectAll('resequence_run')
    .select('app_user.name')
    .where('resequence_run.id', '=', id)
    .executeTakeFirst();
  if (!run) throw notFound(`run ${id}`);
  const result = run.result as Stored['result'] | null;
  const nobody: RippleView = { later: [], earlier: [], offers: [] };
  const gone = run.state === 'running' && run.beat_at.getTime() < Date.now() - SILENT_SECONDS * 1000;
  return {
    id: run.id,
    state: gone ? 'failed' : run.state,
    startedAt: run.started_at.toISOString(),
    startedBy: run.name,
    endedAt: run.ended_at?.toISOString() ?? null,
    done: run.done,
    total: run.total,
    message: gone ? SERVER_GONE : run.message,
    before: result ? viewLateness(result.before) : null,
    after: result ? viewLateness(result.after) : null,
    customers: (result?.customers ?? []).map(({ customer, before, after }) => ({ customer, before: viewLateness(before), after: viewLateness(after) })),
    ripple: result ? await viewMoved(db, result, today) : nobody,
  };
}

/** The movers of a stored result; lines that have closed since are left out. */
async function viewMoved(db: Db, result: Stored['result'], today: string): Promise<RippleView> {
  const rows = await db
    .selectFrom('order_line')
    .innerJoin('sales_order', 'sales_order.id', 'order_line.order_id')
    .select(['order_line.id', 'order_line.line_no', 'order_line.item', 'order_line.warehouse', 'sales_order.id as order_id', 'sales_order.number'])
    .where('sales_order.state', '=', 'released')
    .where(
      anyOf(
        'sales_order.id',
        await ordersOf(
          db,
          [...result.later, ...result.earlier].map((row) => row.id),
        ),
      ),
    )
    .execute();
  const demands = new Map(
    rows.map((row) => [
      `${row.number}/${row.line_no}`,
      { lineId: row.id, lineNo: row.line_no, orderId: row.order_id, orderNumber: row.number!, item: row.item, warehouse: row.warehouse },
    ]),
  );
  const book = { asOf: '', warehouses: [], items: [], supply: [], orders: [], demand: [] };
  const live: LiveBook = { book, demands, supplies: new Map(), turns: new Map(), demandOfLine: new Map([...demands].map(([id, row]) => [row.lineId, id])) };
  const describe = (list: Resequenced['later']) =>
    describeMoved(
      db,
      { live, after: book },
      list.filter((row) => demands.has(row.id)),
      today,
    );
  return { later: await describe(result.later), earlier: await describe(result.earlier), offers: [] };
}

function viewLateness(lateness: Lateness): LatenessView {
  return { ...lateness, lateValue: lateness.lateValue.toFixed(2) };
}
