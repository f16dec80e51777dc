import { type Quantity, compareDecimal, least, minus, plus, type Decimal } from '../money';
import { openQuantity } from './open-quantity';

export interface PromisedDay {
  readonly day: string;
  readonly quantity: Quantity;
}

/**
 * What remains promised when `quantity` of a line leaves: the earliest promises are met first. Gives the days that
 * change with what remains of each; 0 where nothing does.
 */
export function meetPromises(promises: readonly PromisedDay[], quantity: Quantity): { readonly day: string; readonly remains: Decimal }[] {
  const changed: { day: string; remains: Decimal }[] = [];
  let missing = quantity;
  for (const { day, quantity: promised } of [...promises].sort((a, b) => (a.day < b.day ? -1 : 1))) {
    if (compareDecimal(missing, '0') <= 0) break;
    const met = least(missing, promised);
    changed.push({ day, remains: minus(promised, met) });
    missing = minus(missing, met);
  }
  return changed;
}

/** A line of which goods leave. Quantities in stocking units. */
export interface LeavingLine {
  readonly stockQuantity: Quantity;
  readonly shipped: Quantity;
  readonly cancelled: Quantity;
  /** Come in for this line alone, and still here. */
  readonly reserved: Quantity;
  readonly promises: readonly PromisedDay[];
}

/** How a line stands when so much of it has left: what came in for it leaves first, and its earliest promises are met first. */
export function shipLine(
  { stockQuantity, shipped, cancelled, reserved, promises }: LeavingLine,
  leaves: Decimal,
): { readonly shipped: Quantity; readonly reserved: Quantity; readonly remains: ReturnType<typeof meetPromises> } {
  const gone = plus(shipped, leaves);
  const open = openQuantity({ stock_quantity: stockQuantity, shipped: gone, cancelled });
  const kept = compareDecimal(reserved, leaves) > 0 ? minus(reserved, leaves) : '0';
  return { shipped: gone, reserved: least(open, kept), remains: meetPromises(promises, leaves) };
}
