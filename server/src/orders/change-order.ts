import type { OrderId } from '@nockwright/core/ids';
import type { BodyOf } from '@nockwright/contract/shape';
import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import type { Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { checkTerms } from '../customers';
import { checkCollisions } from './check-collisions';
import { checkPlace } from './check-place';
import { lockDraft, touchOrder } from './lock-order';
import { readOrder } from './read-order';

type Change = BodyOf<typeof orderRoutes.changeOrder>;

/** Changes the header of a draft. A new warehouse moves the lines that stood at the old one. */
export async function changeOrder(context: CommandContext, orderId: OrderId, change: Change): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId);
  await checkCollisions(trx, order, headFields(order), change);
  if (change.shipTo !== undefined) {
    const shipTo = await trx.selectFrom('ship_to').select('id').where('id', '=', change.shipTo).where('customer_id', '=', order.customer_id).executeTakeFirst();
    if (!shipTo) throw invalid('body.shipTo', `${change.shipTo} is no address of this customer`);
  }
  if (change.carrierService !== undefined) {
    const known = await trx.selectFrom('carrier_service').select('code').where('code', '=', change.carrierService).executeTakeFirst();
    if (!known) throw invalid('body.carrierService', `there is no carrier service ${change.carrierService}`);
  }
  if (change.contract !== undefined && change.contract !== null) await checkContract(trx, change.contract, order.customer_id, now.today);
  if (change.termsDays !== undefined && change.termsDays > order.terms_days) checkTerms(context, await termsOf(trx, order.customer_id), change.termsDays);
  if (change.validUntil !== undefined) checkValidity(order.kind, change.validUntil, now.today);
  await checkPlace(trx, 'body', change, now.today);
  const after = {
    ship_to_id: change.shipTo ?? order.ship_to_id,
    po_number: change.poNumber ?? order.po_number,
    request_kind: change.requestKind ?? order.request_kind,
    requested_day: change.requestedDay ?? order.requested_day,
    warehouse: change.warehouse ?? order.warehouse,
    ship_complete: change.shipComplete ?? order.ship_complete,
    most_shipments: change.mostShipments === undefined ? order.most_shipments : change.mostShipments,
    terms_days: change.termsDays ?? order.terms_days,
    description: change.description ?? order.description,
    carrier_service: change.carrierService ?? order.carrier_service,
    source: change.source ?? order.source,
    note: change.note ?? order.note,
    contract_id: change.contract === undefined ? order.contract_id : change.contract,
    valid_until: change.validUntil ?? order.valid_until,
  };
  await trx.updateTable('sales_order').set(after).where('id', '=', orderId).execute();
  if (after.warehouse !== order.warehouse) {
    await trx.updateTable('order_line').set({ warehouse: after.warehouse }).where('order_id', '=', orderId).where('warehouse', '=', order.warehouse).execute();
  }
  await touchOrder(context, orderId);
  const before = Object.fromEntries(Object.keys(after).map((key) => [key, order[key as keyof typeof after]]));
  await recordEvent(context, { kind: 'header.changed', facts: { id: orderId }, before, after, subjects: [{ kind: 'order', key: orderId }] });
  return readOrder(trx, now, orderId);
}

/** The head as the wire names its fields. */
function headFields(order: Awaited<ReturnType<typeof lockDraft>>) {
  return {
    shipTo: order.ship_to_id,
    poNumber: order.po_number,
    requestKind: order.request_kind,
    requestedDay: order.requested_day,
    warehouse: order.warehouse,
    shipComplete: order.ship_complete,
    mostShipments: order.most_shipments,
    termsDays: order.terms_days,
    description: order.description,
    carrierService: order.carrier_service,
    contract: order.contract_id,
    source: order.source,
    note: order.note,
    validUntil: order.valid_until,
  };
}

async function termsOf(trx: Trx, customer: number): Promise<number> {
  return (await trx.selectFrom('customer').select('terms_days').where('id', '=', customer).executeTakeFirstOrThrow()).terms_days;
}

function checkValidity(kind: 'order' | 'quote', day: string, today: string) {
  if (kind !== 'quote') throw invalid('body.validUntil', 'an order has no last day: only a quote is valid until one');
  if (day < today) throw invalid('body.validUntil', `${day} has passed; expected ${today} or later`);
}

/** A contract may be named where the customer is on it and it is in force. */
async function checkContract(trx: Trx, contract: number, customer: number, today: string) {
  const row = await trx
    .selectFrom('contract')
    .innerJoin('contract_customer', 'contract_customer.contract_id', 'contract.id')
    .select(['number', 'first_day', 'last_day'])
    .where('contract.id', '=', contract)
    .where('customer_id', '=', customer)
    .executeTakeFirst();
  if (!row) throw invalid('body.contract', `this customer has no contract ${contract}`);
  if (today < row.first_day) throw invalid('body.contract', `${row.number} begins ${shortDay(row.first_day, today)}`);
  if (today > row.last_day) throw invalid('body.contract', `${row.number} ended ${shortDay(row.last_day, today)}`);
}
