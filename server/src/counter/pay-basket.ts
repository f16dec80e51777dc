import type { OrderId } from '@nockwright/core/ids';
import { compareDecimal, minus } from '@nockwright/core/money';
import type { BasketView, counterRoutes } from '@nockwright/contract/counter';
import type { BodyOf } from '@nockwright/contract/shape';
import { billPaid } from '../billing';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { attachFile, readOrder, releaseOrder } from '../orders';
import { heldSerials, pickSerials } from '../serials';
import { leave, startPick } from '../shipping';
import { chargeCard } from '../stand-ins';
import { lockBasket, lockHeld, readBasket } from './baskets';

type Pay = BodyOf<typeof counterRoutes.payBasket>;

/**
 * Takes the payment of a basket, and the goods leave: the order is released, what was held is picked from where it was held, and shipped. All of it
 * or nothing. What is paid at once is billed at once; on account it is billed as any shipment.
 */
export async function payBasket(context: CommandContext, order: OrderId, { version, method, given, signature }: Pay): Promise<BasketView> {
  const { trx, now, user } = context;
  const warehouse = await lockBasket(trx, order);
  const basket = await readBasket(trx, order);
  if (basket.version !== version) throw new Refusal('changed', 'The basket has changed meanwhile. Nothing was paid: look again, then take the payment.');
  if (basket.lines.length === 0) throw new Refusal('conflict', 'The basket is empty.');
  if (method === 'account' && basket.cash) throw new Refusal('conflict', 'A cash sale has no account. Take cash or a card.');
  const handed = method === 'cash' ? (given ?? basket.total) : basket.total;
  if (compareDecimal(handed, basket.total) < 0) throw invalid('body.given', `${minus(basket.total, handed)} ${basket.currency} are missing`);
  // What a release locks comes before pools in the lock order.
  const lines = await trx.selectFrom('order_line').select('contract_line_id').where('order_id', '=', order).execute();
  await takeLocks(trx, { customers: [basket.customerId], contractLines: lines.map((line) => line.contract_line_id) });
  await lockHeld(trx, order);
  const held = await trx.selectFrom('counter_hold').select(['line_id as key', 'place_id as place', 'quantity']).where('order_id', '=', order).execute();
  const pieces = await heldSerials(trx, order);
  await trx.deleteFrom('counter_hold').where('order_id', '=', order).execute();
  const draft = await readOrder(trx, now, order);
  const released = await releaseOrder(
    context,
    order,
    draft.version,
    draft.lines.map((line) => ({ line: line.id, schedule: line.schedule.map(({ day, quantity }) => ({ day, quantity })), uncovered: line.uncovered })),
  );
  if (released.state !== 'released')
    throw new Refusal(
      'conflict',
      `This order is held: ${released.holds.map((hold) => hold.why).join('. ')}. Take another way to pay, or ask whoever may release it.`,
    );
  const pick = await startPick(context, { order, warehouse, lines: released.lines.map((line) => ({ line: line.id, quantity: line.stockQuantity })) }, held);
  await pickSerials(trx, pick.consignment!, pieces);
  await leave(context, pick.consignment!, '', undefined, false);
  await storePayment(context, order, basket, method, handed);
  if (signature) await attachFile(context, order, 'signature.png', signature);
  await trx.updateTable('counter_basket').set({ state: 'paid' }).where('order_id', '=', order).execute();
  await recordEvent(context, {
    kind: 'counter.paid',
    facts: { number: released.number!, method, amount: basket.total, currency: basket.currency },
    after: { by: user.login },
    subjects: [
      { kind: 'order', key: order },
      { kind: 'customer', key: basket.customerId },
    ],
  });
  return readBasket(trx, order);
}

async function storePayment(context: CommandContext, order: OrderId, basket: BasketView, method: Pay['method'], given: string): Promise<void> {
  const { trx, now, user } = context;
  let reference = '';
  if (method === 'card') {
    const answer = chargeCard(basket.total, String(order));
    if (!answer.approved) throw new Refusal('conflict', `The card was not charged: ${answer.why}. Take another card, or cash.`);
    reference = answer.reference;
  }
  await trx
    .insertInto('counter_payment')
    .values({ order_id: order, method, amount: basket.total, given, reference, at: now.instant, taken_by: user.id })
    .execute();
  // Paid at once: it is billed at once, and nothing of it is owed.
  if (method !== 'account') await billPaid(context, order, { method, amount: basket.total, reference });
}
