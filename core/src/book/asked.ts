import { requestedShipDay, type Asked } from '../orders';

/** The ship day a line asks for: its own or the order's day, run back by the transit where it is a delivery day. */
export function requestedDayOf(
  line: { readonly requested_day: string | null },
  order: { readonly order_day: string; readonly request_kind: string; readonly transit_days: number },
): string {
  return requestedShipDay(askedOf(line, order));
}

/** What a line asks for, as the core has it. */
export function askedOf(
  line: { readonly requested_day: string | null },
  order: { readonly order_day: string; readonly request_kind: string; readonly transit_days: number },
): Asked {
  return { day: line.requested_day ?? order.order_day, deliverBy: order.request_kind === 'deliver_by', transitDays: order.transit_days };
}
