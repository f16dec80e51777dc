import type { LiveBook } from '@nockwright/core/book';
import { least, compareDecimal, plus, minus } from '@nockwright/core/money';
import { lessOf, promiseBook, type OrderBook } from '@nockwright/core/promise';
import type { OrderLineRecord } from '../orders';
import { openLine, loadLineFacts } from '../orders';
import { decimal, loadBook, storeRemains } from '../promise';
import type { BoundSupply } from '../supply';
import type { CommandContext } from '../http/context';
import type { RouteRow } from './load-route';
import type { Undoing } from '@nockwright/contract/shortages';
import type { Now } from '../clock';
import type { Db, Trx } from '../database';
import type { OrderId } from '@nockwright/core/ids';

/** What of a line's promises stands on goods that are given up, by day: what the computation pegs to them, the latest first. */
export function standingOn(live: LiveBook, line: OrderLineRecord, bound: BoundSupply, quantity: string): ReadonlyMap<string, string> {
  const id = live.demandOfLine.get(line.id);
  const promise = id === undefined ? undefined : promiseBook(live.book).promises.find((row) => row.id === id);
  const days = new Map<string, string>();
  let left = quantity;
  for (const entry of [...(promise?.schedule ?? [])].reverse())
    for (const { supply, quantity: pegged } of entry.kept ? entry.from : []) {
      const part = supply === bound.name ? least(left, decimal(pegged)) : '0';
      if (compareDecimal(part, '0') <= 0) continue;
      days.set(entry.date, plus(days.get(entry.date) ?? '0', part));
      left = minus(left, part);
    }
  return days;
}

/** Promises that stand on what is given up cannot stand. */
export async function takeBackPromises({ trx }: CommandContext, line: OrderLineRecord, standing: ReadonlyMap<string, string>): Promise<void> {
  const open = openLine(line, await loadLineFacts(trx, [line.id]));
  await storeRemains(
    trx,
    open.promises.flatMap(({ day, quantity }) =>
      standing.has(day) ? [{ line: line.id, day, remains: minus(quantity, least(quantity, standing.get(day)!)) }] : [],
    ),
  );
}

/** The book as it would be without the route: what it brought is gone, what stood on it has no day, what went another way is owed again. */
export function bookWithout(live: LiveBook, route: RouteRow, line: OrderLineRecord, bound: BoundSupply | null): OrderBook {
  const id = live.demandOfLine.get(line.id);
  const gone = bound ? least(route.quantity, bound.open) : '0';
  const standing = bound && bound.kind !== 'drop_ship' ? standingOn(live, line, bound, gone) : new Map<string, string>();
  const owed = route.kind === 'cut' || route.kind === 'substitute' || bound?.kind === 'drop_ship' ? least(route.quantity, bound?.open ?? route.quantity) : '0';
  const supply = live.book.supply.flatMap((row) => {
    const left = row.id === bound?.name ? minus(decimal(row.quantity), least(gone, decimal(row.quantity))) : decimal(row.quantity);
    return compareDecimal(left, '0') > 0 ? [{ ...row, quantity: Number(left) }] : [];
  });
  const demand = live.book.demand.map((row) => {
    if (row.id !== id) return row;
    const promised = (row.promised ?? []).flatMap((entry) => {
      const left = minus(decimal(entry.quantity), least(decimal(entry.quantity), standing.get(entry.date) ?? '0'));
      return compareDecimal(left, '0') > 0 ? [lessOf(entry, Number(left))] : [];
    });
    return { ...row, quantity: Number(plus(decimal(row.quantity), owed)), promised };
  });
  return { ...live.book, supply, demand };
}

/** What the line is promised without the route, on what stock and known supply give. */
export async function promisedWithout(db: Db, now: Now, route: RouteRow, line: OrderLineRecord, bound: BoundSupply | null): Promise<Undoing['after']> {
  const live = await loadBook(db, now, { items: [line.item], surely: line.order_id });
  const id = live.demandOfLine.get(line.id);
  if (id === undefined) return null;
  const { schedule, uncovered } = promiseBook(bookWithout(live, route, line, bound)).promises.find((row) => row.id === id)!;
  const days = new Map<string, string>();
  for (const { date, quantity } of schedule) days.set(date, plus(days.get(date) ?? '0', decimal(quantity)));
  return { schedule: [...days].map(([day, quantity]) => ({ day, quantity })), uncovered: decimal(uncovered) };
}

/** Whether the customer may know of what a route brought them: they were called about the line, or mailed about the order, since it was chosen. */
export async function toldSince(trx: Trx, route: RouteRow, orderId: OrderId): Promise<boolean> {
  if (route.made_at === null) return true;
  const call = await trx
    .selectFrom('customer_call')
    .select('id')
    .where('line_id', '=', route.line_id)
    .where('outcome', '=', 'told')
    .where('done_at', '>=', route.made_at)
    .executeTakeFirst();
  if (call) return true;
  const mail = await trx.selectFrom('mail').select('id').where('order_id', '=', orderId).where('made_at', '>=', route.made_at).executeTakeFirst();
  return mail !== undefined;
}
