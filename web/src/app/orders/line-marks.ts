import type { LineView, OrderView } from '@nockwright/contract/orders';

/** Something asks less for the same goods: the customer's list, or another unit. */
export function asksLess(line: LineView): boolean {
  return line.priceTrail.some((step) => step.lower);
}

/** The line leaves less than the floor margin of the order. */
export function isBelow(line: LineView, { floor }: OrderView): boolean {
  return floor !== null && line.marginPercent !== null && Number(line.marginPercent) < Number(floor);
}

/** What has become of a line so far, after its unit: `, 20 shipped`. */
export function progress(line: LineView): string {
  if (Number(line.shipped) > 0) return `, ${line.shipped} shipped`;
  if (Number(line.cancelled) > 0) return `, ${line.cancelled} cancelled`;
  return Number(line.picking) > 0 ? `, ${line.picking} picking` : '';
}
