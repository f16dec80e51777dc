import type { OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import { storePaper } from '../documents';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { lockOrder, orderLabel, orderRef } from './lock-order';
import { readOrder } from './read-order';

/** Makes a pro forma of an order or a quote as it stands, for prepayment or customs. */
export async function makeProForma(context: CommandContext, orderId: OrderId): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state === 'discarded' || order.state === 'lost') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const view = await readOrder(trx, now, orderId);
  if (view.lines.length === 0) throw invalid('body', 'the order has no lines');
  await storePaper(context, 'pro_forma', view);
  await recordEvent(context, {
    kind: 'pro_forma.made',
    facts: { order: orderRef(order), amount: view.amount, currency: view.currency },
    subjects: [{ kind: 'order', key: orderId }],
  });
  return readOrder(trx, now, orderId);
}
