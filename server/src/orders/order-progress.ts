import type { LineView, OrderView } from '@nockwright/contract/orders';
import { compareDecimal, plus } from '@nockwright/core/money';
import type { OrderRecord } from './load-order';
import { type Quote, quoteStanding } from '@nockwright/core/orders';

/** How far an order has come, in a word, from its quantities. */
export function progressOf(
  state: OrderRecord['state'],
  lines: readonly Pick<LineView, 'stockQuantity' | 'shipped' | 'cancelled' | 'picking' | 'waiting'>[],
  /** All that was shipped is on an invoice. */
  billed: boolean,
): string {
  if (state !== 'released') return state;
  const above = (pick: (line: (typeof lines)[number]) => string) => lines.some((line) => compareDecimal(pick(line), '0') > 0);
  const open = lines.some((line) => compareDecimal(plus(line.shipped, line.cancelled), line.stockQuantity) < 0);
  if (!open) return above((line) => line.shipped) ? (billed ? 'billed' : 'shipped') : 'cancelled';
  if (above((line) => line.picking)) return 'picking';
  if (above((line) => line.shipped)) return 'part shipped';
  return above((line) => line.waiting) ? 'part backordered' : 'promised';
}

/** How a quote stands, or how far an order has come. */
export function progressOfOrder(order: OrderRecord, views: readonly LineView[], shipments: OrderView['shipments'], today: string): string {
  if (order.kind === 'order') return progressOf(order.state, views, isBilled(shipments));
  const state = order.state as Quote['state'];
  return quoteStanding({ state, validUntil: order.valid_until!, lines: views }, today);
}

export function isBilled(shipments: OrderView['shipments']): boolean {
  const shipped = shipments.filter((shipment) => shipment.state === 'shipped');
  return shipped.length > 0 && shipped.every((shipment) => shipment.invoice !== null);
}
