import type { OrderView } from '@nockwright/contract/orders';
import type { IsoDay } from '@nockwright/core/calendar';

/** What should happen next with a released order. */
export type NextAct =
  | { readonly does: 'ship' }
  /** Its promise hangs on a purchase that is still a draft. */
  | { readonly does: 'send'; readonly purchase: number; readonly number: string }
  /** Nothing can leave before that day; null: no day is known. */
  | { readonly does: 'wait'; readonly until: IsoDay | null };

/** Goods that can leave today are shipped; a draft purchase that it waits for is sent; else it waits for its first day. */
export function nextAct(order: Pick<OrderView, 'lines' | 'shipments'>, today: IsoDay): NextAct {
  const open = order.lines.filter((line) => line.state !== 'done');
  const entries = open.flatMap((line) => line.schedule.filter((entry) => entry.kept && !entry.broken));
  const days = entries.map((entry) => entry.arrives ?? entry.day).sort();
  const picking = order.shipments.some((shipment) => shipment.state === 'picking');
  if (picking || entries.some((entry) => !entry.dropShip && (entry.arrives ?? entry.day) <= today)) return { does: 'ship' };
  const draft = open.flatMap((line) =>
    line.routes.flatMap(({ document }) => (document?.kind === 'purchase' && document.state === 'draft' ? [document] : [])),
  )[0];
  if (draft) return { does: 'send', purchase: draft.id, number: draft.number };
  return { does: 'wait', until: days[0] ?? null };
}
