import type { LineId, OrderId } from '@nockwright/core/ids';
import { takeLocks } from '../locks';
import type { OrderView } from '@nockwright/contract/orders';
import { compareDecimal } from '@nockwright/core/money';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { promiseMore } from '../promise';
import { loadOrderLines } from './load-order';
import { loadOpenLine, lockReleased, touchOrder } from './lock-order';
import { readOrder } from './read-order';

/** Promises what waits of a line on the days now possible. Refused where no supply is free for it. */
export async function promiseRest(context: CommandContext, orderId: OrderId, lineId: LineId): Promise<OrderView> {
  const { trx, now } = context;
  await lockReleased(trx, orderId);
  const known = (await loadOrderLines(trx, orderId)).find((row) => row.id === lineId);
  if (!known) throw notFound(`line ${lineId} on this order`);
  await takeLocks(trx, { pools: [known] });
  const promises = await promiseMore(context, known);
  if (promises.length === 0)
    throw new Refusal('conflict', `Nothing of ${known.item} is free for line ${known.line_no} at ${known.warehouse}, on hand or inbound.`);
  const { waiting } = await loadOpenLine(trx, known);
  if (compareDecimal(waiting, '0') === 0) await trx.deleteFrom('line_route').where('line_id', '=', lineId).where('kind', '=', 'backorder').execute();
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'line.promised',
    facts: { lineNo: known.line_no, item: known.item, schedule: promises.map(({ day, quantity }) => ({ day, quantity })) },
    after: promises.map(({ day, quantity }) => ({ day, quantity })),
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: known.item },
    ],
  });
  return readOrder(trx, now, orderId);
}
