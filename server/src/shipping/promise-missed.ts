import { firstShipDay, type IsoDay } from '@nockwright/core/calendar';
import type { ItemCode, LineId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { afterMissedDay } from '@nockwright/core/shipping';
import type { MissedReply } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { loadLocked, loadWarehouses, settleMoves } from '../promise';

interface Row {
  readonly lineId: LineId;
  readonly lineNo: number;
  readonly orderId: OrderId;
  readonly orderNumber: string;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly promises: readonly { readonly day: IsoDay; readonly quantity: Quantity }[];
}

/**
 * Promises what of some orders has missed its day anew, for the first day that it can leave, and notes a call for each customer who was told.
 * Goods stay theirs: nobody else moves. What is not given here keeps its day, and stays late until it leaves.
 */
export async function promiseMissed(context: CommandContext, orders: readonly OrderId[]): Promise<MissedReply> {
  const { trx, now } = context;
  await takeLocks(trx, { orders });
  const items = [...new Set((await loadMissed(trx, now, orders)).map(({ row }) => row.item))];
  if (items.length === 0) throw new Refusal('conflict', 'Nothing of these orders has missed its day.');
  await loadLocked(context, items);
  const moves = await loadMissed(trx, now, orders);
  await settleMoves(
    context,
    moves.map(({ row, after }) => ({ info: row, after })),
    { kind: 'day.missed', facts: {} },
  );
  return {
    moved: moves.map(({ row, first }) => ({ order: row.orderId, number: row.orderNumber, line: row.lineId, lineNo: row.lineNo, item: row.item, day: first })),
  };
}

/** Lines of orders that have missed a day, with what they are promised once they are promised anew. */
async function loadMissed(db: Db, now: Now, orders: readonly OrderId[]) {
  const first = new Map((await loadWarehouses(db)).map((row) => [row.code, firstShipDay(row.book, now.localTime)]));
  const { rows } = await sql<Row>`
    select l.id as "lineId", l.line_no as "lineNo", o.id as "orderId", o.number as "orderNumber", l.item, l.warehouse,
      json_agg(json_build_object('day', p.day::text, 'quantity', trim_scale(p.quantity)::text) order by p.day) as promises
    from order_line l join sales_order o on o.id = l.order_id join line_promise p on p.line_id = l.id
    where ${anyOf('o.id', orders)} and o.state = 'released' group by l.id, o.id order by o.id, l.line_no`.execute(db);
  return rows.flatMap((row) => {
    const day = first.get(row.warehouse);
    const after = day === undefined ? null : afterMissedDay(row.promises, day);
    return day === undefined || after === null ? [] : [{ row, first: day, after }];
  });
}
