import type { OrderId } from '@nockwright/core/ids';
import { compareDecimal, type Amount } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { issue } from './issue-invoice';
import { loadBillable } from './load-billable';
import { storePaid } from './payments';

/** Bills what has left of an order that was paid as it was taken along, and settles it. The order and its customer must be locked. */
export async function billPaid(
  context: CommandContext,
  order: OrderId,
  paid: { readonly method: 'cash' | 'card'; readonly amount: Amount; readonly reference: string },
): Promise<void> {
  const { trx, now } = context;
  // Who takes it along pays for no freight.
  await trx.updateTable('shipment').set({ freight_charge: null }).where('order_id', '=', order).execute();
  const shipments = await loadBillable(trx, sql`s.order_id = ${order}`);
  const { id, total } = await issue(context, shipments, { paid: true });
  if (compareDecimal(total, paid.amount) !== 0) throw new Refusal('changed', `It comes to ${total} by now, not ${paid.amount}. Nothing was paid: look again.`);
  await storePaid(context, shipments[0]!.customer, { ...paid, day: now.today, settled: [{ invoice: id, amount: total, discount: '0' }] });
}
