import type { ItemCode, PurchaseLineId, WarehouseCode } from '@nockwright/core/ids';
import type { Cause, Dealing } from '@nockwright/contract/history';
import { compareDecimal, minus, plus } from '@nockwright/core/money';
import { promiseBook } from '@nockwright/core/promise';
import { sql } from 'kysely';
import type { Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { callThoseLater, decimal, loadBook, storeRemains, toldParts } from '../promise';
import { touchPurchase } from './load-purchase';
import { changedTo, planOfSupply, supplyIdOf } from './supply-plan';

/** Why it is done: the reason a person gave, or what brought it about. */
export interface Because {
  readonly why?: string;
  readonly cause?: Cause;
}

/**
 * Closes `quantity` of what is still awaited of a purchase line. Promises that lose their goods by it cannot stand:
 * they wait again, each with an entry in its order's history. The purchase order and the pool must be locked. Gives what
 * was done, in words.
 */
export async function closeOpenQuantity(context: CommandContext, purchaseLineId: PurchaseLineId, quantity: string, because: Because): Promise<Dealing[]> {
  const { trx } = context;
  const { why, cause } = because;
  const line = await trx
    .selectFrom('purchase_line')
    .innerJoin('purchase_order', 'purchase_order.id', 'purchase_line.purchase_id')
    .leftJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .selectAll('purchase_line')
    .select(['purchase_order.number', 'order_line.order_id'])
    .where('purchase_line.id', '=', purchaseLineId)
    .executeTakeFirstOrThrow();
  const dealt: Dealing[] = [];
  const facts = { number: line.number, lineNo: line.line_no, item: line.item, quantity };
  if (line.warehouse !== null && line.firm) {
    const rest = minus(minus(minus(line.quantity, line.received), line.closed), quantity);
    const pool = { item: line.item, warehouse: line.warehouse };
    dealt.push(
      ...(await loseSupply(context, pool, supplyIdOf(line.number, line), rest, cause ?? { kind: 'purchase.closed', facts, ...(why ? { note: why } : {}) })),
    );
  }
  await shrinkRoute(trx, 'purchase_line_id', purchaseLineId, quantity);
  await trx
    .updateTable('purchase_line')
    .set({ closed: plus(line.closed, quantity) })
    .where('id', '=', purchaseLineId)
    .execute();
  await touchPurchase(trx, line.purchase_id);
  await recordEvent(context, {
    kind: 'purchase.closed',
    facts,
    ...because,
    before: { closed: line.closed },
    after: { closed: plus(line.closed, quantity) },
    subjects: [
      { kind: 'purchase', key: line.purchase_id },
      { kind: 'item', key: line.item },
      ...(line.order_id === null ? [] : [{ kind: 'order' as const, key: line.order_id }]),
    ],
  });
  return [{ did: 'closed', quantity, purchase: line.number }, ...dealt];
}

/**
 * Takes promises back that lose their goods when only `rest` is left of a supply that is still awaited: they wait again,
 * each with an entry in its order's history and a call to its customer. The pool must be locked; the supply itself is not
 * changed here.
 */
export async function loseSupply(
  context: CommandContext,
  { item, warehouse }: { readonly item: ItemCode; readonly warehouse: WarehouseCode },
  supplyId: string,
  rest: string,
  cause: Cause,
): Promise<Dealing[]> {
  const live = await loadBook(context.trx, context.now, { items: [item] });
  const { after } = planOfSupply(live, new Map([[supplyId, changedTo(undefined, rest)]]));
  const dealt: Dealing[] = [];
  const lost = promiseBook(after).atRisk.flatMap((row) => {
    const info = live.demands.get(row.id)!;
    return row.arrives === null && info.item === item && info.warehouse === warehouse ? [{ info, date: row.date, quantity: decimal(row.quantity) }] : [];
  });
  const lines = new Map(lost.map(({ info }) => [info.lineId, info]));
  const told = await toldParts(context.trx, [...lines.keys()]);
  for (const { info, date, quantity } of lost) {
    await takeBack(context, info.lineId, date, quantity);
    dealt.push({ did: 'waits', quantity, order: info.orderNumber, lineNo: info.lineNo });
    await recordEvent(context, {
      kind: 'promise.lost',
      facts: { lineNo: info.lineNo, item: info.item, quantity, day: date },
      cause,
      subjects: [{ kind: 'order', key: info.orderId }],
    });
  }
  await callThoseLater(
    context,
    [...lines.values()].map((info) => ({ order: info.orderId, line: info.lineId, item: info.item, told: told.get(info.lineId) ?? [], givenUp: '0' })),
    cause,
  );
  return dealt;
}

/** A route for which less comes is for so much less; gone where nothing is left of it. */
export async function shrinkRoute(trx: Trx, column: 'purchase_line_id' | 'transfer_line_id' | 'assembly_id', id: number, quantity: string): Promise<void> {
  await trx.deleteFrom('line_route').where(column, '=', id).where('quantity', '<=', quantity).execute();
  await trx
    .updateTable('line_route')
    .set({ quantity: sql`quantity - ${quantity}::numeric` })
    .where(column, '=', id)
    .execute();
}

/** Takes `quantity` off what is promised on the day the book read as `day`: the stored days are on or before it, or have passed. */
async function takeBack({ trx }: CommandContext, lineId: number, day: string, quantity: string) {
  const told = await trx.selectFrom('line_promise').select(['day', 'quantity']).where('line_id', '=', lineId).orderBy('day', 'desc').execute();
  // The book reads a promised day that has passed, or is no working day, as another: take that day's first, then the latest.
  const ordered = [...told.filter((row) => row.day === day), ...told.filter((row) => row.day !== day)];
  let missing = quantity;
  for (const row of ordered) {
    if (compareDecimal(missing, '0') <= 0) return;
    const cut = compareDecimal(missing, row.quantity) < 0 ? missing : row.quantity;
    await storeRemains(trx, [{ line: lineId, day: row.day, remains: minus(row.quantity, cut) }]);
    missing = minus(missing, cut);
  }
}
