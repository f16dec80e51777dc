import type { CustomerId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import { CARRIER_WEEK, dayNumber, isoDay } from '@nockwright/core/calendar';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { readOrder } from './read-order';

/** Days from entry to the day asked for, until the customer says another. */
const USUAL_DAYS = 2;
/** Days a quote binds, until another day is set. */
export const QUOTE_DAYS = 14;

/** Starts a draft of an order or a quote; the header is filled from the customer's record. A prospect is quoted first. */
export async function createOrder(context: CommandContext, customerId: CustomerId, kind: OrderView['kind'] = 'order'): Promise<OrderView> {
  const { trx, now, user } = context;
  const customer = await trx.selectFrom('customer').selectAll().where('id', '=', customerId).executeTakeFirst();
  if (!customer) throw invalid('body.customer', `there is no customer ${customerId}`);
  if (customer.prospect && kind === 'order') throw invalid('body.kind', `${customer.name} is a prospect: quote them, or make them a customer first`);
  const shipTo = await trx.selectFrom('ship_to').select('id').where('customer_id', '=', customerId).orderBy('id').limit(1).executeTakeFirst();
  if (!shipTo) throw invalid('body.customer', `${customer.name} has no ship-to address`);
  const { id } = await trx
    .insertInto('sales_order')
    .values({
      kind,
      valid_until: kind === 'quote' ? isoDay(dayNumber(now.today) + QUOTE_DAYS) : null,
      number: null,
      customer_id: customerId,
      ship_to_id: shipTo.id,
      request_kind: 'ship_by',
      requested_day: isoDay(CARRIER_WEEK.offset(CARRIER_WEEK.ceil(dayNumber(now.today)), USUAL_DAYS)),
      warehouse: customer.warehouse,
      carrier_service: customer.carrier_service,
      ship_complete: customer.delivery_rule === 'complete',
      most_shipments: customer.most_shipments,
      terms_days: customer.terms_days,
      source: 'phone',
      priority: customer.priority,
      entered: now.localTime,
      saved_at: now.instant,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await recordEvent(context, {
    kind: 'draft.started',
    facts: { kind, id, customer: customer.name },
    after: { customer: customer.number, by: user.login },
    subjects: [
      { kind: 'order', key: id },
      { kind: 'customer', key: customerId },
    ],
  });
  return readOrder(trx, now, id);
}
