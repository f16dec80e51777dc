import type { ItemCode, LineId, OrderId } from '@nockwright/core/ids';
import { type LiveBook } from '@nockwright/core/book';
import { compareDecimal, plus } from '@nockwright/core/money';
import { decimal, promiseBook } from '@nockwright/core/promise';
import { sql } from 'kysely';
import type { Trx } from '../database';
import type { CommandContext } from '../http/context';
import { loadBook } from './load-book';

export interface NewPromise {
  readonly lineId: LineId;
  readonly day: string;
  readonly quantity: string;
}

/** What could be promised now for these lines beyond what is promised; the pools must be locked. */
export function newPromises(live: LiveBook, lineIds: readonly number[]): { readonly promises: NewPromise[]; readonly uncovered: ReadonlyMap<number, string> } {
  const wanted = new Map(lineIds.map((id) => [live.demandOfLine.get(id), id]));
  const promises: NewPromise[] = [];
  const uncovered = new Map<number, string>();
  for (const promise of promiseBook(live.book).promises) {
    const lineId = wanted.get(promise.id);
    if (lineId === undefined) continue;
    uncovered.set(lineId, decimal(promise.uncovered));
    for (const entry of promise.schedule) if (!entry.kept) promises.push({ lineId, day: entry.date, quantity: decimal(entry.quantity) });
  }
  return { promises, uncovered };
}

/** Commits promises; on a day that has one already the quantity is added. */
export async function storePromises({ trx }: CommandContext, promises: readonly NewPromise[]): Promise<void> {
  const byDay = new Map<string, { line_id: LineId; day: string; quantity: string }>();
  for (const { lineId, day, quantity } of promises) {
    const known = byDay.get(`${lineId}/${day}`)?.quantity ?? '0';
    byDay.set(`${lineId}/${day}`, { line_id: lineId, day, quantity: plus(known, quantity) });
  }
  if (byDay.size === 0) return;
  // In one statement: what hangs on promises is brought up to date once. Its text is the same however many they are.
  const rows = [...byDay.values()];
  await sql`insert into line_promise (line_id, day, quantity)
    select * from unnest(${rows.map((row) => row.line_id)}::int[], ${rows.map((row) => row.day)}::date[], ${rows.map((row) => row.quantity)}::numeric[])
    on conflict (line_id, day) do update set quantity = line_promise.quantity + excluded.quantity`.execute(trx);
}

/** Promises what can be promised of a line beyond what is; gives what it did. The pools must be locked. */
export async function promiseMore(
  context: CommandContext,
  line: { readonly id: number; readonly item: ItemCode; readonly order_id: OrderId },
): Promise<readonly NewPromise[]> {
  const live = await loadBook(context.trx, context.now, { items: [line.item], surely: line.order_id });
  const { promises } = newPromises(live, [line.id]);
  await storePromises(context, promises);
  return promises;
}

/** What remains promised of a line on a day; 0 where nothing does. */
export interface Remains {
  readonly line: number;
  readonly day: string;
  readonly remains: string;
}

/** Writes what remains promised on some days of some lines. */
export async function storeRemains(trx: Trx, remains: readonly Remains[]): Promise<void> {
  const [left, gone] = [remains.filter((row) => compareDecimal(row.remains, '0') > 0), remains.filter((row) => compareDecimal(row.remains, '0') <= 0)];
  const keys = (rows: readonly Remains[]) => sql`${rows.map((row) => row.line)}::int[], ${rows.map((row) => row.day)}::date[]`;
  if (left.length > 0)
    await sql`update line_promise p set quantity = k.remains
      from unnest(${keys(left)}, ${left.map((row) => row.remains)}::numeric[]) as k(line_id, day, remains)
      where p.line_id = k.line_id and p.day = k.day`.execute(trx);
  if (gone.length > 0)
    await sql`delete from line_promise p using unnest(${keys(gone)}) as k(line_id, day) where p.line_id = k.line_id and p.day = k.day`.execute(trx);
}

/** A line that waits for nothing any more needs no route that says it waits. What a supplier ships to the customer does not wait. */
export async function forgetWaiting(trx: Trx, lineIds: readonly number[]): Promise<void> {
  await sql`
    delete from line_route r using order_line l
    where r.line_id = l.id and r.kind = 'backorder' and l.id = any(${lineIds})
      and l.stock_quantity - l.shipped - l.cancelled <= coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)
        + coalesce((select sum(quantity - received - closed) from purchase_line where order_line_id = l.id and warehouse is null), 0)`.execute(trx);
}
