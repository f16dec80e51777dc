import type { LineId, OrderId } from '@nockwright/core/ids';
import { noteLock, touchOrders } from '../locks';
import { minus, plus, sum } from '@nockwright/core/money';
import { type OpenLine, openQuantity } from '@nockwright/core/orders';
import type { Trx } from '../database';
import { changedSince } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { loadLineFacts, type LineFacts, type OrderLineRecord } from './load-order';

/** Locks an order for a change. With `version` the change is refused if someone else has changed it since. */
export async function lockOrder(trx: Trx, orderId: OrderId, version?: number) {
  const order = await trx.selectFrom('sales_order').selectAll().where('id', '=', orderId).forNoKeyUpdate().executeTakeFirst();
  if (!order) throw notFound(`order ${orderId}`);
  noteLock(trx, 'orders', orderId);
  if (version !== undefined && version !== order.version)
    throw await changedSince(trx, { kind: 'order', key: orderId, label: orderLabel(order), given: version, current: order.version });
  return order;
}

export async function lockDraft(trx: Trx, orderId: OrderId, version?: number) {
  const order = await lockOrder(trx, orderId, version);
  if (order.state !== 'draft') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}: only a draft can be changed so.`);
  return order;
}

export async function lockReleased(trx: Trx, orderId: OrderId, version?: number) {
  const order = await lockOrder(trx, orderId, version);
  if (order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}: this needs a released order.`);
  return order;
}

export function orderLabel(order: { readonly id: number; readonly number: string | null; readonly kind?: 'order' | 'quote' }): string {
  if (order.kind === 'quote') return order.number === null ? `Quote draft ${order.id}` : `Quote ${order.number}`;
  return order.number === null ? `Draft ${order.id}` : `Order ${order.number}`;
}

/** The order as events keep it. */
export function orderRef({ id, number, kind }: { readonly id: number; readonly number: string | null; readonly kind: 'order' | 'quote' }) {
  return { id, number, kind };
}

/** A quote as it is out: neither being written nor closed. */
export async function lockQuote(trx: Trx, orderId: OrderId, version: number, states: readonly ('draft' | 'quoted' | 'lost')[]) {
  const order = await lockOrder(trx, orderId, version);
  if (order.kind !== 'quote') throw new Refusal('conflict', `${orderLabel(order)} is no quote.`);
  if (!states.some((state) => state === order.state))
    throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}: this needs one that is ${states.join(' or ')}.`);
  return { ...order, valid_until: order.valid_until! };
}

/** Marks an order as changed now. */
export function touchOrder(context: CommandContext, orderId: OrderId): Promise<void> {
  return touchOrders(context, [orderId]);
}

/** Where the open quantity of a line stands. */
export function openLine(line: OrderLineRecord, facts: LineFacts): OpenLine {
  const of = <T extends { readonly line_id: LineId | null }>(rows: readonly T[]) => rows.filter((row) => row.line_id === line.id);
  const promises = of(facts.promises).map(({ day, quantity }) => ({ day, quantity }));
  const dropShipments = of(facts.dropShipments).map((row) => ({ purchaseLine: row.id, quantity: row.open }));
  const open = openQuantity(line);
  const placed = plus(sum(promises.map((row) => row.quantity)), sum(dropShipments.map((row) => row.quantity)));
  return {
    waiting: minus(open, placed),
    promises,
    picks: of(facts.picks).map((row) => ({ shipment: row.shipment_id, quantity: row.quantity })),
    dropShipments,
  };
}

export async function loadOpenLine(trx: Trx, line: OrderLineRecord): Promise<OpenLine> {
  return openLine(line, await loadLineFacts(trx, [line.id]));
}

/** The same of many lines, by id: what is known of each is looked up, not searched for. */
export function openLines(lines: readonly OrderLineRecord[], facts: LineFacts): Map<number, OpenLine> {
  const group = <T extends { readonly line_id: LineId | null }>(rows: readonly T[]) => {
    const found = new Map<number | null, T[]>();
    for (const row of rows) {
      const list = found.get(row.line_id);
      if (list) list.push(row);
      else found.set(row.line_id, [row]);
    }
    return (line: number) => found.get(line) ?? [];
  };
  const [promises, picks, dropShipments, routes] = [group(facts.promises), group(facts.picks), group(facts.dropShipments), group(facts.routes)];
  return new Map(
    lines.map((line) => [
      line.id,
      openLine(line, { promises: promises(line.id), picks: picks(line.id), dropShipments: dropShipments(line.id), routes: routes(line.id) }),
    ]),
  );
}
