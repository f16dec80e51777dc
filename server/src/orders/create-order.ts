import type { OrderView } from '@nockwright/contract/orders';
import { dayNumber, isoDay } from '@nockwright/core/calendar';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { CARRIER_WEEK } from '@nockwright/core/orders';
import { readOrder } from './read-order';

/** Days from entry to the day asked for, until the customer says another. */
const USUAL_DAYS = 2;

/** Starts a draft; the header is filled from the customer's record. */
export async function createOrder(context: CommandContext, customerId: number): Promise<OrderView> {
  const { trx, now, user } = context;
  const customer = await trx.selectFrom('customer').selectAll().where('id', '=', customerId).executeTakeFirst();
  if (!customer) throw invalid('body.customer', `there is no customer ${customerId}`);
  const shipTo = await trx.selectFrom('ship_to').select('id').where('customer_id', '=', customerId).orderBy('id').limit(1).executeTakeFirst();
  if (!shipTo) throw invalid('body.customer', `${customer.name} has no ship-to address`);
  const { id } = await trx
    .insertInto('sales_order')
    .values({
      number: null,
      customer_id: customerId,
      ship_to_id: shipTo.id,
      request_kind: 'ship_by',
      requested_day: isoDay(CARRIER_WEEK.offset(CARRIER_WEEK.ceil(dayNumber(now.today)), USUAL_DAYS)),
      warehouse: customer.warehouse,
      carrier_service: customer.carrier_service,
      ship_complete: customer.delivery_rule === 'complete',
      source: 'phone',
      priority: customer.priority,
      entered: now.localTime,
      saved_at: now.instant,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await recordEvent(context, {
    what: `started draft ${id} for ${customer.name}`,
    after: { customer: customer.number, by: user.login },
    subjects: [
      { kind: 'order', key: id },
      { kind: 'customer', key: customerId },
    ],
  });
  return readOrder(trx, now, id);
}
